import { THERMOCOUPLE_TYPES, type TemperatureUnit, type ThermocoupleType } from '@red-ember/core';
import {
  isTemperature,
  RECORDED_ROLES,
  roleWords,
  type ColumnMapBody,
  type ImportRunBody,
  type StagedLog,
  type Study,
  type VoltageBody,
} from '@red-ember/contract';
import { NumberField } from '../../ui/Field.tsx';

const DEGREES: Record<TemperatureUnit, string> = { C: '°C', F: '°F', K: 'K' };

export type ColumnChoice = Pick<ImportRunBody, 'timeColumn' | 'columns'>;

/** What each column of a log holds, and in which unit. */
export function ColumnTable({
  study,
  log,
  value,
  onChange,
}: {
  study: Study;
  log: StagedLog;
  value: ColumnChoice;
  onChange: (part: Partial<ColumnChoice>) => void;
}) {
  const roleOf = (column: number) => {
    if (column === value.timeColumn) return 'time';
    const map = value.columns.find((entry) => entry.column === column);
    if (!map) return '';
    return map.role === 'spot' ? `spot:${map.spotId}` : map.role === 'beside' ? `lock:${map.lockName}` : map.role;
  };
  const choose = (column: number, chosen: string) => {
    const rest = value.columns.filter((entry) => entry.column !== column);
    if (chosen === 'time') onChange({ timeColumn: column, columns: rest });
    else if (chosen === '') onChange({ columns: rest });
    else if (chosen.startsWith('spot:')) onChange({ columns: [...rest, { column, role: 'spot', spotId: chosen.slice(5) }] });
    else if (chosen.startsWith('lock:'))
      onChange({ columns: [...rest, { column, role: 'beside', spotId: null, lockName: chosen.slice(5) }] });
    else onChange({ columns: [...rest, { column, role: chosen as ColumnMapBody['role'], spotId: null }] });
  };
  const options = [
    { value: '', label: 'not used' },
    { value: 'time', label: 'time' },
    ...study.spots.map((spot) => ({ value: `spot:${spot.id}`, label: spot.name })),
    ...RECORDED_ROLES.map((role) => ({ value: role, label: roleWords(role, study.family) })),
    ...study.locks.filter((lock) => lock.channel !== '').map((lock) => ({ value: `lock:${lock.name}`, label: `${lock.name}, watched` })),
  ];
  const voltages = value.columns.filter((entry) => entry.voltage);
  const unitOf = (column: number) => {
    const map = value.columns.find((entry) => entry.column === column);
    return map?.voltage ? map.voltage.type : `°${map?.unit ?? 'C'}`;
  };
  const setUnit = (column: number, unit: TemperatureUnit) =>
    onChange({ columns: value.columns.map((entry) => (entry.column === column ? { ...entry, unit, voltage: null } : entry)) });
  const setVoltage = (column: number, voltage: VoltageBody | null) =>
    onChange({ columns: value.columns.map((entry) => (entry.column === column ? { ...entry, voltage } : entry)) });
  return (
    <>
      <table className="plain-table">
        <thead>
          <tr>
            <th>Column</th>
            <th>First readings</th>
            <th>holds</th>
            <th>in</th>
          </tr>
        </thead>
        <tbody>
          {log.columns.map((column) => (
            <tr key={column.index}>
              <td className="font-semibold">{column.name}</td>
              <td className="text-soft">{column.sample.slice(0, 3).join(' · ')}</td>
              <td>
                <select
                  className="field-box"
                  aria-label={`What ${column.name} holds`}
                  value={roleOf(column.index)}
                  onChange={(event) => choose(column.index, event.target.value)}
                >
                  {options.map((option) => (
                    <option key={option.value} value={option.value}>
                      {option.label}
                    </option>
                  ))}
                </select>
              </td>
              <td>
                {value.columns.some((entry) => entry.column === column.index && isTemperature(entry.role)) ? (
                  <select
                    className="field-box"
                    aria-label={`Unit of ${column.name}`}
                    value={unitOf(column.index)}
                    onChange={(event) => {
                      const chosen = event.target.value;
                      if (chosen.startsWith('°')) setUnit(column.index, chosen.slice(1) as TemperatureUnit);
                      else
                        setVoltage(column.index, {
                          type: chosen as ThermocoupleType,
                          coldJunctionColumn: voltages[0]?.voltage?.coldJunctionColumn ?? null,
                          coldJunctionC: 25,
                        });
                    }}
                  >
                    {(Object.keys(DEGREES) as TemperatureUnit[]).map((unit) => (
                      <option key={unit} value={`°${unit}`}>
                        {DEGREES[unit]}
                      </option>
                    ))}
                    {THERMOCOUPLE_TYPES.map((type) => (
                      <option key={type} value={type}>
                        mV, type {type}
                      </option>
                    ))}
                  </select>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
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
