import { fixed, measured, settledWords, type PhaseReading, type RunReview, type SpotReview } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { estimateBeneath } from '@red-ember/study';
import { useDegrees } from '../data/useDegrees.ts';
import { HeadroomStrip } from '../ui/HeadroomStrip.tsx';
import { Section } from '../ui/Section.tsx';

function ReadingCell({ reading }: { reading: PhaseReading | null }) {
  const { text } = useDegrees();
  if (!reading) return <span className="text-soft">not read</span>;
  const shown = reading.rise ?? reading.absolute;
  return (
    <span className="whitespace-nowrap">
      <b className="font-semibold">{text(measured(shown.mean.value, 2 * shown.mean.u, reading.rise ? 'K' : '°C'))}</b>
    </span>
  );
}

function SpotRow({ study, spot, roomC, onExplain }: { study: Study; spot: SpotReview; roomC: number | null; onExplain: () => void }) {
  const { text } = useDegrees();
  const definition = study.spots.find((candidate) => candidate.id === spot.spotId);
  if (!definition) return null;
  const { idle, load } = spot;
  const loadC = load?.absolute.mean.value;
  const beneath = load && estimateBeneath(definition, load.absolute.mean);
  return (
    <tr>
      <td className="font-semibold">
        {definition.name}
        {beneath ? (
          <span className="block text-[0.87rem] font-normal text-soft">
            part beneath: {text(measured(beneath.value, 2 * beneath.u, '°C'))}, estimate
          </span>
        ) : null}
      </td>
      <td className="num">
        <ReadingCell reading={idle} />
      </td>
      <td className="num">
        <ReadingCell reading={load} />
      </td>
      <td className="num">{loadC === undefined ? '' : text(`${fixed(loadC, 1)} °C`)}</td>
      <td className="num">
        {load ? text(`${fixed(load.peakC, 1)} °C`) : ''}
        {load && load.absolute.n > 1 ? (
          <span className="block whitespace-nowrap text-[0.83rem] text-soft">95 %: {text(`${fixed(load.absolute.p95, 1)} °C`)}</span>
        ) : null}
      </td>
      <td className={`max-w-48 leading-snug ${load && load.bound !== 'settled' ? 'text-ochre-text' : ''}`}>
        {load ? settledWords(load) : ''}
      </td>
      <td className="w-[18%] min-w-24 !align-middle">
        {loadC !== undefined && roomC !== null ? (
          <HeadroomStrip
            label={definition.name}
            roomC={roomC}
            limitC={definition.limitC}
            spotC={loadC + (load && load.bound !== 'settled' ? Math.max(0, load.toGo?.likely.value ?? 0) : 0)}
            doubtK={definition.accuracyK}
            idleC={idle?.absolute.mean.value ?? null}
          />
        ) : null}
      </td>
      <td className="num">
        <button
          type="button"
          className="text-[0.87rem] text-soft underline hover:text-ink"
          onClick={onExplain}
          aria-label={`How was ${definition.name} worked out?`}
        >
          How?
        </button>
      </td>
    </tr>
  );
}

/** Each spot at idle and under load, how far it is from settled, and its room to the limit. */
export function ReadingsTable({ study, review, onExplain }: { study: Study; review: RunReview; onExplain: (spotId: string) => void }) {
  return (
    <Section title="Readings" hint={study.rules.basis === 'rise' ? 'rise over room' : ''}>
      <table className="plain-table">
        <thead>
          <tr>
            <th>Spot</th>
            <th className="num">idle</th>
            <th className="num">load</th>
            <th className="num">load</th>
            <th className="num" title="highest of the phase; below it what 95 in 100 samples of the window stay under">
              peak
            </th>
            <th>state</th>
            <th>room to limit</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {review.spots.map((spot) => (
            <SpotRow
              key={spot.spotId}
              study={study}
              spot={spot}
              roomC={review.room?.meanC ?? null}
              onExplain={() => onExplain(spot.spotId)}
            />
          ))}
        </tbody>
      </table>
    </Section>
  );
}
