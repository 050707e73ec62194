import { useMemo } from 'react';
import { type Study, type StudyBody } from '@red-ember/contract';
import { bodyOf } from '@red-ember/study';
import { useAppDispatch, useAppSelector } from '../data/store.ts';
import { edited, written } from './draftSlice.ts';
import { draftOf } from './drafts.ts';

export interface StudyDraft {
  body: StudyBody;
  dirty: boolean;
  /** Replaces parts of the study. */
  change(part: Partial<StudyBody>): void;
}

/** What is shown and edited: the draft where there is one, else the study as saved. */
export function useStudyDraft(study: Study): StudyDraft {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => draftOf(state, study.id));
  const saved = useMemo(() => bodyOf(study), [study]);
  const body = draft ? written(draft) : saved;
  return {
    body,
    dirty: draft !== undefined && JSON.stringify(body) !== JSON.stringify(saved),
    change: (part) => dispatch(edited({ study, body: { ...body, ...part } })),
  };
}
