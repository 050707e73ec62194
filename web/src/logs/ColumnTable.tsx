import { columnsFor, type TableOf } from '../ui/tableColumns.ts';
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
import { ColdJunction } from './ColdJunction.tsx';

const DEGREES: Record<TemperatureUnit, string> = { C: '°C', F: '°F', K: 'K' };

type Chosen = Pick<ImportRunBody, 'timeColumn' | 'columns'>;

/** What was chosen so far. The time is null where it is yet to be chosen. */
interface Value {
  timeColumn: number | null;
  dateColumn?: number | null;
  columns: ImportRunBody['columns'];
}

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
const column = columnsFor<ColumnRow>();
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
const actsOf = (table: TableOf<ColumnRow>) => table.options.meta!.acts as Acts;

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

/** What a column holds, as the list of choices says it. */
function chosenOf(column: number, { timeColumn, dateColumn, columns }: Value): string {
  if (column === timeColumn) return 'time';
  if (column === dateColumn) return 'date';
  const map = columns.find((entry) => entry.column === column);
  if (!map) return '';
  if (map.role === 'spot') return map.spotId ? `spot:${map.spotId}` : `name:${map.spotName}`;
  if (isKept(map)) return KEPT;
  return map.role === 'beside' ? `lock:${map.lockName}` : map.role;
}

/** What a choice makes of a column; null where nothing is read from it, or its time. */
function mapOf(column: number, chosen: string, family: Family): ColumnMapBody | null {
  if (chosen === '' || chosen === 'time' || chosen === 'date') return null;
  const [kind, name] = [chosen.slice(0, 5), chosen.slice(5)];
  if (kind === 'spot:') return { column, role: 'spot', spotId: name };
  if (kind === 'name:') {
    const componentClass = classByName(name, family);
    return { column, role: 'spot', spotId: null, spotName: name, ...(componentClass ? { componentClass } : {}) };
  }
  if (chosen === KEPT) return { column, role: 'beside', spotId: null, lockName: null };
  if (kind === 'lock:') return { column, role: 'beside', spotId: null, lockName: name };
  return { column, role: chosen as ColumnMapBody['role'], spotId: null };
}

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
  value: Value;
  onChange: (part: Partial<Chosen>) => void;
}) {
  const choose = (column: number, chosen: string) => {
    const rest = value.columns.filter((entry) => entry.column !== column);
    const map = mapOf(column, chosen, family);
    onChange({ ...(chosen === 'time' ? { timeColumn: column } : {}), columns: map ? [...rest, map] : rest });
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
      chosen: chosenOf(column.index, value),
      unit: map && holdsReadings(map.role) && isTemperature(map.role) ? unitOf(column.index) : null,
    };
  });
  return (
    <>
      <DataTable label="Columns of the log" rows={rows} columns={COLUMNS} acts={{ choose, chooseUnit, options } satisfies Acts} />
      <ColdJunction log={log} columns={value.columns} onChange={(columns) => onChange({ columns })} />
    </>
  );
}
