import { Link } from 'react-router';
import { fixed, measured, signed, type SpotJudgement } from '@red-ember/core';
import { type PairVerdict, type Run, type Study } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { useReadingsQuery } from '../../data/api.ts';
import { spotIn } from './ComparedTrace.tsx';
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

function RunFigure({ run, spotId, study, side }: { run: Run; spotId: string; study: Study; side: string }) {
  const { data } = useReadingsQuery(run.id);
  const degrees = useDegrees();
  const shown = study.rules.basis === 'rise' ? degrees.step : degrees.temp;
  const load = data?.review.spots.find((spot) => spot.spotId === spotId)?.load;
  const reading = study.rules.basis === 'rise' ? load?.rise : load?.absolute;
  return (
    <tr>
      <td>
        <Link to={`/studies/${run.studyId}/read?run=${run.id}`}>run {run.number}</Link>, {side}
      </td>
      <td className="num">{reading ? fixed(shown(study.rules.figure === 'peak' ? reading.max : reading.mean.value), 2) : ''}</td>
      <td className="num">{reading ? fixed(degrees.step(reading.mean.u), 3) : ''}</td>
      <td className="num">{reading ? `${fixed(reading.nEffective, 0)} of ${reading.n}` : ''}</td>
    </tr>
  );
}

/** The method, its inputs and what lies between them and the call. */
export function HowWorkedOut({
  study,
  verdict,
  runs,
  spot,
  onClose,
}: {
  study: Study;
  verdict: PairVerdict;
  runs: Run[];
  spot: SpotJudgement;
  onClose: () => void;
}) {
  const name = definitionOf(study, spot.spotId)?.name ?? '';
  const { judgement, elsewhere } = verdict;
  const used = [judgement.a, judgement.b].flatMap((side) =>
    side.runIds.flatMap((id) => {
      const run = runs.find((candidate) => candidate.id === id);
      const variant = run && study.variants.find((candidate) => candidate.id === run.variantId);
      return run ? [{ run, side: variant?.name ?? side.name }] : [];
    }),
  );
  const { comparison } = spot;
  const { text, tempUnit, stepUnit } = useDegrees();
  const unit = study.rules.basis === 'rise' ? stepUnit : tempUnit;
  return (
    <Dialogue open onClose={onClose} title={`${name}: how the call was worked out`} wide>
      <div className="grid gap-6 text-[0.95rem]">
        <table className="plain-table">
          <thead>
            <tr>
              <th>Run</th>
              <th className="num">figure, {unit}</th>
              <th className="num">u, {stepUnit}</th>
              <th className="num">samples that count</th>
            </tr>
          </thead>
          <tbody>
            {used.map(({ run, side }) => (
              <RunFigure key={run.id} run={run} spotId={spotIn(run, spot.spotId, elsewhere)} study={study} side={side} />
            ))}
          </tbody>
        </table>
        {comparison ? (
          <>
            <p>
              Difference {judgement.b.name} − {judgement.a.name}:{' '}
              <b>{text(measured(comparison.difference.value, comparison.budget.expanded, 'K', { sign: true }))}</b>. Standard uncertainty{' '}
              {text(`${fixed(comparison.difference.u, 3)} K`)}, degrees of freedom {dofWords(comparison.difference.dof)}, coverage factor{' '}
              {fixed(comparison.budget.k, 2)}, so the {fixed(100 * study.rules.coverage, 0)} % interval is{' '}
              {text(`${signed(comparison.interval[0], 2)} to ${signed(comparison.interval[1], 2)} K`)}.{' '}
              {comparison.verdict === 'equivalent'
                ? text(`It lies inside ± ${study.rules.practicalK} K: equivalent.`)
                : comparison.verdict === 'no-call'
                  ? text(`It holds zero and reaches beyond ± ${study.rules.practicalK} K: no call.`)
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
          Means over the last five minutes of the load, spikes left out; rise sample by sample. Welch’s t, or pooled with the bench’s
          history where there is one. Sensor accuracy cancels in the difference where one sensor stays in one place; resolution does not.
        </p>
      </div>
    </Dialogue>
  );
}
