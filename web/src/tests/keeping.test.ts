// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest';
import { store } from '../data/store.ts';
import { discarded, edited } from '../study/draftSlice.ts';
import '../study/drafts.ts';
import { bodyOf } from '@red-ember/study';
import * as made from '@red-ember/testing';

const KEY = 'red-ember.drafts-3';
const kept = () => Object.keys(JSON.parse(localStorage.getItem(KEY) ?? '{}') as object);
const type = (title: string) => store.dispatch(edited({ study: made.study(), body: { ...bodyOf(made.study()), title } }));

describe('what is typed and not saved', () => {
  afterEach(() => {
    store.dispatch(discarded('s1'));
    localStorage.clear();
    vi.useRealTimers();
  });

  it('is written once per pause in typing', async () => {
    vi.useFakeTimers();
    const write = vi.spyOn(Storage.prototype, 'setItem');
    type('a');
    type('ab');
    type('abc');
    await vi.advanceTimersByTimeAsync(350);
    expect(kept()).toEqual(['s1']);
    expect(write.mock.calls.filter(([key]) => key === KEY)).toHaveLength(1);
    write.mockRestore();
  });

  it('is kept where the page is closed within that pause', () => {
    type('half a word');
    expect(kept()).toEqual([]);
    dispatchEvent(new Event('pagehide'));
    expect(kept()).toEqual(['s1']);
  });

  it('is forgotten the moment it is saved, so that a reload does not lay it over the saved study', async () => {
    type('typed');
    dispatchEvent(new Event('pagehide'));
    store.dispatch(discarded('s1'));
    await Promise.resolve();
    expect(kept()).toEqual([]);
    // Nothing is left to write, so another window's drafts are not written over.
    localStorage.setItem(KEY, '{"other":{}}');
    dispatchEvent(new Event('pagehide'));
    expect(kept()).toEqual(['other']);
  });
});
