import { useReducer } from 'react';
import undoable, { ActionCreators, newHistory, type StateWithHistory } from 'redux-undo';

/** What was written, with what it would undo and redo to. One way for the draft of a study, a heat picture and the logs that are put right. */
export interface Steps<T> {
  history: StateWithHistory<T>;
  /** The field that was written last, and when. */
  last: { field: string; atMs: number; group: string } | null;
}

const MOST = 100;
/** A pause in typing: what comes after it is a step of its own. */
const PAUSE_MS = 1000;

type Put = { type: 'put'; value: unknown; group: string | null };
/** The kept reducer is of no type: it is given its own by the functions below. */
const historyOf = undoable<unknown, Put>((present: unknown, action) => (action.type === 'put' ? action.value : present), {
  limit: MOST + 1,
  groupBy: (action) => action.group,
}) as (history: StateWithHistory<unknown>, action: Put | ReturnType<typeof ActionCreators.undo>) => StateWithHistory<unknown>;

const isWriting = (value: unknown) => value === undefined || value === null || typeof value === 'string' || typeof value === 'number';

/** Pointer of the one text or number in which two values differ; null where more was changed, or something else than what is typed or pushed. */
export function writtenField(before: unknown, after: unknown, at = ''): string | null {
  if (isWriting(before) && isWriting(after)) return at;
  if (typeof before !== 'object' || typeof after !== 'object' || before === null || after === null) return null;
  const [from, to] = [before as Record<string, unknown>, after as Record<string, unknown>];
  if (Array.isArray(before) && before.length !== (after as unknown[]).length) return null;
  const keys = [...new Set([...Object.keys(from), ...Object.keys(to)])].filter(
    (key) => JSON.stringify(from[key]) !== JSON.stringify(to[key]),
  );
  return keys.length === 1 ? writtenField(from[keys[0]!], to[keys[0]!], `${at}/${keys[0]!}`) : null;
}

export const firstStep = <T>(value: T): Steps<T> => ({ history: newHistory([], value, []), last: null });

/** A change that is a step of its own, whatever was changed. */
export const alone = <T>({ history }: Steps<T>, value: T): Steps<T> => ({
  history: historyOf(history, { type: 'put', value, group: null }) as StateWithHistory<T>,
  last: null,
});

/** A change, which can be undone; one field that is written without a pause is one step. */
export function put<T>({ history, last }: Steps<T>, value: T, atMs: number): Steps<T> {
  const field = writtenField(history.present, value);
  const goesOn = last !== null && last.field === field && atMs - last.atMs < PAUSE_MS;
  if (field === null) return alone({ history, last }, value);
  const group = goesOn ? last.group : `${field}@${atMs}`;
  return { history: historyOf(history, { type: 'put', value, group }) as StateWithHistory<T>, last: { field, atMs, group } };
}

/** What stands, changed by something that nobody would undo, such as another window's save. */
export const replaced = <T>({ history }: Steps<T>, value: T): Steps<T> => ({
  history: newHistory(history.past, value, history.future),
  last: null,
});

export const stepBack = <T>({ history }: Steps<T>): Steps<T> => ({
  history: historyOf(history, ActionCreators.undo()) as StateWithHistory<T>,
  last: null,
});
export const stepOn = <T>({ history }: Steps<T>): Steps<T> => ({
  history: historyOf(history, ActionCreators.redo()) as StateWithHistory<T>,
  last: null,
});

export const canUndo = ({ history }: Steps<unknown>): boolean => history.past.length > 0;
export const canRedo = ({ history }: Steps<unknown>): boolean => history.future.length > 0;

export interface Undoable<T> {
  value: T;
  put(value: T): void;
  /** Null where there is nothing to take back. */
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** A value that is not undone, nor what was before it. */
  begin(value: T): void;
}

type Act<T> = { kind: 'put'; value: T; atMs: number } | { kind: 'undo' | 'redo' } | { kind: 'begin'; value: T };

function act<T>(steps: Steps<T>, action: Act<T>): Steps<T> {
  if (action.kind === 'put') return put(steps, action.value, action.atMs);
  if (action.kind === 'begin') return firstStep(action.value);
  return action.kind === 'undo' ? stepBack(steps) : stepOn(steps);
}

/** A value of one component that can be undone and redone. */
export function useUndoable<T>(start: () => T): Undoable<T> {
  const [steps, dispatch] = useReducer(act<T>, null, () => firstStep(start()));
  return {
    value: steps.history.present,
    put: (value) => dispatch({ kind: 'put', value, atMs: Date.now() }),
    undo: canUndo(steps) ? () => dispatch({ kind: 'undo' }) : null,
    redo: canRedo(steps) ? () => dispatch({ kind: 'redo' }) : null,
    begin: (value) => dispatch({ kind: 'begin', value }),
  };
}
