// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { bodyOf } from '@red-ember/study';
import { api } from '../data/api.ts';
import { store } from '../data/store.ts';
import * as made from '@red-ember/testing';
import { FakeServer } from '../tests/renderAt.tsx';
import { discarded, edited, written } from './draftSlice.ts';
import { draftOf } from './drafts.ts';
import { StudyFailed } from './StudyFailed.tsx';

const user = userEvent.setup();
const Throws = () => {
  throw new RangeError('one variant cannot be both first and last');
};

function failing(): void {
  const server = new FakeServer();
  vi.stubGlobal('fetch', (request: Request) => server.fetch(request));
  store.dispatch(api.util.resetApiState());
  const router = createMemoryRouter([{ path: '/studies/:studyId/plan', element: <Throws />, errorElement: <StudyFailed /> }], {
    initialEntries: ['/studies/s1/plan'],
  });
  vi.spyOn(console, 'error').mockImplementation(() => {});
  render(
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>,
  );
}

describe('a station that fails over what was typed', () => {
  afterEach(() => {
    cleanup();
    store.dispatch(discarded('s1'));
    vi.restoreAllMocks();
  });

  it('offers to undo the last of it, and keeps the rest', async () => {
    store.dispatch(edited({ study: made.study(), body: { ...bodyOf(made.study()), title: 'one' } }));
    store.dispatch(edited({ study: made.study(), body: { ...bodyOf(made.study()), title: 'one', question: 'two' } }));
    failing();
    await user.click(await screen.findByRole('button', { name: 'Undo the last change' }));
    expect(written(draftOf(store.getState(), 's1')!)).toMatchObject({ title: 'one', question: bodyOf(made.study()).question });
  });

  it('offers to put it aside as a file, and opens the study as it was saved', async () => {
    store.dispatch(edited({ study: made.study(), body: { ...bodyOf(made.study()), title: 'one' } }));
    let saved: Blob | null = null;
    vi.spyOn(URL, 'createObjectURL').mockImplementation((blob) => {
      saved = blob as Blob;
      return 'blob:x';
    });
    failing();
    await user.click(await screen.findByRole('button', { name: 'Put it aside and open the study' }));
    expect(JSON.parse(await saved!.text())).toMatchObject({ title: 'one' });
    expect(draftOf(store.getState(), 's1')).toBeUndefined();
  });

  it('says what it says elsewhere where nothing was typed', async () => {
    failing();
    expect(await screen.findByText('This page failed.')).toBeTruthy();
  });
});
