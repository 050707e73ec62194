// @vitest-environment happy-dom
import { act, renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { canRedo, canUndo, firstStep, put, replaced, stepBack, stepOn, useUndoable, writtenField } from './steps.ts';

const now = (steps: { history: { present: unknown } }) => steps.history.present;

describe('the field that was written', () => {
  it('is the one text or number that differs, by its pointer', () => {
    expect(writtenField({ title: 'a', spots: [{ x: 1 }] }, { title: 'a', spots: [{ x: 2 }] })).toBe('/spots/0/x');
    expect(writtenField({ note: null }, { note: 'b' })).toBe('/note');
  });
  it('is none where a switch was thrown, something came or went, or two fields changed', () => {
    expect(writtenField({ on: true }, { on: false })).toBeNull();
    expect(writtenField({ spots: [] }, { spots: [{ x: 1 }] })).toBeNull();
    expect(writtenField({ a: 1, b: 1 }, { a: 2, b: 2 })).toBeNull();
  });
});

describe('steps', () => {
  it('take one field that is typed without a pause as one, and what comes after a pause as another', () => {
    let steps = firstStep({ title: '', other: '' });
    for (const [i, title] of ['w', 'wr', 'wre', 'wren'].entries()) steps = put(steps, { title, other: '' }, 1000 + 200 * i);
    steps = put(steps, { title: 'wrens', other: '' }, 9000);
    steps = stepBack(steps);
    expect(now(steps)).toEqual({ title: 'wren', other: '' });
    steps = stepBack(steps);
    expect(now(steps)).toEqual({ title: '', other: '' });
    expect(canUndo(steps)).toBe(false);
    expect(now(stepOn(stepOn(steps)))).toEqual({ title: 'wrens', other: '' });
  });
  it('keep two fields apart, and what is added twice', () => {
    let steps = firstStep({ a: '', b: '', list: [] as number[][] });
    steps = put(steps, { a: 'x', b: '', list: [] }, 0);
    steps = put(steps, { a: 'x', b: 'y', list: [] }, 10);
    steps = put(steps, { a: 'x', b: 'y', list: [[1]] }, 20);
    steps = put(steps, { a: 'x', b: 'y', list: [[1], [2]] }, 30);
    expect(steps.history.past).toHaveLength(4);
  });
  it('forget what could be redone once something else is written, and that a field went on before it was undone', () => {
    let steps = put(put(firstStep({ a: 1 }), { a: 2 }, 0), { a: 3 }, 5000);
    steps = stepBack(steps);
    expect(canRedo(steps)).toBe(true);
    steps = put(steps, { a: 4 }, 5100);
    expect(canRedo(steps)).toBe(false);
    expect(now(stepBack(steps))).toEqual({ a: 2 });
  });
  it('hold a hundred', () => {
    let steps = firstStep({ a: 0 });
    for (let i = 1; i <= 150; i++) steps = put(steps, { a: i }, 5000 * i);
    expect(steps.history.past).toHaveLength(100);
    for (let i = 0; i < 100; i++) steps = stepBack(steps);
    expect(now(steps)).toEqual({ a: 50 });
    expect(stepBack(steps).history.present).toEqual({ a: 50 });
  });
  it('keep what was before a value that another window replaced', () => {
    const steps = replaced(put(firstStep({ a: 1 }), { a: 2 }, 0), { a: 7 });
    expect(now(steps)).toEqual({ a: 7 });
    expect(now(stepBack(steps))).toEqual({ a: 1 });
  });
});

it('undo and redo in a component', () => {
  const { result } = renderHook(() => useUndoable(() => ({ kept: false })));
  expect(result.current.undo).toBeNull();
  act(() => result.current.put({ kept: true }));
  act(() => result.current.undo!());
  expect(result.current.value).toEqual({ kept: false });
  act(() => result.current.redo!());
  expect(result.current.value).toEqual({ kept: true });
  act(() => result.current.begin({ kept: false }));
  expect([result.current.undo, result.current.redo, result.current.value.kept]).toEqual([null, null, false]);
});
