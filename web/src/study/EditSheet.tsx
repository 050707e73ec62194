import { useEffect, useMemo, useState, useRef, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { check, StudyBody, type FieldProblem, type Problem, type Study } from '@red-ember/contract';
import { api, sentenceOf, statusOf, useSaveStudyMutation } from '../data/api.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Sheet } from '../frame/Sheet.tsx';
import { Button } from '../ui/Button.tsx';
import { ProblemsContext } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { bodyOf } from '@red-ember/study';
import { conflictsOf, edited, rebased, redone, saved, takenOver, undone } from './draftSlice.ts';
import { conflictWords } from './conflictWords.ts';
import { elsewhere } from './elsewhere.ts';
import { draftOf } from './drafts.ts';
import { useStudyDraft, type StudyDraft } from './useStudyDraft.ts';

/** Problems of a whole list or map, which no single field shows. */
const WHOLE = /^\/(claims|predictions|subjects|spots|variants|recipe|locks|subjects\/\d+\/map)$/;

/** Something of a variant that has runs. */
const MEASURED = /^\/variants\/\d+\/(levels|subjectId|setup)$/;

interface Props {
  study: Study;
  station: string;
  heading: ReactNode;
  under?: ReactNode;
  margin: ReactNode;
  children: (draft: StudyDraft) => ReactNode;
}

/** A station at which part of the study is written: same save bar, same checks, same undo everywhere. */
export function EditSheet({ study, station, heading, under, margin, children }: Props) {
  const dispatch = useAppDispatch();
  const draft = useStudyDraft(study);
  const stored = useAppSelector((state) => draftOf(state, study.id));
  const [save, saving] = useSaveStudyMutation();
  const [tried, setTried] = useState(false);
  const [other, setOther] = useState<Study | null>(null);
  const [fromServer, setFromServer] = useState<FieldProblem[]>([]);
  const { body, dirty } = draft;
  const here = useLocation().pathname.replace(/^\/studies\/[^/]+\//, '');

  const own = useMemo(() => {
    const result = check(StudyBody, JSON.parse(JSON.stringify(body)));
    return result.ok ? [] : result.problems;
  }, [body]);
  // What was never touched is not complained about before the first try to save.
  const problems = tried || dirty ? [...own, ...fromServer] : [];

  const submit = async (renamed = false) => {
    setTried(true);
    if (own.length > 0 || !dirty) return;
    const result = await save({ id: study.id, version: stored?.version ?? study.version, body, renamed });
    if ('error' in result) {
      setFromServer(((result.error as { data?: Problem }).data?.errors ?? []) as FieldProblem[]);
      // What the other window saved is looked at beside what is here, so that it can be named.
      if (statusOf(result.error) === 412)
        void dispatch(api.endpoints.study.initiate(study.id, { forceRefetch: true, subscribe: false })).then(({ data }) =>
          setOther(data ?? null),
        );
      return;
    }
    setFromServer([]);
    setTried(false);
    void dispatch(api.util.upsertQueryData('study', study.id, result.data));
    dispatch(saved({ sent: body, study: result.data }));
  };

  const newest = useRef(submit);
  useEffect(() => {
    newest.current = submit;
  });
  useKeys(
    {
      save: () => {
        // Some fields are taken when they are left: leave the one in hand for a moment, then save what has become of it.
        const field = document.activeElement;
        if (field instanceof HTMLElement) {
          field.blur();
          field.focus();
        }
        setTimeout(() => void newest.current());
      },
      ...(stored ? { undo: () => dispatch(undone(study.id)), redo: () => dispatch(redone(study.id)) } : {}),
    },
    { whileTyping: true },
  );

  const conflict = statusOf(saving.error) === 412;
  // Runs that are there would become runs of something else: only the tester knows whether it is another name.
  const measured = statusOf(saving.error) === 409 && fromServer.some(({ pointer }) => MEASURED.test(pointer));
  // After undoing everything there is nothing to save, but still something to redo.
  const actions =
    dirty || stored?.future.length || stored?.past.length ? (
      <>
        <span className="text-[0.93rem] text-ochre-text" role="status">
          {!dirty
            ? 'As saved'
            : own.length > 0
              ? `${own.length === 1 ? 'One field needs' : `${own.length} fields need`} attention`
              : 'Not saved yet'}
        </span>
        <Button look="quiet" onClick={() => dispatch(undone(study.id))} disabled={!stored?.past.length}>
          Undo
        </Button>
        {stored?.future.length ? (
          <Button look="quiet" onClick={() => dispatch(redone(study.id))}>
            Redo
          </Button>
        ) : null}
        {dirty ? (
          <Button look="quiet" onClick={() => dispatch(edited({ study, body: bodyOf(study) }))}>
            Discard
          </Button>
        ) : null}
        <Button look="strong" onClick={() => void submit()} disabled={saving.isLoading || !dirty}>
          {saving.isLoading ? 'Saving…' : 'Save'}
        </Button>
      </>
    ) : null;

  return (
    <ProblemsContext.Provider value={problems}>
      <Sheet
        crumb={`${study.title} / ${station}`}
        windowTitle={`${station}, ${study.title}`}
        heading={heading}
        under={under}
        actions={actions}
        margin={margin}
      >
        {saving.error && dirty ? (
          <Notice
            tone="error"
            action={
              conflict ? (
                <span className="flex gap-2">
                  <Button
                    onClick={() =>
                      void dispatch(api.endpoints.study.initiate(study.id, { forceRefetch: true })).then(({ data }) => {
                        if (data) dispatch(takenOver(data));
                        setOther(null);
                        saving.reset();
                      })
                    }
                  >
                    Take over the other version
                  </Button>
                  <Button
                    look="strong"
                    onClick={() =>
                      void dispatch(api.endpoints.study.initiate(study.id, { forceRefetch: true })).then(({ data }) => {
                        if (data) dispatch(rebased(data));
                        setOther(null);
                        saving.reset();
                      })
                    }
                  >
                    Keep mine on top
                  </Button>
                </span>
              ) : measured ? (
                <span className="flex gap-2">
                  <Button onClick={() => void submit(true)}>It is the same, called otherwise</Button>
                  <Button look="quiet" onClick={() => dispatch(undone(study.id))}>
                    Undo
                  </Button>
                </span>
              ) : undefined
            }
          >
            {sentenceOf(saving.error)}
            {conflict && other && stored ? <span className="mt-1 block">{conflictWords(conflictsOf(stored, other))}</span> : null}
          </Notice>
        ) : null}
        {elsewhere(problems, here).map(({ to, name, sentence }) => (
          <Notice key={to} tone="error">
            <Link to={`/studies/${study.id}/${to}`}>At {name}</Link>: {sentence}
          </Notice>
        ))}
        {problems
          .filter((problem) => WHOLE.test(problem.pointer))
          .map((problem) => (
            <Notice key={problem.pointer} tone="error">
              {problem.sentence}
            </Notice>
          ))}
        {children(draft)}
      </Sheet>
    </ProblemsContext.Provider>
  );
}
