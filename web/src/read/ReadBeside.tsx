import {
  clock,
  fixed,
  LIMITER_WORDS,
  measured,
  outcomeKind,
  ownOutcome,
  OUTCOMES,
  OUTPUT_KEYS,
  workDone,
  type Estimate,
  type OwnValue,
  type RunReview,
  type ThrottleReview,
} from '@red-ember/core';
import type { Run, Study } from '@red-ember/contract';
import { ownFiguresOf } from '@red-ember/study';
import { useDegrees } from '../data/useDegrees.ts';
import { Section } from '../ui/Section.tsx';

/** Thermal resistances of good coolers differ in the third decimal. */
const perWatt = ({ value, u }: Estimate) => `${fixed(value, 3)} ± ${fixed(Math.max(0.001, 2 * u), 3)}`;

const shown = (estimate: Estimate | null, unit: string) => (estimate ? measured(estimate.value, 2 * estimate.u, unit) : null);

/** Figures that the study names itself; of a run with several loads each says which. */
function ownRows(study: Study, own: readonly OwnValue[]) {
  const figures = ownFiguresOf(study);
  return figures.flatMap(({ id }) => {
    const { label, unit, decimals } = outcomeKind(ownOutcome(id), { own: figures });
    return own
      .filter(({ figureId }) => figureId === id)
      .map(({ load, value }) => [load === null ? label : `${label}, ${load}`, `${fixed(value, decimals)} ${unit}`.trim()] as const);
  });
}

/** Everything but temperature over the window that was read, and the episodes in which the part slowed down. */
export function ReadBeside({ study, run, review, own }: { study: Study; run: Run; review: RunReview; own: readonly OwnValue[] }) {
  const throughput = run.channels.find((channel) => channel.role === 'throughput')?.unit ?? '';
  const rows = [
    ...OUTPUT_KEYS.map((key) =>
      key === 'performance'
        ? (['work done', shown(workDone(review), throughput)] as const)
        : ([OUTCOMES[key].label, shown(review[key], OUTCOMES[key].unit)] as const),
    ),
    ['kept busy', review.utilisationPercent === null ? null : `${fixed(review.utilisationPercent, 1)} %`] as const,
    ...ownRows(study, own),
  ].filter(([, value]) => value !== null);
  const { throttle } = review;
  if (rows.length === 0 && !throttle) return null;
  return (
    <Section title="Over the same window" hint="twice the standard uncertainty of the mean">
      <dl className="grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-x-6 gap-y-2">
        {rows.map(([name, value]) => (
          <div key={name} className="border-b border-rule pb-1">
            <dt className="text-[0.87rem] text-soft">{name}</dt>
            <dd className="font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      {throttle ? <Losses throttle={throttle} unit={throttle.of === 'clock' ? 'MHz' : throughput} /> : null}
      {review.goneShare > 0.01 ? (
        <p className="mt-2 text-ember-text">The part did not answer for {fixed(100 * review.goneShare, 0)} % of the load.</p>
      ) : null}
    </Section>
  );
}

/** More episodes than this are counted and not listed. */
const LISTED = 12;

/** When less was done, and by what the part was held back. */
function Losses({ throttle, unit }: { throttle: ThrottleReview; unit: string }) {
  const { text } = useDegrees();
  const losses = [...throttle.episodes, ...throttle.heldBack].sort((p, q) => p.startS - q.startS);
  if (losses.length === 0) return null;
  return (
    <>
      <table className="plain-table mt-4">
        <thead>
          <tr>
            <th>Held back by</th>
            <th className="num">from</th>
            <th className="num">to</th>
            <th className="num">work lost</th>
            <th className="num">of the time</th>
            <th className="num">at</th>
          </tr>
        </thead>
        <tbody>
          {losses.slice(0, LISTED).map((loss) => (
            <tr key={`${loss.limiter}-${loss.startS}`}>
              <td className={loss.limiter === 'thermal' ? 'text-ember-text' : ''}>{LIMITER_WORDS[loss.limiter]}</td>
              <td className="num">{clock(loss.startS)}</td>
              <td className="num">{clock(loss.endS)}</td>
              <td className="num">{fixed(100 * loss.depth, 0)} %</td>
              <td className="num">{fixed(100 * loss.duty, 0)} %</td>
              <td className="num">{loss.temperatureAtOnsetC === null ? '' : text(`${fixed(loss.temperatureAtOnsetC, 1)} °C`)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-[0.93rem] text-soft">
        Against {fixed(throttle.reference, 0)} {unit} kept up before it; heat held it for {fixed(100 * throttle.fractionOfTime, 0)} % of the
        load and took {fixed(100 * throttle.performanceLost, 1)} % of the work
        {losses.length > LISTED ? `; ${losses.length - LISTED} more episodes` : ''}.
      </p>
    </>
  );
}

/** K/W to room and to the air that is taken in, and how much of a cooler is delay and how much carry. */
export function HeatPathSection({ study, review }: { study: Study; review: RunReview }) {
  const { text } = useDegrees();
  const paths = review.spots.filter((spot) => spot.heatPath?.toRoomKPerW);
  const intake = paths.some((spot) => spot.heatPath?.toIntakeKPerW);
  if (paths.length === 0) return null;
  const { air } = review;
  return (
    <Section title="Way of the heat" hint="per watt of the recorded power">
      <table className="plain-table">
        <thead>
          <tr>
            <th>Spot</th>
            <th className="num">to room, K/W</th>
            {intake ? <th className="num">to intake, K/W</th> : null}
            <th className="num">carries off, W/K</th>
            <th className="num">soaks up, J/K</th>
            <th className="num">slow time constant</th>
          </tr>
        </thead>
        <tbody>
          {paths.map(({ spotId, heatPath }) => {
            const { toRoomKPerW, toIntakeKPerW, carryWPerK, delayJPerK, slowTauS } = heatPath!;
            return (
              <tr key={spotId}>
                <td className="font-semibold">{study.spots.find((spot) => spot.id === spotId)?.name}</td>
                <td className="num">{perWatt(toRoomKPerW!)}</td>
                {intake ? <td className="num">{toIntakeKPerW ? perWatt(toIntakeKPerW) : ''}</td> : null}
                <td className="num">{carryWPerK === null ? '' : fixed(carryWPerK, 2)}</td>
                <td className="num">{delayJPerK === null ? '' : fixed(delayJPerK, 0)}</td>
                <td className="num">{slowTauS === null ? 'none stands out' : `${fixed(slowTauS / 60, 1)} min`}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-2 max-w-[46rem] text-[0.93rem] text-soft">
        What is carried off is shed for good; what is soaked up only delays.{' '}
        {air
          ? text(
              `The cooler took in air at ${fixed(air.intakeC, 1)} °C${air.exhaustC === null ? '' : ` and let it go at ${fixed(air.exhaustC, 1)} °C`}${
                air.recirculation ? `: ${fixed(100 * air.recirculation.fraction, 0)} % of what it breathed was its own exhaust` : ''
              }. Poor to room and good to intake is the enclosure’s doing, not the cooler’s.`,
            )
          : ''}
      </p>
    </Section>
  );
}
