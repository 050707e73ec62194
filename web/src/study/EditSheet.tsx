import { useEffect, useMemo, useState, useRef, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { check, StudyBody, type FieldProblem, type Problem, type Study } from '@red-ember/contract';
import { api, statusOf } from '../data/api.ts';
import { useSaveStudy } from '../data/useSaveStudy.ts';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { Sheet } from '../frame/Sheet.tsx';
import { ProblemsContext } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { redone, saved, undone, type rebased, type takenOver } from './draftSlice.ts';
import { elsewhere } from './elsewhere.ts';
import { draftOf } from './drafts.ts';
import { NotSaved } from './NotSaved.tsx';
import { SaveBar } from './SaveBar.tsx';
import { useStudyDraft, type StudyDraft } from './useStudyDraft.ts';

/** Problems of a whole list or map, which no single field shows. */
const WHOLE = /^\/(claims|predictions|subjects|spots|variants|recipe|locks|subjects\/\d+\/map)$/;

interface Props {
  study: Study;
  station: string;
  heading: ReactNode;
  under?: ReactNode;
  margin: ReactNode;
  children: (draft: StudyDraft) => ReactNode;
}

/** What is wrong on other pages, and with a list or map as a whole. */
function OfNoField({ study, problems }: { study: Study; problems: FieldProblem[] }) {
  const here = useLocation().pathname.replace(/^\/studies\/[^/]+\//, '');
  return (
    <>
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
    </>
  );
}

/** A station at which part of the study is written: same save bar, same checks, same undo everywhere. */
export function EditSheet({ study, station, heading, under, margin, children }: Props) {
  const dispatch = useAppDispatch();
  const draft = useStudyDraft(study);
  const stored = useAppSelector((state) => draftOf(state, study.id));
  const [save, saving] = useSaveStudy();
  const [tried, setTried] = useState(false);
  const [other, setOther] = useState<Study | null>(null);
  const [fromServer, setFromServer] = useState<FieldProblem[]>([]);
  const { body, dirty } = draft;

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

  const settle = async (how: typeof takenOver | typeof rebased) => {
    const { data } = await dispatch(api.endpoints.study.initiate(study.id, { forceRefetch: true }));
    if (data) dispatch(how(data));
    setOther(null);
    saving.reset();
  };

  return (
    <ProblemsContext.Provider value={problems}>
      <Sheet
        crumb={`${study.title} / ${station}`}
        windowTitle={`${station}, ${study.title}`}
        heading={heading}
        under={under}
        actions={<SaveBar study={study} dirty={dirty} wrong={own.length} saving={saving.isLoading} onSave={() => void submit()} />}
        margin={margin}
      >
        {saving.error && dirty ? (
          <NotSaved
            studyId={study.id}
            error={saving.error}
            problems={fromServer}
            other={other}
            onSettle={(how) => void settle(how)}
            onSame={() => void submit(true)}
          />
        ) : null}
        <OfNoField study={study} problems={problems} />
        {children(draft)}
      </Sheet>
    </ProblemsContext.Provider>
  );
}
