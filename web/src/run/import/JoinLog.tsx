import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { duration, fixed } from '@red-ember/core';
import { TIME_FORMATS, type JoinLogBody, type LogAlignment, type Run, type StagedLog, type Study } from '@red-ember/contract';
import { sentenceOf, useAlignLogMutation, useJoinLogMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { ChoiceField, NumberField, ProblemsContext } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { TraceChart } from '../../ui/TraceChart.tsx';
import { ColumnTable } from '../../logs/ColumnTable.tsx';
import { ImportProgress } from '../../logs/ImportProgress.tsx';
import { TIMES } from '../../logs/timeWords.ts';

/** What was found of two clocks, in a sentence or two. */
function offsetWords({ offsetS, sure, lag, stepS }: LogAlignment): string {
  if (!sure)
    return 'The two do not clearly show the same step, or show it more than once: choose other columns, or move the clock by hand.';
  const agree = `The two agree best with the log ${fixed(Math.abs(offsetS), 1)} s ${offsetS < 0 ? 'earlier' : 'later'}, to within ${fixed(Math.max(0.5, stepS / 2), 1)} s.`;
  if (lag === null) return agree;
  const which = lag.side === 'b' ? 'log' : 'run';
  return `${agree} What the ${which} shows there follows by some ${fixed(lag.tauS, 0)} s, as a slow sensor does; that is no matter of its clock.`;
}

/** Each side between its own lowest and highest, so that two units lie on each other. */
function share(y: (number | null)[]): (number | null)[] {
  const known = y.filter((value): value is number => value !== null);
  const low = known.reduce((least, value) => Math.min(least, value), Infinity);
  const high = known.reduce((most, value) => Math.max(most, value), -Infinity);
  return y.map((value) => (value === null ? null : high > low ? (100 * (value - low)) / (high - low) : 50));
}

/** What was found of the two clocks, and both records on one, so that an eye can judge it too. */
function OneClock({ run, found, offsetS }: { run: Run; found: LogAlignment; offsetS: number }) {
  return (
    <>
      <p className="mb-6 mt-3" role="status">
        {offsetWords(found)}
      </p>
      <TraceChart
        label="Run and log on one clock"
        unit="% of its span"
        height={220}
        fromS={0}
        toS={Math.max(run.lengthS, 60)}
        traces={[
          { key: 'run', name: `run ${run.number}`, colour: 'var(--soft)', t: found.run.t, y: share(found.run.y) },
          {
            key: 'log',
            name: 'the log',
            colour: 'var(--ember-text)',
            dash: '6 3',
            t: found.log.t.map((t) => t + offsetS),
            y: share(found.log.y),
          },
        ]}
      />
    </>
  );
}

type Recorded = Run['channels'][number];

/** The channel of a run in which a change of load shows best. */
const showsLoad = (recorded: readonly Recorded[]): Recorded | undefined =>
  recorded.find(({ role }) => role === 'throughput') ?? recorded.find(({ role }) => role === 'power') ?? recorded[0];

/** The column of a log that shows the load as the run does. */
function likelyColumn({ guess }: StagedLog, role: Recorded['role'] | undefined): number {
  const [likely] = [role, 'throughput', 'power', 'utilisation'].flatMap((wanted) => guess.columns.find((map) => map.role === wanted) ?? []);
  return (likely ?? guess.columns[0])?.column ?? (guess.timeColumn === 0 ? 1 : 0);
}

/** What the run has already is not offered again. */
const newColumns = (log: StagedLog, run: Run) =>
  log.guess.columns.filter(
    ({ role, spotId }) => role !== 'mark' && !run.channels.some((own) => own.role === role && own.spotId === spotId),
  );

function nameOf(study: Study, run: Run, key: string): string {
  const own = run.channels.find((entry) => entry.key === key);
  return study.spots.find((spot) => spot.id === own?.spotId)?.name ?? own?.role ?? key;
}

function ColumnChoice({
  log,
  timeColumn,
  value,
  onChange,
}: {
  log: StagedLog;
  timeColumn: number;
  value: number;
  onChange: (column: number) => void;
}) {
  return (
    <ChoiceField
      label="The log shows it in"
      pointer="/column"
      value={String(value)}
      onChange={(chosen) => onChange(Number(chosen))}
      options={log.columns.filter(({ index }) => index !== timeColumn).map(({ index, name }) => ({ value: String(index), label: name }))}
    />
  );
}

/** Why it was not added; where its unit is doubted, it may be said to be right. */
function NotAdded({ error, onAccept }: { error: Parameters<typeof sentenceOf>[0]; onAccept: () => void }) {
  const sentence = sentenceOf(error);
  const asksUnits = sentence?.includes('is this °F?') ?? false;
  return (
    <Notice tone="error" action={asksUnits ? <Button onClick={onAccept}>It is °C, add it</Button> : undefined}>
      {sentence}
    </Notice>
  );
}

/** Another log of a run that is there already, by another clock: laid over it, moved by the load step that both show. */
export function JoinLog({ study, log, run, onOther }: { study: Study; log: StagedLog; run: Run; onOther: () => void }) {
  const navigate = useNavigate();
  const recorded = run.channels.filter((channel) => channel.role !== 'hand');
  const seenByRun = showsLoad(recorded);
  const [channel, setChannel] = useState(seenByRun?.key ?? '');
  const [column, setColumn] = useState(likelyColumn(log, seenByRun?.role));
  const [body, setBody] = useState<JoinLogBody>({
    runId: run.id,
    timeColumn: log.guess.timeColumn ?? 0,
    dateColumn: log.guess.dateColumn,
    timeFormat: log.guess.timeFormat,
    columns: newColumns(log, run),
    offsetS: 0,
    acceptOddTemperatures: false,
  });
  const [job, setJob] = useState('');
  const [align, aligning] = useAlignLogMutation();
  const [join, joining] = useJoinLogMutation();
  const { timeColumn, timeFormat } = body;
  useEffect(() => {
    if (channel === '') return;
    void align({ studyId: study.id, logId: log.id, body: { runId: run.id, timeColumn, timeFormat, column, channel } }).then((result) => {
      if (!('data' in result) || !result.data) return;
      const { offsetS, sure } = result.data;
      // What is not sure moves nothing by itself.
      setBody((now) => ({ ...now, offsetS: sure ? Math.round(10 * offsetS) / 10 : 0 }));
    });
  }, [align, study.id, log.id, run.id, timeColumn, timeFormat, column, channel]);
  const found = aligning.data;
  const submit = async (acceptOddTemperatures: boolean) => {
    const id = crypto.randomUUID();
    setJob(id);
    const asked = { studyId: study.id, logId: log.id, fileName: log.fileName, job: id };
    const result = await join({ ...asked, body: { ...body, acceptOddTemperatures } });
    if ('data' in result && result.data) void navigate(`/studies/${study.id}/run/${run.id}`);
  };
  return (
    <ProblemsContext.Provider value={[]}>
      <Section
        title={log.fileName}
        hint={`${log.rowsAbout ? 'about ' : ''}${log.rows} readings, to be added to run ${run.number}`}
        action={
          <Button look="quiet" onClick={onOther}>
            Another file
          </Button>
        }
      >
        <ColumnTable
          family={study.family}
          spots={study.spots}
          locks={study.locks}
          log={log}
          value={body}
          onChange={(part) => setBody({ ...body, ...part })}
        />
      </Section>
      <Section title="Its clock" hint="Both show when the load came on; the log is moved until the two agree.">
        <div className="grid items-end gap-4 md:grid-cols-4">
          <ChoiceField
            label={`Run ${run.number} shows it in`}
            pointer="/channel"
            value={channel}
            onChange={setChannel}
            options={recorded.map(({ key }) => ({ value: key, label: nameOf(study, run, key) }))}
          />
          <ColumnChoice log={log} timeColumn={timeColumn} value={column} onChange={setColumn} />
          <ChoiceField
            label="Time is given as"
            pointer="/timeFormat"
            value={timeFormat}
            onChange={(format) => setBody({ ...body, timeFormat: format })}
            options={TIME_FORMATS.map((value) => ({ value, label: TIMES[value] }))}
          />
          <NumberField
            label="Its clock is moved by"
            unit="s"
            pointer="/offsetS"
            value={body.offsetS}
            onChange={(offsetS) => setBody({ ...body, offsetS })}
          />
        </div>
        {aligning.isLoading ? <p className="mt-3 text-soft">Comparing the two clocks…</p> : null}
        {aligning.error ? <Notice tone="error">{sentenceOf(aligning.error)}</Notice> : null}
        {found ? <OneClock run={run} found={found} offsetS={body.offsetS} /> : null}
      </Section>
      {joining.error ? <NotAdded error={joining.error} onAccept={() => void submit(true)} /> : null}
      {joining.isLoading ? <ImportProgress key={job} job={job} /> : null}
      <Button look="strong" disabled={joining.isLoading || body.columns.length === 0} onClick={() => void submit(false)}>
        {joining.isLoading ? 'Adding…' : `Add it to run ${run.number}`}
      </Button>
      <span className="ml-4 text-[0.93rem] text-soft">The run is {duration(run.lengthS)} long; what lies outside is left out.</span>
    </ProblemsContext.Provider>
  );
}
