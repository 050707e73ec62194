import { createColumnHelper, type Table } from '@tanstack/react-table';
import { THERMOCOUPLE_TYPES, type TemperatureUnit, type ThermocoupleType } from '@red-ember/core';
import {
  holdsReadings,
  isKept,
  isTemperature,
  RECORDED_ROLES,
  roleWords,
  type ColumnMapBody,
  type ImportRunBody,
  type StagedLog,
  type Study,
  type VoltageBody,
} from '@red-ember/contract';
import { classByName, type Family } from '@red-ember/study';
import { DataTable } from '../ui/DataTable.tsx';
import { NumberField } from '../ui/Field.tsx';

const DEGREES: Record<TemperatureUnit, string> = { C: '°C', F: '°F', K: 'K' };

type Chosen = Pick<ImportRunBody, 'timeColumn' | 'columns'>;

/** A place that a column can have been read from: a spot of the study by its id, or one that is yet to be made by its name. */
export interface SpotChoice {
  id: string | null;
  name: string;
}

interface Choice {
  value: string;
  label: string;
}

/** A column of the log, with what was chosen for it. */
interface ColumnRow {
  index: number;
  name: string;
  sample: string[];
  chosen: string;
  /** null where nothing is to be chosen. */
  unit: string | null;
}
interface Acts {
  options: Choice[];
  choose(column: number, chosen: string): void;
  chooseUnit(column: number, chosen: string): void;
}
const column = createColumnHelper<ColumnRow>();
const TABLE_CHOICES: Choice[] = [
  { value: 'factor', label: 'what was changed' },
  { value: 'repeat', label: 'which repeat' },
  { value: 'order', label: 'order of the rows' },
  { value: 'own', label: 'a figure of its own' },
];
/** Kept with the run as it is: what it holds may be said afterwards. */
const KEPT = 'kept';
const UNIT_CHOICES = [
  ...(Object.keys(DEGREES) as TemperatureUnit[]).map((unit) => ({ value: `°${unit}`, label: DEGREES[unit] })),
  ...THERMOCOUPLE_TYPES.map((type) => ({ value: type as string, label: `mV, type ${type}` })),
];

function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Choice[];
  onChange: (value: string) => void;
}) {
  return (
    <select className="field-box" aria-label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  );
}

/** The newest of what the page can do, for cells that stay the same from render to render. */
const actsOf = (table: Table<ColumnRow>) => table.options.meta!.acts as Acts;

const COLUMNS = [
  column.accessor('name', { header: 'Column', meta: { className: 'font-semibold' } }),
  column.accessor((row) => row.sample.slice(0, 3).join(' · '), {
    id: 'sample',
    header: 'First readings',
    enableSorting: false,
    meta: { className: 'text-soft' },
  }),
  column.accessor('chosen', {
    header: 'holds',
    cell: ({ row: { original }, table }) => (
      <Select
        label={`What ${original.name} holds`}
        value={original.chosen}
        options={actsOf(table).options}
        onChange={(chosen) => actsOf(table).choose(original.index, chosen)}
      />
    ),
  }),
  column.accessor('unit', {
    header: 'in',
    enableSorting: false,
    cell: ({ row: { original }, table }) =>
      original.unit === null ? null : (
        <Select
          label={`Unit of ${original.name}`}
          value={original.unit}
          options={UNIT_CHOICES}
          onChange={(chosen) => actsOf(table).chooseUnit(original.index, chosen)}
        />
      ),
  }),
];

/** What each column of a log holds, and in which unit. */
export function ColumnTable({
  family,
  spots,
  locks = [],
  table = false,
  log,
  value,
  onChange,
}: {
  family: Family;
  spots: readonly SpotChoice[];
  locks?: Study['locks'];
  /** Of a table of figures: no time, but what was changed from row to row. */
  table?: boolean;
  log: Pick<StagedLog, 'columns'>;
  /** The time is null where it is yet to be chosen. */
  value: { timeColumn: number | null; dateColumn?: number | null; columns: ImportRunBody['columns'] };
  onChange: (part: Partial<Chosen>) => void;
}) {
  const roleOf = (column: number) => {
    if (column === value.timeColumn) return 'time';
    if (column === value.dateColumn) return 'date';
    const map = value.columns.find((entry) => entry.column === column);
    if (!map) return '';
    return map.role === 'spot'
      ? map.spotId
        ? `spot:${map.spotId}`
        : `name:${map.spotName}`
      : isKept(map)
        ? KEPT
        : map.role === 'beside'
          ? `lock:${map.lockName}`
          : map.role;
  };
  const choose = (column: number, chosen: string) => {
    const rest = value.columns.filter((entry) => entry.column !== column);
    if (chosen === 'time') onChange({ timeColumn: column, columns: rest });
    else if (chosen === '' || chosen === 'date') onChange({ columns: rest });
    else if (chosen.startsWith('spot:')) onChange({ columns: [...rest, { column, role: 'spot', spotId: chosen.slice(5) }] });
    else if (chosen.startsWith('name:')) {
      const componentClass = classByName(chosen.slice(5), family);
      onChange({
        columns: [
          ...rest,
          { column, role: 'spot', spotId: null, spotName: chosen.slice(5), ...(componentClass ? { componentClass } : {}) },
        ],
      });
    } else if (chosen === KEPT) onChange({ columns: [...rest, { column, role: 'beside', spotId: null, lockName: null }] });
    else if (chosen.startsWith('lock:'))
      onChange({ columns: [...rest, { column, role: 'beside', spotId: null, lockName: chosen.slice(5) }] });
    else onChange({ columns: [...rest, { column, role: chosen as ColumnMapBody['role'], spotId: null }] });
  };
  const options = [
    { value: '', label: 'not used' },
    ...(table ? TABLE_CHOICES : [{ value: 'time', label: 'time' }]),
    ...(value.dateColumn == null ? [] : [{ value: 'date', label: 'date' }]),
    ...spots.map(({ id, name }) => ({ value: id ? `spot:${id}` : `name:${name}`, label: name })),
    ...RECORDED_ROLES.map((role) => ({ value: role, label: roleWords(role, family) })),
    ...(table
      ? []
      : [
          { value: 'mark', label: 'marks: what was done' },
          { value: KEPT, label: 'kept beside, nothing rests on it' },
        ]),
    ...locks.filter((lock) => lock.channel !== '').map((lock) => ({ value: `lock:${lock.name}`, label: `${lock.name}, watched` })),
  ];
  const voltages = value.columns.filter((entry) => entry.voltage);
  const unitOf = (column: number) => {
    const map = value.columns.find((entry) => entry.column === column);
    return map?.voltage ? map.voltage.type : `°${map?.unit ?? 'C'}`;
  };
  const setUnit = (column: number, unit: TemperatureUnit) =>
    onChange({ columns: value.columns.map((entry) => (entry.column === column ? { ...entry, unit, voltage: null } : entry)) });
  const chooseUnit = (column: number, chosen: string) => {
    if (chosen.startsWith('°')) setUnit(column, chosen.slice(1) as TemperatureUnit);
    else
      setVoltage(column, {
        type: chosen as ThermocoupleType,
        coldJunctionColumn: voltages[0]?.voltage?.coldJunctionColumn ?? null,
        coldJunctionC: 25,
      });
  };
  const setVoltage = (column: number, voltage: VoltageBody | null) =>
    onChange({ columns: value.columns.map((entry) => (entry.column === column ? { ...entry, voltage } : entry)) });
  const rows = log.columns.map((column): ColumnRow => {
    const map = value.columns.find((entry) => entry.column === column.index);
    return {
      ...column,
      chosen: roleOf(column.index),
      unit: map && holdsReadings(map.role) && isTemperature(map.role) ? unitOf(column.index) : null,
    };
  });
  return (
    <>
      <DataTable label="Columns of the log" rows={rows} columns={COLUMNS} acts={{ choose, chooseUnit, options } satisfies Acts} />
      {voltages.length > 0 ? (
        <div className="mt-3 flex flex-wrap items-end gap-4">
          <label className="text-[0.87rem] text-soft">
            Cold junction
            <select
              className="field-box mt-1 text-[1rem] text-ink"
              value={voltages[0]!.voltage!.coldJunctionColumn ?? ''}
              onChange={(event) => {
                const coldJunctionColumn = event.target.value === '' ? null : Number(event.target.value);
                onChange({
                  columns: value.columns.map((entry) =>
                    entry.voltage ? { ...entry, voltage: { ...entry.voltage, coldJunctionColumn } } : entry,
                  ),
                });
              }}
            >
              <option value="">held steady at</option>
              {log.columns.map((column) => (
                <option key={column.index} value={column.index}>
                  as in {column.name}
                </option>
              ))}
            </select>
          </label>
          {voltages[0]!.voltage!.coldJunctionColumn === null ? (
            <NumberField
              className="w-36"
              label="Its temperature"
              unit="°C"
              pointer={`/columns/${value.columns.indexOf(voltages[0]!)}/voltage/coldJunctionC`}
              value={voltages[0]!.voltage!.coldJunctionC}
              onChange={(coldJunctionC) =>
                onChange({
                  columns: value.columns.map((entry) =>
                    entry.voltage ? { ...entry, voltage: { ...entry.voltage, coldJunctionC } } : entry,
                  ),
                })
              }
            />
          ) : null}
        </div>
      ) : null}
    </>
  );
}
