import { Link } from 'react-router';
import { callWords, capital, fixed, measured, signed, type SideReading, type SpotJudgement } from '@red-ember/core';
import { type PairVerdict, type Run, type Study } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { Dialogue } from '../../ui/Dialogue.tsx';

/** A dof of Infinity is null in JSON. */
const dofWords = (dof: number | null) => (dof === null || dof === Infinity ? 'known for certain' : fixed(dof, 1));

function Shares({ title, lines }: { title: string; lines: { name: string; share: number }[] }) {
  return (
    <section>
      <h3 className="mb-1 font-semibold">{title}</h3>
      <ul className="grid gap-1">
        {lines.map((line) => (
          <li key={line.name} className="grid grid-cols-[minmax(0,14rem)_minmax(0,1fr)_3rem] items-center gap-3">
            <span>{line.name}</span>
            <span className="h-2 bg-rule">
              <span className="block h-2 bg-stone" style={{ width: `${100 * line.share}%` }} />
            </span>
            <span className="text-right">{fixed(100 * line.share, 0)} %</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function ReadingRow({ reading, run, side, study }: { reading: SideReading; run: Run | undefined; side: string; study: Study }) {
  const degrees = useDegrees();
  const shown = study.rules.basis === 'rise' ? degrees.step : degrees.temp;
  const { figure, n, nEffective } = reading;
  return (
    <tr>
      <td>
        {run ? <Link to={`/studies/${run.studyId}/read?run=${run.id}`}>run {run.number}</Link> : 'a run'}, {side}
      </td>
      <td className="num">{fixed(shown(figure.value), 2)}</td>
      <td className="num">{fixed(degrees.step(figure.u), 3)}</td>
      <td className="num">
        {fixed(nEffective, 0)} of {n}
      </td>
      <td>{study.spots.find((spot) => spot.id === reading.spotId)?.name ?? ''}</td>
    </tr>
  );
}

/** The method, its inputs and what lies between them and the call. */
export function HowWorkedOut({
  study,
  verdict,
  runs,
  spot,
  asked,
  onClose,
}: {
  study: Study;
  verdict: PairVerdict;
  runs: Run[];
  spot: SpotJudgement;
  /** How the figures were asked for otherwise than they stand, in words. */
  asked: string;
  onClose: () => void;
}) {
  const name = definitionOf(study, spot.spotId)?.name ?? '';
  const { judgement } = verdict;
  const used = (['a', 'b'] as const).flatMap((key) =>
    (spot[key]?.readings ?? []).map((reading) => ({ reading, side: judgement[key].name })),
  );
  const { comparison } = spot;
  // What lies between the figures as they were read and the difference: said, lest somebody subtract the two and find another.
  const asRead = spot.a && spot.b ? spot.b.figure.value - spot.a.figure.value : null;
  const movedK = comparison && asRead !== null ? comparison.difference.value - asRead : 0;
  const { text, tempUnit, stepUnit } = useDegrees();
  const unit = study.rules.basis === 'rise' ? stepUnit : tempUnit;
  return (
    <Dialogue open onClose={onClose} title={`${name}: how the call was worked out`} wide>
      <div className="grid gap-6 text-[0.95rem]">
        {asked ? <b className="font-semibold text-ochre-text">Figures {asked}.</b> : null}
        <table className="plain-table">
          <thead>
            <tr>
              <th>Run</th>
              <th className="num">figure, {unit}</th>
              <th className="num">u, {stepUnit}</th>
              <th className="num">samples that count</th>
              <th>read at</th>
            </tr>
          </thead>
          <tbody>
            {used.map(({ reading, side }) => (
              <ReadingRow
                key={`${side} ${reading.runId}`}
                reading={reading}
                run={runs.find((run) => run.id === reading.runId)}
                side={side}
                study={study}
              />
            ))}
          </tbody>
        </table>
        {comparison ? (
          <>
            <p>
              Difference {judgement.b.name} − {judgement.a.name}:{' '}
              <b>{text(measured(comparison.difference.value, comparison.budget.expanded, 'K', { sign: true }))}</b>. Standard uncertainty{' '}
              {text(`${fixed(comparison.difference.u, 3)} K`)}, degrees of freedom {dofWords(comparison.difference.dof)}, coverage factor{' '}
              {fixed(comparison.budget.k, 2)}, so the {Number(fixed(100 * spot.coverage, 1))} % interval is{' '}
              {text(`${signed(comparison.interval[0], 2)} to ${signed(comparison.interval[1], 2)} K`)}.{' '}
              {Math.abs(movedK) < 0.05
                ? ''
                : text(
                    `As they were read the two differ by ${signed(asRead!, 2)} K; ${signed(movedK, 2)} K come from what settled readings likely still lacked${spot.restatedW === null ? '' : ', from bringing them to one power'} and from a drift of the bench, as far as its repeats show one. `,
                  )}
              {spot.restatedW === null ? '' : `Both sides’ rises were brought to ${fixed(spot.restatedW, 1)} W first, in proportion. `}
              {spot.call.kind === 'blocked' || spot.call.kind === 'withheld'
                ? text(`${capital(callWords(spot.call).words)}. ${spot.call.why ?? ''}`)
                : spot.call.kind === 'equivalent'
                  ? text(`It lies inside ± ${study.rules.practicalK} K: equivalent.`)
                  : spot.call.kind === 'no-call'
                    ? text(`It holds zero and reaches beyond ± ${study.rules.practicalK} K: no call.`)
                    : spot.call.byItself
                      ? 'It does not hold zero: a call by itself, which among all spots that were looked at may be chance (Holm).'
                      : 'It does not hold zero: a call.'}
            </p>
            <Shares title="Where the doubt of the difference comes from, shares of variance" lines={comparison.budget.shares} />
          </>
        ) : (
          <p>{spot.refusal}</p>
        )}
        {spot.b ? (
          <Shares title={`Doubt of one side against the limit (${judgement.b.name}), shares of variance`} lines={spot.b.budget.shares} />
        ) : null}
        <p className="text-soft">
          Means over the last five minutes of the load, spikes left out; rise sample by sample. Runs on one mount count as one. One spread
          between mounts serves both sides unless they contradict each other, and what else the bench shows of it is pooled in. Sensor
          accuracy cancels in the difference where one sensor stays in one place; resolution does not.
        </p>
      </div>
    </Dialogue>
  );
}
