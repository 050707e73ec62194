import { Note } from '../frame/Margin.tsx';
import { NumberField } from '../ui/Field.tsx';
import { ColumnTable, type SpotChoice } from './ColumnTable.tsx';
import type { LogEdit, LogRow } from './rows.ts';

/** A table of figures beside the list: what its columns hold, and the room's floor under its levels. */
export function TableBeside({ row, spots, edit }: { row: LogRow; spots: readonly SpotChoice[]; edit: (part: LogEdit) => void }) {
  const sweep = row.log.kind === 'sweep';
  return (
    <>
      <p className="mb-3 text-[0.93rem] text-soft">
        {sweep
          ? 'A sweep: each row becomes a load of one run, from the least setting up.'
          : 'A table of results: each row becomes a run. What was changed makes the variants.'}{' '}
        They are kept as figures as given: there are no traces behind them. A small number in K is a rise over the room.
      </p>
      <ColumnTable
        family={row.log.guess.family}
        table
        spots={spots}
        log={row.log}
        value={{ timeColumn: null, columns: row.columns }}
        onChange={({ columns }) => edit(columns ? { columns } : {})}
      />
      {row.columns.some(({ role }) => role === 'level') ? (
        <div className="mt-4 max-w-md">
          <NumberField
            label="Level of the room with nothing running"
            unit="dB(A)"
            pointer="/noiseFloorDb"
            value={row.noiseFloorDb}
            onChange={(floorDb) => edit({ noiseFloorDb: Number.isNaN(floorDb) ? null : floorDb })}
          />
          <Note>Levels are compared as they were measured. Freed of the room they stand beside, where they lie 3 dB or more above it.</Note>
        </div>
      ) : null}
    </>
  );
}
