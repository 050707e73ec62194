import { useEffect, useRef, useState } from 'react';
import type { Survey, SurveyBody } from '@red-ember/contract';
import { useUndoable } from '../ui/steps.ts';
import { sentenceOf, statusOf, useSaveSurveyMutation } from '../data/api.ts';

const PAUSE_MS = 700;

/** What is said about a picture, apart from the picture itself. */
export function saidOf(survey: Survey): SurveyBody {
  const { name, subjectId, face, emissivitySet, emissivity, reflectedC, minProminenceK, regions, references, mirrored } = survey;
  return { name, subjectId, face, emissivitySet, emissivity, reflectedC, minProminenceK, regions, references, mirrored };
}

export interface SurveyDraft {
  said: SurveyBody;
  change(part: Partial<SurveyBody>): void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  state: 'saved' | 'waiting' | 'saving' | 'refused';
  /** Why it could not be saved; what was typed stays. */
  sentence: string | null;
  /** Somebody else changed the picture meanwhile. */
  conflict: boolean;
}

/** Keeps what is said about a picture by itself, a moment after the last change; undo goes back to where the page was opened. */
export function useSurveyDraft(survey: Survey): SurveyDraft {
  const { value: said, put, undo, redo } = useUndoable(() => saidOf(survey));
  const [dirty, setDirty] = useState(false);
  const [save, saving] = useSaveSurveyMutation();
  const version = useRef(survey.version);
  useEffect(() => {
    if (!dirty) return;
    const timer = setTimeout(() => {
      void save({ id: survey.id, version: version.current, body: said }).then((result) => {
        if (!('data' in result) || !result.data) return;
        version.current = result.data.version;
        setDirty(false);
      });
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [dirty, said, save, survey.id]);
  const dirtied = (step: (() => void) | null) =>
    step &&
    (() => {
      step();
      setDirty(true);
    });
  return {
    said,
    change: (part) => {
      put({ ...said, ...part });
      setDirty(true);
    },
    undo: dirtied(undo),
    redo: dirtied(redo),
    state: saving.error && dirty ? 'refused' : saving.isLoading ? 'saving' : dirty ? 'waiting' : 'saved',
    sentence: saving.error && dirty ? sentenceOf(saving.error) : null,
    conflict: statusOf(saving.error) === 412,
  };
}
