import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { counted } from '@red-ember/core';
import type { LogsStudyBody } from '@red-ember/contract';
import { sentenceOf, useLogsQuery, useShelfQuery, useTakeLogUpMutation } from '../data/api.ts';
import { Sheet } from '../frame/Sheet.tsx';
import type { SpotChoice } from './ColumnTable.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Chosen } from './Chosen.tsx';
import { Glance } from './Glance.tsx';
import { LogBeside } from './LogBeside.tsx';
import { LogsMargin } from './LogsMargin.tsx';
import { LogTable } from './LogTable.tsx';
import { MakeBar, type Asked } from './MakeBar.tsx';
import { PutDown } from './PutDown.tsx';
import { distinct, rowsOf, sentOf, sumOf, type LogRow } from './rows.ts';
import { useEdits } from './useEdits.ts';
import type { Undoable } from '../ui/steps.ts';
import { UndoButtons } from '../ui/UndoButtons.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { Making, useMakeStudy } from './useMakeStudy.tsx';
import { usePutDown } from './usePutDown.ts';
import { useZone } from './zone.ts';

/** More variants than this are ranked once they are a study. */
const MOST_GLANCED = 4;

/** One variant has nothing to be held against, and many at once are no glance any more. */
function mayBeGlanced(used: readonly LogRow[]): boolean {
  const variants = distinct(used.map(({ variant }) => variant)).length;
  return variants > 1 && variants <= MOST_GLANCED && used.every(({ log }) => log.kind !== 'results');
}

const spotsOf = (rows: readonly LogRow[]): SpotChoice[] =>
  distinct(rows.flatMap(({ columns }) => columns.flatMap((map) => map.spotName ?? []))).map((name) => ({ id: null, name }));

const headingOf = (logs: number) =>
  logs === 0 ? 'Put your logs down' : `${counted(logs, 'log')}, as ${logs === 1 ? 'it was' : 'they were'} understood`;

/** What can be done with all logs that lie there. */
function LogsActions({ undo, redo, ids }: Pick<Undoable<unknown>, 'undo' | 'redo'> & { ids: readonly string[] }) {
  const [takeUp] = useTakeLogUpMutation();
  useKeys({ undo: () => undo?.(), redo: () => redo?.() });
  return (
    <>
      {(undo ?? redo) ? <UndoButtons undo={undo} redo={redo} /> : null}
      {ids.length > 0 ? (
        <Button look="quiet" onClick={() => ids.forEach((id) => void takeUp(id))}>
          Put all away
        </Button>
      ) : null}
    </>
  );
}

/** A bench day in files: what each of them is, put right in one table, made into a study by one button. */
export function LogsPage() {
  const { data: logs, error, isLoading, refetch } = useLogsQuery();
  const putDown = usePutDown();
  const { edits, edit, undo, redo, forget } = useEdits();
  const [opened, setOpened] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [zone, setZone] = useZone();
  const [search] = useSearchParams();
  const { data: studies = [] } = useShelfQuery({ trash: false });
  const [made, setMade] = useState<Omit<Asked, 'zone'>>({ title: '', family: null, into: search.get('study') ?? '' });
  const asked: Asked = { ...made, zone };
  const setAsked = ({ zone: chosen, ...part }: Asked) => {
    setMade(part);
    if (chosen !== zone) setZone(chosen);
  };
  const rows = rowsOf(logs ?? [], edits, studies.find(({ id }) => id === made.into)?.subject);
  const used = rows.filter(({ use }) => use);
  const variants = distinct(rows.map(({ variant }) => variant));
  const spots = spotsOf(rows);
  const open = rows.find(({ log }) => log.id === opened);
  const timeless = used.filter(({ timeColumn, log }) => log.kind === 'trace' && timeColumn === null);
  const silent = used.some(({ log }) => log.guess.startedAt.zone === 'assumed');
  const ids = [...chosen].filter((id) => rows.some(({ log }) => log.id === id));
  const together: LogsStudyBody = {
    logs: rows.map((row) => sentOf(row, edits[row.log.id] ?? {})),
    zone: silent ? zone : null,
    ...(asked.family ? { family: asked.family } : {}),
  };
  const { make, making, job } = useMakeStudy(asked, () => forget(used.map(({ log }) => log.id)));
  const glances = putDown.going === null && timeless.length === 0 && mayBeGlanced(used);
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Logs"
      heading={headingOf(rows.length)}
      under={rows.length === 0 ? undefined : sumOf(rows)}
      actions={<LogsActions undo={undo} redo={redo} ids={rows.map(({ log }) => log.id)} />}
      margin={<LogsMargin />}
    >
      {isLoading ? <Waiting what="Looking for logs" /> : null}
      {error ? (
        <Notice tone="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Notice>
      ) : null}
      <PutDown any={rows.length > 0} {...putDown} />
      {rows.length > 0 ? (
        <div className="mt-5">
          <MakeBar
            value={asked}
            onChange={(part) => setAsked({ ...asked, ...part })}
            studies={studies}
            guessed={used[0]?.log.guess.family ?? 'card'}
            silent={silent}
            count={used.length}
            making={making.isLoading}
            disabled={making.isLoading || putDown.going !== null || used.length === 0 || timeless.length > 0}
            onMake={() => void make(together)}
          />
          {timeless[0] ? <Notice tone="hint">{timeless[0].log.fileName}: open it and choose the column that holds the time.</Notice> : null}
          <Making making={making} job={job} onAccept={() => void make(together, true)} />
          {glances ? (
            <Glance body={together} cells={used.reduce((sum, { log, columns }) => sum + log.rows * (columns.length + 1), 0)} />
          ) : null}
          {ids.length > 0 ? (
            <Chosen
              count={ids.length}
              variants={variants}
              onVariant={(variant) => edit(ids, { variant })}
              onMount={(mount) => edit(ids, { mount })}
              onUse={(use) => edit(ids, { use })}
            />
          ) : null}
          <div className="overflow-x-auto">
            <LogTable
              rows={rows}
              variants={variants}
              chosen={chosen}
              opened={opened}
              edit={edit}
              open={(id) => setOpened(id === opened ? null : id)}
              choose={(id, yes) => setChosen(new Set(yes ? [...chosen, id] : [...chosen].filter((other) => other !== id)))}
            />
          </div>
          {open ? (
            <LogBeside
              key={open.log.id}
              row={open}
              spots={spots}
              edit={(part) => edit([open.log.id], part)}
              onClose={() => setOpened(null)}
            />
          ) : null}
        </div>
      ) : null}
    </Sheet>
  );
}
