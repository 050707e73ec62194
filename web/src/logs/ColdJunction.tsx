import type { ImportRunBody, StagedLog } from '@red-ember/contract';
import { NumberField } from '../ui/Field.tsx';

type Columns = ImportRunBody['columns'];

/** Where the other end of thermocouples that were logged as voltages lay: in a column, or steady. One for all of them. */
export function ColdJunction({
  log,
  columns,
  onChange,
}: {
  log: Pick<StagedLog, 'columns'>;
  columns: Columns;
  onChange: (columns: Columns) => void;
}) {
  const first = columns.findIndex(({ voltage }) => voltage);
  const voltage = columns[first]?.voltage;
  if (!voltage) return null;
  const set = (part: Partial<typeof voltage>) =>
    onChange(columns.map((entry) => (entry.voltage ? { ...entry, voltage: { ...entry.voltage, ...part } } : entry)));
  return (
    <div className="mt-3 flex flex-wrap items-end gap-4">
      <label className="text-[0.87rem] text-soft">
        Cold junction
        <select
          className="field-box mt-1 text-[1rem] text-ink"
          value={voltage.coldJunctionColumn ?? ''}
          onChange={(event) => set({ coldJunctionColumn: event.target.value === '' ? null : Number(event.target.value) })}
        >
          <option value="">held steady at</option>
          {log.columns.map((column) => (
            <option key={column.index} value={column.index}>
              as in {column.name}
            </option>
          ))}
        </select>
      </label>
      {voltage.coldJunctionColumn === null ? (
        <NumberField
          className="w-36"
          label="Its temperature"
          unit="°C"
          pointer={`/columns/${first}/voltage/coldJunctionC`}
          value={voltage.coldJunctionC}
          onChange={(coldJunctionC) => set({ coldJunctionC })}
        />
      ) : null}
    </div>
  );
}
