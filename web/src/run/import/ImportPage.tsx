import { Upload } from 'lucide-react';
import { useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { useNavigate, useSearchParams } from 'react-router';
import { duration } from '@red-ember/core';
import { TIME_FORMATS, type FieldProblem, type ImportRunBody, type Problem, type StagedLog, type Study } from '@red-ember/contract';
import { ownZone, sentenceOf, useLogTraceQuery, useMakeRunOfLogMutation, useRunQuery, useStageLogMutation } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { ChoiceField, ProblemsContext } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { PhaseTable, PhaseTrace } from '../../logs/PhaseEditor.tsx';
import { ColumnTable } from '../../logs/ColumnTable.tsx';
import { ImportProgress } from '../../logs/ImportProgress.tsx';
import { JoinLog } from './JoinLog.tsx';
import { TIMES } from '../../logs/timeWords.ts';
import { useStudy } from '../../study/StudyFrame.tsx';

const DELIMITERS: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' };

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

/** What a log is taken to be until somebody says otherwise. */
const runOf = (study: Study, log: StagedLog): ImportRunBody => ({
  variantId: (study.variants.find(({ name }) => name.toLowerCase() === log.guess.variant?.toLowerCase()) ?? study.variants[0])?.id ?? '',
  timeColumn: log.guess.timeColumn ?? -1,
  dateColumn: log.guess.dateColumn,
  timeFormat: log.guess.timeFormat,
  columns: log.guess.columns,
  loadStartS: log.guess.loadStartS,
  loadEndS: log.guess.loadEndS,
  phases: log.guess.phases.map(({ kind, name, startS, endS, why }) => ({ kind, name, startS, endS, why })),
  mount: log.guess.mount,
  zone: ownZone(),
  acceptOddTemperatures: false,
  note: '',
});

function MapLog({ study, log, onOther }: { study: Study; log: StagedLog; onOther: () => void }) {
  const navigate = useNavigate();
  const [make, making] = useMakeRunOfLogMutation();
  const [body, setBody] = useState<ImportRunBody>(() => runOf(study, log));
  const { data: trace } = useLogTraceQuery(log.id);
  const phases = body.phases ?? [];
  const [job, setJob] = useState('');
  const set = (part: Partial<ImportRunBody>) => setBody({ ...body, ...part });
  const problems = ((making.error as { data?: Problem } | undefined)?.data?.errors ?? []) as FieldProblem[];
  const asksUnits = problems.some((problem) => problem.pointer === '/acceptOddTemperatures');
  const submit = async (accept: boolean) => {
    const id = crypto.randomUUID();
    setJob(id);
    const sent = { ...body, acceptOddTemperatures: accept };
    const result = await make({ studyId: study.id, logId: log.id, fileName: log.fileName, body: sent, job: id });
    if ('data' in result && result.data) void navigate(`/studies/${study.id}/read?run=${result.data.id}`);
  };
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
        <ColumnTable
          family={study.family}
          spots={study.spots}
          locks={study.locks}
          log={log}
          value={{ ...body, timeColumn: body.timeColumn < 0 ? null : body.timeColumn }}
          onChange={set}
        />
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
          <ChoiceField
            label="Mount"
            pointer="/mount"
            value={body.mount == null ? '' : String(body.mount)}
            onChange={(mount) => set({ mount: mount === '' ? null : Number(mount) })}
            options={[
              { value: '', label: 'unknown' },
              ...Array.from({ length: Math.max(9, body.mount ?? 0) }, (_, i) => ({ value: String(i + 1), label: String(i + 1) })),
            ]}
          />
        </div>
        {log.duplicateOf ? <Notice tone="hint">These are the same readings as {log.duplicateOf}.</Notice> : null}
      </Section>
      <Section title="What it went through" hint={log.doubts.join(' ')}>
        {trace ? <PhaseTrace trace={trace} columns={body.columns} phases={phases} onChange={(next) => set({ phases: next })} /> : null}
        <div className="mt-3">
          <PhaseTable phases={phases} onChange={(next) => set({ phases: next })} />
        </div>
      </Section>
      {making.error ? (
        <Notice tone="error" action={asksUnits ? <Button onClick={() => void submit(true)}>It is °C, import it</Button> : undefined}>
          {sentenceOf(making.error)}
        </Notice>
      ) : null}
      {making.isLoading ? <ImportProgress key={job} job={job} /> : null}
      <Button
        look="strong"
        disabled={making.isLoading || study.variants.length === 0 || body.timeColumn < 0}
        onClick={() => void submit(false)}
      >
        {making.isLoading ? 'Importing…' : 'Import as a run'}
      </Button>
    </ProblemsContext.Provider>
  );
}

export function ImportPage() {
  const study = useStudy();
  const [search] = useSearchParams();
  const { data: joined } = useRunQuery(search.get('run') ?? skipToken);
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
      heading={joined ? `Add a log to run ${joined.number}` : 'Import a recorded log'}
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
              row of units may stand above. Decimal points or commas, temperatures in °C, °F, K or millivolts. Or JSON, one object a line.
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
          <span>{staging.isLoading ? 'Reading the file…' : 'Drop a log here, or choose one'}</span>
          <input
            type="file"
            className="sr-only"
            accept=".csv,.tsv,.txt,.log,.json,.jsonl,.ndjson,.xlsx,.gz,text/csv,text/plain,application/json"
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
      {staging.data && joined ? (
        <JoinLog key={staging.data.id} study={study} log={staging.data} run={joined} onOther={() => staging.reset()} />
      ) : staging.data ? (
        <MapLog key={staging.data.id} study={study} log={staging.data} onOther={() => staging.reset()} />
      ) : null}
    </Sheet>
  );
}
