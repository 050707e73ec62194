import { fanNeeded, fixed, judgeLoad, minutesOfLoad, type Carry, type LineUpSide, type LoadVerdict } from '@red-ember/core';
import type { CarriedLoadBody, JudgingBody, StudyBody } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField, TextField } from '../../ui/Field.tsx';
import { Section } from '../../ui/Section.tsx';

const VERDICTS: Record<LoadVerdict, string> = {
  carries: 'carries',
  'with-a-cap': 'with a cap',
  'does-not': 'does not',
  'no-call': 'no call',
};
const TONES: Record<LoadVerdict, string> = {
  carries: 'text-quench-text',
  'with-a-cap': 'text-ochre-text',
  'does-not': 'text-ember-text',
  'no-call': 'text-soft',
};

function LoadCell({ load, made, side, airC }: { load: CarriedLoadBody; made: Carry; side: LineUpSide; airC: number }) {
  const { text } = useDegrees();
  const { binding } = made;
  if (!binding?.maxW || !(load.powerW > 0)) return <span className="text-soft">cannot be said</span>;
  const judged = judgeLoad(load.powerW, binding.maxW, binding.doubtW);
  const minutes = judged.verdict === 'carries' ? null : minutesOfLoad(load.powerW, binding, side, airC);
  return (
    <>
      <b className={`font-semibold ${TONES[judged.verdict]}`}>{VERDICTS[judged.verdict]}</b>
      {judged.capW === null ? (
        ''
      ) : (
        <span className="text-soft">
          {' '}
          {judged.verdict === 'no-call' ? 'sure up to' : 'at'} {judged.capW} W
        </span>
      )}
      {minutes === null ? null : (
        <span className="block text-[0.87rem] text-soft">
          {text(`from cold, passes ${binding.limitC} °C`)} after about {fixed(minutes, 0)} min
        </span>
      )}
    </>
  );
}

/** The loads of a study and what becomes of each, in either air; typed anew, judged anew. */
export function CarriedLoads({
  judging,
  change,
  airs,
  side,
}: {
  judging: JudgingBody;
  change: (judging: JudgingBody) => void;
  airs: { name: string; made: Carry; airC: number }[];
  side: LineUpSide;
}) {
  const put = (i: number, load: Partial<CarriedLoadBody>) =>
    change({ ...judging, loads: judging.loads.map((old, k) => (k === i ? { ...old, ...load } : old)) });
  return (
    <Section
      title="What will be asked of it"
      action={
        <Button
          onClick={() =>
            change({
              ...judging,
              loads: [...judging.loads, { id: crypto.randomUUID(), name: `Load ${judging.loads.length + 1}`, powerW: 65 }],
            })
          }
        >
          Add a load
        </Button>
      }
    >
      {judging.loads.length === 0 ? (
        <p className="text-soft">Add the processors, cards or kinds of work that are to run on it, with their watts.</p>
      ) : (
        <table className="plain-table">
          <thead>
            <tr>
              <th>Load</th>
              <th>power</th>
              {airs.map(({ name }) => (
                <th key={name}>{name}</th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {judging.loads.map((load, i) => (
              <tr key={load.id}>
                <td>
                  <TextField
                    hideLabel
                    label={`Name of load ${i + 1}`}
                    pointer={`/judging/loads/${i}/name`}
                    value={load.name}
                    onChange={(name) => put(i, { name })}
                  />
                </td>
                <td className="w-32">
                  <NumberField
                    hideLabel
                    label={`Power of ${load.name}`}
                    unit="W"
                    pointer={`/judging/loads/${i}/powerW`}
                    value={load.powerW}
                    onChange={(powerW) => put(i, { powerW })}
                  />
                </td>
                {airs.map(({ name, made, airC }) => (
                  <td key={name}>
                    <LoadCell load={load} made={made} side={side} airC={airC} />
                  </td>
                ))}
                <td className="text-right">
                  <Button
                    look="quiet"
                    aria-label={`Remove ${load.name}`}
                    onClick={() => change({ ...judging, loads: judging.loads.filter((_, k) => k !== i) })}
                  >
                    Remove
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}

/** How far the fans have to be turned up for each load, by the variant's own sweep. */
export function FanNeeded({ body, side, judging, marginK }: { body: StudyBody; side: LineUpSide; judging: JudgingBody; marginK: number }) {
  const rows = judging.loads.flatMap((load) => {
    const need = fanNeeded(side, body.spots, load.powerW, body.enclosure.airC, marginK);
    return need ? [{ load, need }] : [];
  });
  if (rows.length === 0) return null;
  return (
    <Section title="Fan needed" hint={`in the ${body.enclosure.name}, by this variant’s own sweep, never beyond its ends`}>
      <ul className="grid gap-1">
        {rows.map(({ load, need }) => (
          <li key={load.id}>
            <b className="font-semibold">{load.name}</b>:{' '}
            {need.duty === null
              ? 'not even the fullest of the sweep is enough'
              : `${need.what.toLowerCase()} at ${fixed(need.duty, 0)} or more`}
          </li>
        ))}
      </ul>
    </Section>
  );
}
