import { fixed, measured, settledWords, type PhaseReading, type RunReview, type SpotReview } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { estimateBeneath } from '@red-ember/study';
import { useDegrees } from '../data/useDegrees.ts';
import { DataTable } from '../ui/DataTable.tsx';
import { HeadroomStrip } from '../ui/HeadroomStrip.tsx';
import { Section } from '../ui/Section.tsx';
import { columnsFor, type TableOf } from '../ui/tableColumns.ts';

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

interface Row {
  spot: SpotReview;
  definition: Study['spots'][number];
  /** What the spot came to under load with what is still to come, °C; null where it was not read. */
  endsC: number | null;
}
interface Acts {
  explain(spotId: string): void;
  roomC: number | null;
  text: (celsius: string) => string;
}
const actsOf = (table: TableOf<Row>) => table.options.meta!.acts as Acts;
const column = columnsFor<Row>();
const shownOf = (reading: PhaseReading | null) => (reading ? (reading.rise ?? reading.absolute).mean.value : null);

const COLUMNS = [
  column.accessor(({ definition }) => definition.name, {
    id: 'spot',
    header: 'Spot',
    meta: { className: 'font-semibold' },
    cell: ({ row: { original: row }, table }) => {
      const beneath = row.spot.load && estimateBeneath(row.definition, row.spot.load.absolute.mean);
      return (
        <>
          {row.definition.name}
          {beneath ? (
            <span className="block text-[0.87rem] font-normal text-soft">
              part beneath: {actsOf(table).text(measured(beneath.value, 2 * beneath.u, '°C'))}, estimate
            </span>
          ) : null}
        </>
      );
    },
  }),
  column.accessor(({ spot }) => shownOf(spot.idle), {
    id: 'idle',
    header: 'idle',
    meta: { number: true },
    cell: ({ row: { original: row } }) => <ReadingCell reading={row.spot.idle} />,
  }),
  column.accessor(({ spot }) => shownOf(spot.load), {
    id: 'load',
    header: 'load',
    meta: { number: true },
    cell: ({ row: { original: row } }) => <ReadingCell reading={row.spot.load} />,
  }),
  column.accessor(({ spot }) => spot.load?.absolute.mean.value ?? null, {
    id: 'absolute',
    header: 'as read',
    meta: { number: true },
    cell: ({ getValue, table }) => (getValue() === null ? '' : actsOf(table).text(`${fixed(getValue()!, 1)} °C`)),
  }),
  column.accessor(({ spot }) => spot.load?.peakC ?? null, {
    id: 'peak',
    header: 'peak',
    meta: { number: true },
    cell: ({ row: { original: row }, table }) => {
      const { load } = row.spot;
      const { text } = actsOf(table);
      return (
        <>
          {load ? text(`${fixed(load.peakC, 1)} °C`) : ''}
          {load && load.absolute.n > 1 ? (
            <span
              className="block whitespace-nowrap text-[0.83rem] text-soft"
              title="what 95 in 100 samples of the window stay under; above it the highest of the phase"
            >
              95 %: {text(`${fixed(load.absolute.p95, 1)} °C`)}
            </span>
          ) : null}
        </>
      );
    },
  }),
  column.accessor(({ spot }) => (spot.load ? settledWords(spot.load) : ''), {
    id: 'state',
    header: 'state',
    meta: { className: 'max-w-48 leading-snug' },
    cell: ({ row: { original: row }, getValue }) => (
      <span className={row.spot.load && row.spot.load.bound !== 'settled' ? 'text-ochre-text' : ''}>{getValue()}</span>
    ),
  }),
  column.accessor(({ definition, endsC }) => (endsC === null ? null : definition.limitC - endsC), {
    id: 'headroom',
    header: 'room to limit',
    meta: { className: 'w-[18%] min-w-24 !align-middle' },
    cell: ({ row: { original: row }, table }) => {
      const { roomC } = actsOf(table);
      return row.endsC === null || roomC === null ? null : (
        <HeadroomStrip
          label={row.definition.name}
          roomC={roomC}
          limitC={row.definition.limitC}
          spotC={row.endsC}
          doubtK={row.definition.accuracyK}
          idleC={row.spot.idle?.absolute.mean.value ?? null}
        />
      );
    },
  }),
  column.display({
    id: 'how',
    header: '',
    meta: { number: true },
    cell: ({ row: { original: row }, table }) => (
      <button
        type="button"
        className="text-[0.87rem] text-soft underline hover:text-ink"
        onClick={() => actsOf(table).explain(row.spot.spotId)}
        aria-label={`How was ${row.definition.name} worked out?`}
      >
        How?
      </button>
    ),
  }),
];

/** Each spot at idle and under load, how far it is from settled, and its room to the limit. */
export function ReadingsTable({ study, review, onExplain }: { study: Study; review: RunReview; onExplain: (spotId: string) => void }) {
  const { text } = useDegrees();
  const rows = review.spots.flatMap((spot): Row[] => {
    const definition = study.spots.find((candidate) => candidate.id === spot.spotId);
    const { load } = spot;
    const toGoK = load && load.bound !== 'settled' ? Math.max(0, load.toGo?.likely.value ?? 0) : 0;
    return definition ? [{ spot, definition, endsC: load ? load.absolute.mean.value + toGoK : null }] : [];
  });
  return (
    <Section title="Readings" hint={study.rules.basis === 'rise' ? 'rise over room' : ''}>
      <DataTable
        label="Readings"
        rows={rows}
        columns={COLUMNS}
        acts={{ explain: onExplain, roomC: review.room?.meanC ?? null, text } satisfies Acts}
      />
    </Section>
  );
}
