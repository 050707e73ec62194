import { counted } from '@red-ember/core';
import { Archive, Copy, Download, Plus, RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { StudySummary } from '@red-ember/contract';
import { addressOf } from '@red-ember/contract/operations';
import { blankStudy, familyOf } from '@red-ember/study';
import { TesterRecordNote } from '../ask/TesterRecordNote.tsx';
import {
  sentenceOf,
  useCopyStudyMutation,
  useCreateStudyMutation,
  useLazySampleLogQuery,
  useLogsQuery,
  useRestoreStudyMutation,
  useRigsQuery,
  useShelfQuery,
  useTrashStudyMutation,
} from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { DropZone } from '../logs/DropZone.tsx';
import { handOver } from '../logs/handed.ts';
import { SAMPLE_DAY } from '../logs/samples.ts';
import { Button } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { tourWalked } from '../data/settings.ts';
import { useAppDispatch } from '../data/store.ts';
import { tourOf } from '../study/tour.ts';
import { ReadIn, useReadIn } from './ReadIn.tsx';
import { sorted } from './studyFiles.ts';
import { ShelfVerdict } from './ShelfVerdict.tsx';
import { sinceOf } from '../ui/dates.ts';

function NewStudy() {
  const { register, handleSubmit, watch } = useForm({ defaultValues: { title: '' } });
  const [create, creating] = useCreateStudyMutation();
  const navigate = useNavigate();
  const blank = watch('title').trim() === '';
  const submit = handleSubmit(async ({ title }) => {
    if (title.trim() === '') return;
    const result = await create(blankStudy(title.trim()));
    if ('data' in result && result.data) void navigate(`/studies/${result.data.id}/ask`);
  });
  return (
    <form onSubmit={(event) => void submit(event)} className="mb-6 flex flex-wrap items-end gap-3">
      <div className="min-w-64 flex-1">
        <label htmlFor="new-title" className="mb-1 block text-[0.87rem] text-soft">
          Start a study
        </label>
        <input id="new-title" className="field-box" maxLength={120} placeholder="Comb sink on Thistle 1T" {...register('title')} />
      </div>
      <Button type="submit" look="strong" disabled={blank || creating.isLoading}>
        <Plus size={16} aria-hidden /> Start
      </Button>
      {creating.error ? <Notice tone="error">{sentenceOf(creating.error)}</Notice> : null}
    </form>
  );
}

/** Logs that are there already become a study by themselves. */
function PutLogsDown({ empty, onStudies }: { empty: boolean; onStudies: (files: File[]) => void }) {
  const navigate = useNavigate();
  const { data: waiting } = useLogsQuery();
  const [sample, { isFetching: fetching }] = useLazySampleLogQuery();
  const [failed, setFailed] = useState(false);
  const trySamples = async () => {
    const texts = await Promise.all(SAMPLE_DAY.map((name) => sample(name)));
    const files = texts.flatMap(({ data }, i) => (data === undefined ? [] : [new File([data], SAMPLE_DAY[i]!, { type: 'text/csv' })]));
    setFailed(files.length < SAMPLE_DAY.length);
    if (files.length < SAMPLE_DAY.length) return;
    handOver(files);
    void navigate('/logs');
  };
  return (
    <div className="mb-6">
      <DropZone
        small
        busy={false}
        onFiles={(files) =>
          void sorted(files).then(({ studies, others }) => {
            if (studies.length > 0) onStudies(studies);
            if (others.length === 0) return;
            handOver(others);
            void navigate('/logs');
          })
        }
      >
        Or drop a day’s logs here, all at once, or a study file of another bench, or all of them
      </DropZone>
      {empty && waiting?.length === 0 ? (
        <p className="mt-2 text-[0.93rem]">
          No logs at hand?{' '}
          <button type="button" className="underline" disabled={fetching} onClick={() => void trySamples()}>
            Try it with a sample day of five logs
          </button>
          {failed ? <span className="ml-2 text-ember-text">The sample logs could not be read.</span> : null}
        </p>
      ) : null}
      <p className="mt-2 text-[0.93rem]">
        Only some numbers on a note? <Link to="/scratch">Type them on the scratch sheet</Link> and read off what they come to.
      </p>
      {waiting && waiting.length > 0 ? (
        <p className="mt-2 text-[0.93rem]">
          <Link to="/logs">{counted(waiting.length, 'log')} put down and not yet made into a study</Link>
        </p>
      ) : null}
    </div>
  );
}

function StudyItem({ study }: { study: StudySummary }) {
  const [trash] = useTrashStudyMutation();
  const [restore] = useRestoreStudyMutation();
  const [copy, copying] = useCopyStudyMutation();
  const navigate = useNavigate();
  const inTrash = study.deletedAt !== null;
  return (
    <li className="grid gap-x-8 gap-y-2 border-t border-rule py-5 md:grid-cols-[minmax(0,1fr)_minmax(0,20rem)]">
      <div>
        <h2 className="text-[1.2rem] font-semibold leading-snug">
          {inTrash ? (
            study.title
          ) : (
            <Link to={`/studies/${study.id}/${study.runs > 1 ? 'judge' : 'ask'}`} className="no-underline hover:underline">
              {study.title}
            </Link>
          )}
          {study.live ? <span className="glow ml-3 text-[0.87rem] font-semibold text-ember-text">a run goes on</span> : null}
        </h2>
        <p className="mt-1 max-w-prose">{study.question || <span className="text-soft">No question written down yet.</span>}</p>
        <p className="mt-1.5 flex flex-wrap items-center gap-x-4 text-[0.87rem] text-soft">
          <span>{study.subject}</span>
          <span>{study.runs === 0 ? 'no runs' : counted(study.runs, 'run')}</span>
          <span>changed {sinceOf(study.updatedAt)}</span>
          {inTrash ? (
            <button type="button" className="inline-flex items-center gap-1.5 underline" onClick={() => void restore(study.id)}>
              <RotateCcw size={13} aria-hidden /> Bring back
            </button>
          ) : (
            <>
              <button
                type="button"
                className="inline-flex items-center gap-1.5 hover:text-ink hover:underline"
                disabled={copying.isLoading}
                onClick={() =>
                  void copy({ id: study.id, title: `${study.title}, again`.slice(0, 120) }).then((result) => {
                    if ('data' in result && result.data) void navigate(`/studies/${result.data.id}/ask`);
                  })
                }
                aria-label={`Copy ${study.title}`}
              >
                <Copy size={13} aria-hidden /> Copy
              </button>
              <a
                className="inline-flex items-center gap-1.5 no-underline hover:text-ink hover:underline"
                href={`/api/v1${addressOf('studyFile', { id: study.id })}`}
                download
                aria-label={`Take ${study.title} along as a file`}
              >
                <Download size={13} aria-hidden /> File
              </a>
              <button
                type="button"
                className="inline-flex items-center gap-1.5 hover:text-ink hover:underline disabled:opacity-40"
                disabled={study.live}
                onClick={() => void trash(study.id)}
                aria-label={`Put ${study.title} in the trash`}
              >
                <Trash2 size={13} aria-hidden /> Trash
              </button>
            </>
          )}
        </p>
      </div>
      {inTrash || study.runs === 0 ? null : <ShelfVerdict studyId={study.id} />}
    </li>
  );
}

/** Studies come by other windows, by the command line, and by the demo that is still being made, ms. */
const LOOK_AGAIN_MS = 10_000;

export function ShelfPage() {
  const [search, setSearch] = useSearchParams();
  const trash = search.get('trash') === 'true';
  const { data: studies, error, isLoading, refetch } = useShelfQuery({ trash }, { pollingInterval: LOOK_AGAIN_MS });
  const { data: rigs } = useRigsQuery(undefined, { pollingInterval: 4000 });
  const { came, reading, readIn } = useReadIn();
  const dispatch = useAppDispatch();
  const [wanted, setWanted] = useState('');
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const found = studies?.filter((study) => {
    const text = `${study.title} ${study.subject} ${study.question} ${familyOf(study.family).name}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const toured = trash ? undefined : tourOf(studies ?? []);
  const connected = (rigs ?? []).filter((rig) => rig.connected);
  return (
    <Sheet
      crumb={trash ? 'Trash' : 'All studies'}
      windowTitle={trash ? 'Trash' : 'Studies'}
      heading={trash ? 'Studies in the trash' : 'What do you want to know?'}
      actions={
        <Button look="quiet" onClick={() => setSearch(trash ? {} : { trash: 'true' })}>
          <Archive size={15} aria-hidden /> {trash ? 'Back to the shelf' : 'Trash'}
        </Button>
      }
      margin={
        <>
          <MarginGroup title="On the bench">
            {connected.length > 0 ? (
              connected.map((rig) => (
                <Note key={rig.id} tone="cool" lead={rig.name}>
                  is connected{rig.busyRunId ? ' and busy with a run' : ' and free'}, {counted(rig.channels.length, 'channel')}.
                </Note>
              ))
            ) : (
              <Note tone="caution" lead="No rig is connected.">
                Recorded logs can be imported all the same.
              </Note>
            )}
          </MarginGroup>
          <MarginGroup title="Your predictions">
            <TesterRecordNote />
          </MarginGroup>
          <MarginGroup title="How a study goes">
            <Note>
              Write down the question, the claim and what you expect <em>before</em> you measure.
            </Note>
            <Note>
              Run each variant on at least two mounts, in turn. The page says when a part is settled, so no minute is waited for nothing.
            </Note>
            {toured ? (
              <Note>
                <Link to={`/studies/${toured.id}/ask`} onClick={() => dispatch(tourWalked(toured.id))}>
                  Walk through one, station by station
                </Link>
              </Note>
            ) : null}
            <Note>The verdict carries its doubt. Where the runs cannot decide, it says so, and how many more would.</Note>
          </MarginGroup>
        </>
      }
    >
      {trash ? (
        <p className="mb-4 text-soft">Kept for 30 days, then deleted with their runs.</p>
      ) : (
        <>
          <NewStudy />
          <PutLogsDown empty={studies?.length === 0} onStudies={(files) => void readIn(files)} />
          <ReadIn came={came} reading={reading} />
        </>
      )}
      {isLoading ? <Waiting what="Looking through the shelf" /> : null}
      {error ? (
        <Notice tone="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Notice>
      ) : null}
      {studies?.length === 0 ? (
        <Notice tone="hint">
          {trash ? 'The trash is empty.' : 'No studies yet. A study asks one question of one part: does this cover help, and by how much?'}
        </Notice>
      ) : null}
      {studies && studies.length > 3 ? (
        <div className="mb-3 max-w-sm">
          <label htmlFor="find-study" className="mb-1 block text-[0.87rem] text-soft">
            Find a study
          </label>
          <input id="find-study" type="search" className="field-box" value={wanted} onChange={(event) => setWanted(event.target.value)} />
        </div>
      ) : null}
      {found?.length === 0 && wanted !== '' ? <Notice tone="hint">No study has “{wanted}” in its title, part or question.</Notice> : null}
      <ul>
        {found?.map((study) => (
          <StudyItem key={study.id} study={study} />
        ))}
      </ul>
    </Sheet>
  );
}
