import { airOf, AS_IT_RAN, duration, fixed, foretoldTrace, headroomWords, reached, type WhatIf } from '@red-ember/core';
import { useDegrees } from '../../data/useDegrees.ts';
import { HeadroomStrip } from '../../ui/HeadroomStrip.tsx';
import { TraceChart } from '../../ui/TraceChart.tsx';
import type { SpotWhatIf } from './useWhatIf.ts';

/** Where the strip of a spot begins: the cooler of both airs, so that strip and mark share one scale. */
const leftOf = ({ response, whatIf }: SpotWhatIf) => Math.min(airOf(response), whatIf.airC ?? Infinity);

/** What a figure rests on, where anything was asked. */
function footingWords({ would }: SpotWhatIf): string {
  if (would.changes.length === 0) return 'as it ran';
  return would.beyond ? 'beyond what was measured' : would.footing;
}

/** One spot: its strip as it would be, a mark where it was, what that leaves to its limit. */
function SpotRow({ spot, chosen, onChoose }: { spot: SpotWhatIf; chosen: boolean; onChoose: () => void }) {
  const degrees = useDegrees();
  const { name, limitC, limitSource, ran, would } = spot;
  const byK = would.settledC.value - ran.settledC.value;
  const roomC = leftOf(spot);
  const was = Math.min(1, Math.max(0, (ran.settledC.value - roomC) / (limitC - roomC)));
  const headroomK = limitC - would.settledC.value;
  const tone = would.beyond ? 'stone' : headroomK < would.plusMinusK ? 'ember' : 'quench';
  return (
    <tr className={would.beyond ? 'text-soft' : ''}>
      <td>
        <button
          type="button"
          className={`text-left font-semibold leading-snug ${chosen ? '' : 'underline decoration-rule underline-offset-2 hover:decoration-ink'}`}
          aria-pressed={chosen}
          onClick={onChoose}
        >
          {name}
        </button>
        <span className={`block text-[0.83rem] leading-snug ${would.beyond ? 'text-ochre-text' : 'text-soft'}`}>{footingWords(spot)}</span>
      </td>
      <td className="num whitespace-nowrap">
        <b className="font-semibold">{degrees.text(`${fixed(would.settledC.value, 1)} °C`)}</b> ±{' '}
        {degrees.text(`${fixed(would.plusMinusK, 1)} K`)}
        <span className="block text-[0.83rem] text-soft">
          {would.changes.length === 0
            ? ''
            : Math.abs(byK) < 0.05
              ? 'as it was'
              : degrees.text(`${byK < 0 ? '−' : '+'}${fixed(Math.abs(byK), 1)} K`)}
        </span>
      </td>
      <td className="w-[32%] min-w-28 !align-middle">
        <div className="relative">
          <HeadroomStrip label={name} roomC={roomC} limitC={limitC} spotC={would.settledC.value} doubtK={would.plusMinusK} tone={tone} />
          <span className="absolute -top-0.5 h-[18px] w-[2px] bg-ink" style={{ left: `${100 * was}%` }} aria-hidden />
        </div>
      </td>
      <td className="whitespace-nowrap" title={limitSource}>
        {degrees.text(headroomWords(headroomK, 0))}
        <span className="block text-[0.83rem] text-soft">limit {degrees.text(`${limitC} °C`)}</span>
      </td>
    </tr>
  );
}

/** Every spot as it would be, the one with the least room first. */
export function WouldBe({ spots, chosen, onChoose }: { spots: SpotWhatIf[]; chosen: string; onChoose: (id: string) => void }) {
  return (
    <div className="overflow-x-auto">
      <table className="plain-table">
        <thead>
          <tr>
            <th>Spot</th>
            <th className="num">would settle at</th>
            <th>mark: as it was</th>
            <th>to its limit</th>
          </tr>
        </thead>
        <tbody>
          {spots.map((spot) => (
            <SpotRow key={spot.id} spot={spot} chosen={spot.id === chosen} onChoose={() => onChoose(spot.id)} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Whether and when a spot would come to its limit, as far as that can be told. */
function reachedWords({ name, response, whatIf, limitC, would }: SpotWhatIf): string {
  const when = reached(response, whatIf, limitC);
  if (when === null) {
    const over = would.settledC.value - limitC;
    const whether = Math.abs(over) < would.plusMinusK ? 'may reach its limit or may not' : `would ${over < 0 ? 'not ' : ''}reach its limit`;
    return `${name} ${whether}${over < -would.plusMinusK ? '' : '; how soon is not known, since another cooler holds another amount of heat'}.`;
  }
  const { atS, earliestS, latestS } = when;
  if (earliestS === null) return `${name} would not reach its limit.`;
  if (latestS === 0) return `${name} would lie above its limit before any load.`;
  const from = duration(earliestS);
  if (atS === null)
    return `${name} would probably not reach its limit; within the doubt it may, ${from} after the load comes on at the earliest.`;
  const until = latestS === null ? `from ${from} on, or never` : `between ${from} and ${duration(latestS)}`;
  return `${name} would reach its limit ${duration(atS)} after the load comes on; within the doubt ${until}.`;
}

const POINTS = 160;

/** One spot from rest on, as it would go and as it went, and when it would reach its limit. */
export function WayUp({ spot }: { spot: SpotWhatIf }) {
  const degrees = useDegrees();
  const { whatIf } = spot;
  const slowest = Math.max(...spot.response.lags.map(({ tauS }) => tauS));
  const toS = Math.min(4 * 3600, Math.max(600, 60 * Math.ceil((5 * slowest) / 60)));
  // Closer where it moves fast.
  const t = Array.from({ length: POINTS }, (_, i) => toS * (i / (POINTS - 1)) ** 2);
  const line = (asked: WhatIf) => foretoldTrace(spot.response, asked, t).map((celsius) => degrees.temp(celsius));
  const near = spot.limitC - spot.would.settledC.value < 0.4 * (spot.limitC - airOf(spot.response));
  const changed = spot.would.changes.length > 0;
  return (
    <>
      <TraceChart
        label={`${spot.name} after the load comes on`}
        unit={degrees.tempUnit}
        fromS={0}
        toS={toS}
        height={230}
        traces={[
          { key: 'ran', name: 'as it ran', colour: 'var(--stone)', ...(changed ? { dash: '5 4' } : {}), t, y: line(AS_IT_RAN) },
          ...(changed
            ? [{ key: 'would', name: 'what if', colour: spot.would.beyond ? 'var(--stone)' : 'var(--ember)', width: 2, t, y: line(whatIf) }]
            : []),
        ]}
        limits={
          near ? [{ value: degrees.temp(spot.limitC), name: `limit ${degrees.text(`${spot.limitC} °C`)}`, colour: 'var(--ink)' }] : []
        }
      />
      <p className="pl-11 text-[0.93rem] text-soft">{reachedWords(spot)}</p>
    </>
  );
}
