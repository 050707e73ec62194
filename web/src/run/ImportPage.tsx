import { Upload } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { duration, THERMOCOUPLE_TYPES, type TemperatureUnit, type ThermocoupleType } from '@red-ember/core';
import {
  TIME_FORMATS,
  type ColumnMapBody,
  type FieldProblem,
  type ImportRunBody,
  type Problem,
  type StagedLog,
  type Study,
  type TimeFormat,
  type VoltageBody,
} from '@red-ember/contract';
import { sentenceOf, useMakeRunOfLogMutation, useStageLogMutation } from '../app/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button, ButtonLink } from '../parts/Button.tsx';
import { ChoiceField, NumberField, ProblemsContext } from '../parts/Field.tsx';
import { Notice } from '../parts/Notice.tsx';
import { Section } from '../parts/Section.tsx';
import { ImportProgress } from './ImportProgress.tsx';
import { useStudy } from '../study/StudyFrame.tsx';

const ROLE_NAMES: Record<Exclude<ColumnMapBody['role'], 'spot' | 'held'>, string> = {
  room: 'room air',
  intake: 'air at the intake',
  throughput: 'throughput, MB/s',
  power: 'power, W',
  utilisation: 'time busy, %',
  clock: 'clock, MHz',
  fan: 'fan, 1/min',
  level: 'sound level, dB(A)',
};

const TIMES: Record<TimeFormat, string> = {
  'elapsed-s': 'elapsed seconds',
  'elapsed-min': 'elapsed minutes',
  clock: 'clock, 14:05:00',
  iso: 'date and time',
  'epoch-s': 'seconds since 1970',
  'epoch-ms': 'milliseconds since 1970',
};
const DELIMITERS: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' };
const DEGREES: Record<TemperatureUnit, string> = { C: '°C', F: '°F', K: 'K' };

/** How the file was understood, in a line. */
function writtenWords({ encoding, delimiter, decimal, headerLine, unitsLine }: StagedLog['written']): string {
  const header = headerLine === null ? 'no header' : `header in line ${headerLine}`;
  return [
    encoding,
    DELIMITERS[delimiter] ?? delimiter,
    decimal === ',' ? 'decimal commas' : 'decimal points',
    unitsLine === null ? header : `${header}, units in line ${unitsLine}`,
  ].join(', ');
}

function MapLog({ study, log, onOther }: { study: Study; log: StagedLog; onOther: () => void }) {
  const navigate = useNavigate();
  const [make, making] = useMakeRunOfLogMutation();
  const [body, setBody] = useState<ImportRunBody>({
    variantId: study.variants[0]?.id ?? '',
    timeColumn: log.guess.timeColumn,
    timeFormat: log.guess.timeFormat,
    columns: log.guess.columns,
    loadStartS: Math.round(log.guess.loadStartS),
    loadEndS: Math.round(log.guess.loadEndS),
    acceptOddTemperatures: false,
    note: '',
  });
  const [job, setJob] = useState('');
  const set = (part: Partial<ImportRunBody>) => setBody({ ...body, ...part });
  const problems = ((making.error as { data?: Problem } | undefined)?.data?.errors ?? []) as FieldProblem[];
  const asksUnits = problems.some((problem) => problem.pointer === '/acceptOddTemperatures');
  const roleOf = (column: number) => {
    if (column === body.timeColumn) return 'time';
    const map = body.columns.find((entry) => entry.column === column);
    if (!map) return '';
    return map.role === 'spot' ? `spot:${map.spotId}` : map.role === 'held' ? `lock:${map.lockName}` : map.role;
  };
  const choose = (column: number, value: string) => {
    const rest = body.columns.filter((entry) => entry.column !== column);
    if (value === 'time') set({ timeColumn: column, columns: rest });
    else if (value === '') set({ columns: rest });
    else if (value.startsWith('spot:')) set({ columns: [...rest, { column, role: 'spot', spotId: value.slice(5) }] });
    else if (value.startsWith('lock:')) set({ columns: [...rest, { column, role: 'held', spotId: null, lockName: value.slice(5) }] });
    else set({ columns: [...rest, { column, role: value as ColumnMapBody['role'], spotId: null }] });
  };
  const submit = async (accept: boolean) => {
    const id = crypto.randomUUID();
    setJob(id);
    const sent = { ...body, acceptOddTemperatures: accept };
    const result = await make({ studyId: study.id, logId: log.id, fileName: log.fileName, body: sent, job: id });
    if ('data' in result && result.data) void navigate(`/studies/${study.id}/read?run=${result.data.id}`);
  };
  const options = [
    { value: '', label: 'not used' },
    { value: 'time', label: 'time' },
    ...study.spots.map((spot) => ({ value: `spot:${spot.id}`, label: spot.name })),
    ...Object.entries(ROLE_NAMES).map(([value, label]) => ({ value, label })),
    ...study.locks.filter((lock) => lock.channel !== '').map((lock) => ({ value: `lock:${lock.name}`, label: `${lock.name}, watched` })),
  ];
  const voltages = body.columns.filter((entry) => entry.voltage);
  const unitOf = (column: number) => {
    const map = body.columns.find((entry) => entry.column === column);
    return map?.voltage ? map.voltage.type : `°${map?.unit ?? 'C'}`;
  };
  const setUnit = (column: number, unit: TemperatureUnit) =>
    set({ columns: body.columns.map((entry) => (entry.column === column ? { ...entry, unit, voltage: null } : entry)) });
  const setVoltage = (column: number, voltage: VoltageBody | null) =>
    set({ columns: body.columns.map((entry) => (entry.column === column ? { ...entry, voltage } : entry)) });
  return (
    <ProblemsContext.Provider value={problems}>
      <Section
        title={log.fileName}
        hint={`${log.rowsAbout ? 'about ' : ''}${log.rows} readings, ${log.columns.length} columns${log.guess.lengthS > 0 ? `, ${duration(log.guess.lengthS)}` : ''}`}
        action={
          <Button look="quiet" onClick={onOther}>
            Another file
          </Button>
        }
      >
        <p className="mb-3 text-[0.93rem] text-soft">
          Read as {writtenWords(log.written)}.{log.known ? ' These columns were mapped before; they are filled in as they were then.' : ''}
        </p>
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
                  {body.columns.some((entry) => entry.column === column.index && (entry.role === 'spot' || entry.role === 'room')) ? (
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
                  set({
                    columns: body.columns.map((entry) =>
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
                pointer={`/columns/${body.columns.indexOf(voltages[0]!)}/voltage/coldJunctionC`}
                value={voltages[0]!.voltage!.coldJunctionC}
                onChange={(coldJunctionC) =>
                  set({
                    columns: body.columns.map((entry) =>
                      entry.voltage ? { ...entry, voltage: { ...entry.voltage, coldJunctionC } } : entry,
                    ),
                  })
                }
              />
            ) : null}
          </div>
        ) : null}
      </Section>
      <Section title="The run">
        <div className="grid gap-4 md:grid-cols-4">
          <ChoiceField
            label="Variant on the bench"
            pointer="/variantId"
            value={body.variantId}
            onChange={(variantId) => set({ variantId })}
            options={study.variants.map((variant) => ({ value: variant.id, label: variant.name }))}
          />
          <ChoiceField
            label="Time is given as"
            pointer="/timeFormat"
            value={body.timeFormat}
            onChange={(timeFormat) => set({ timeFormat })}
            options={TIME_FORMATS.map((value) => ({ value, label: TIMES[value] }))}
          />
          <NumberField
            label="Load began at"
            unit="s"
            pointer="/loadStartS"
            value={body.loadStartS}
            onChange={(loadStartS) => set({ loadStartS })}
          />
          <NumberField
            label="Load ended at"
            unit="s"
            pointer="/loadEndS"
            value={body.loadEndS}
            onChange={(loadEndS) => set({ loadEndS })}
          />
        </div>
      </Section>
      {making.error ? (
        <Notice tone="error" action={asksUnits ? <Button onClick={() => void submit(true)}>It is °C, import it</Button> : undefined}>
          {sentenceOf(making.error)}
        </Notice>
      ) : null}
      {making.isLoading ? <ImportProgress key={job} job={job} /> : null}
      <Button look="strong" disabled={making.isLoading || study.variants.length === 0} onClick={() => void submit(false)}>
        {making.isLoading ? 'Importing…' : 'Import as a run'}
      </Button>
    </ProblemsContext.Provider>
  );
}

export function ImportPage() {
  const study = useStudy();
  const [stage, staging] = useStageLogMutation();
  const [over, setOver] = useState(false);
  const [job, setJob] = useState('');
  const take = (file: File | undefined) => {
    if (!file) return;
    const id = crypto.randomUUID();
    setJob(id);
    void stage({ studyId: study.id, file, job: id });
  };
  const ready = study.spots.length > 0 && study.variants.length > 0;
  return (
    <Sheet
      crumb={`${study.title} / Run / import`}
      windowTitle={`Import, ${study.title}`}
      heading="Import a recorded log"
      actions={
        <ButtonLink to={`/studies/${study.id}/run`} look="quiet">
          Back to the runs
        </ButtonLink>
      }
      margin={
        <>
          <MarginGroup title="What can be read">
            <Note>
              Text with columns separated by commas, semicolons, tabs or bars; UTF-8, UTF-16 or Latin-1; a preamble, comments with # and a
              row of units may stand above. Decimal points or commas, temperatures in °C, °F, K or millivolts.
            </Note>
            <Note>Empty cells, N/A and --- count as missing and are shown as gaps.</Note>
          </MarginGroup>
          <MarginGroup title="All or nothing">
            <Note>A file that cannot be read is refused with the line and the reason; nothing of it is kept.</Note>
            <Note>Single rows that repeat a time or go back are left out, and the run names their lines.</Note>
          </MarginGroup>
        </>
      }
    >
      {!ready ? (
        <Notice
          tone="hint"
          action={
            <ButtonLink to={`/studies/${study.id}/${study.spots.length === 0 ? 'look' : 'plan'}`}>
              {study.spots.length === 0 ? 'To Look' : 'To Plan'}
            </ButtonLink>
          }
        >
          A log needs somewhere to go: give the study {study.spots.length === 0 ? 'its spots' : 'its variants'} first.
        </Notice>
      ) : null}
      {ready && !staging.data ? (
        <label
          className={`flex cursor-pointer flex-col items-center gap-2 border-2 border-dashed px-6 py-14 text-center ${over ? 'border-ink bg-shade' : 'border-stone'} has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-quench`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event) => {
            event.preventDefault();
            setOver(false);
            take(event.dataTransfer.files[0]);
          }}
        >
          <Upload size={26} aria-hidden />
          <span>{staging.isLoading ? 'Reading the file…' : 'Drop a CSV file here, or choose one'}</span>
          <input
            type="file"
            className="sr-only"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            disabled={staging.isLoading}
            onChange={(event) => {
              take(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      ) : null}
      {staging.isLoading ? <ImportProgress key={job} job={job} /> : null}
      {staging.error ? <Notice tone="error">{sentenceOf(staging.error)}</Notice> : null}
      {staging.data ? <MapLog key={staging.data.id} study={study} log={staging.data} onOther={() => staging.reset()} /> : null}
    </Sheet>
  );
}
