// @vitest-environment happy-dom
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import * as made from '@red-ember/testing';
import type { RunSignature } from '@red-ember/contract';
import { FakeServer, renderAt } from '../tests/renderAt.tsx';
import { AgainstNormal } from './AgainstNormal.tsx';

const shown = (change: Partial<RunSignature>) => {
  const answer: RunSignature = {
    runId: 'r1',
    of: [2, 3],
    kept: null,
    why: '',
    loadS: 1200,
    normals: [],
    offNormal: [],
    suspects: [],
    ...change,
  };
  renderAt('/', <AgainstNormal run={made.run('r1', 1, 'bare')} />, new FakeServer(made.study()).on('GET /runs/r1/signature', answer));
};

describe('a run that goes on against what is normal', () => {
  const going = () => ({ ...made.run('r1', 4, 'bare'), state: 'recording' as const, timeScale: 60 });
  const answer: RunSignature = { runId: 'r1', of: [2, 3], kept: null, why: '', loadS: 420, normals: [], offNormal: [], suspects: [] };
  it('is asked about again as it goes on, and calls once for what is newly suspected', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    const calls: string[] = [];
    const server = new FakeServer(made.study()).on('GET /runs/r1/signature', answer);
    renderAt('/', <AgainstNormal run={going()} onSuspect={(text) => calls.push(text)} />, server);
    expect(await screen.findByText('As in 2 clean runs of it, 7 min into the load: fans, lags, noise, rest and rise.')).toBeTruthy();
    const suspects = [{ key: 'fan-plug' as const, text: 'the fan shows no speed under load', look: 'Its plug.', times: 4 }];
    server.on('GET /runs/r1/signature', { ...answer, loadS: 480, suspects });
    await vi.advanceTimersByTimeAsync(6000);
    expect(await screen.findByText('The fan shows no speed under load.')).toBeTruthy();
    await vi.advanceTimersByTimeAsync(12_000);
    expect(calls).toEqual(['The fan shows no speed under load']);
    vi.useRealTimers();
  });
  it('says from when on it can be said', async () => {
    const why = 'Said from minute 5 of the load on.';
    renderAt('/', <AgainstNormal run={going()} />, new FakeServer(made.study()).on('GET /runs/r1/signature', { ...answer, of: [], loadS: 0, why })); // prettier-ignore
    expect(await screen.findByText(why)).toBeTruthy();
  });
});

describe('a run against what is normal', () => {
  it('is said to be as the others where nothing departs', async () => {
    shown({});
    expect(await screen.findByText('As in 2 clean runs of it: fans, lags, noise, rest and rise.')).toBeTruthy();
  });

  it('names what may be wrong and what to look at, the likeliest first', async () => {
    shown({
      suspects: [
        { key: 'lag', text: 'Flash took 190 s to a third of its rise, usually 88 s', look: 'Whether its sensor is pressed on.', times: 3 },
        { key: 'place', text: 'Flash stood 1.2 K cooler than usual at rest', look: 'Whether its sensor sits where it should.', times: 1.2 },
      ],
    });
    expect(await screen.findByText('Flash took 190 s to a third of its rise, usually 88 s.')).toBeTruthy();
    expect(screen.getByText('Whether its sensor is pressed on.')).toBeTruthy();
    expect(screen.getByText('Beyond what 2 clean runs of it scatter by, the likeliest first.')).toBeTruthy();
  });

  it('says whose runs they are where they are of another study', async () => {
    shown({ kept: { version: 2, madeAt: '2026-04-01T10:00:00Z', study: { id: 's0', title: 'In spring' } } });
    expect(await screen.findByText('As in 2 clean runs of it in “In spring”: fans, lags, noise, rest and rise.')).toBeTruthy();
  });

  it('says that it is not known yet', async () => {
    shown({ of: [2], why: 'Not known yet: it takes 2 clean runs of it beside this one.' });
    expect(await screen.findByText(/^Not known yet/)).toBeTruthy();
    expect(screen.queryByText(/As in/)).toBeNull();
  });
});
