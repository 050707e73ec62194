// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { BackupShelf, BenchRig, Rehearsal, RunLine } from '@red-ember/contract';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { LineSection } from '../run/record/LineSection.tsx';
import { BenchPage } from './BenchPage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
const shelf = (change: Partial<BackupShelf> = {}): BackupShelf => ({
  opened: 'first',
  backups: [{ id: 'daily-2026-01-02.sqlite', kind: 'daily', at: '2026-01-02T08:00:00Z', bytes: 2_500_000 }],
  restored: null,
  ...change,
});
const rehearsal = (change: Partial<Rehearsal> = {}): Rehearsal => ({
  id: 'r1',
  rigId: 'bench-1',
  rigName: 'Simulated bench',
  at: '2026-01-02T09:00:00Z',
  loadPercent: 20,
  trying: null,
  brokenOff: '',
  steps: [
    { key: 'stop', ok: true, offAfterS: 0.02, withinS: 2, sentence: 'Off less than 0.1 s after Stop.' },
    { key: 'lost-server', ok: true, offAfterS: 5.1, withinS: 6.5, sentence: 'Off 5.1 s after.' },
    { key: 'cut-out', ok: false, offAfterS: null, withinS: 7, sentence: 'The load stayed on.' },
  ],
  ...change,
});
const bench = (rig: Partial<BenchRig> = {}, backups = shelf()) =>
  renderAt(
    '/',
    <BenchPage />,
    new FakeServer()
      .on('GET /backups', backups)
      .on('GET /rigs/bench-1/rehearsals', [])
      .on('GET /rigs', [{ ...made.rig, ...rig }]),
  );

describe('Bench', () => {
  it('says of a real rig that never rehearsed that it has not, and has it rehearse at the load that was chosen', async () => {
    const server = bench({ simulated: false });
    server.on('POST /rigs/bench-1/rehearsals', rehearsal({ trying: 'stop', steps: [] }));
    const words = await screen.findByText('It never showed that its load goes off.');
    expect(words.className).toContain('text-ember-text');
    await user.selectOptions(screen.getByLabelText('At a load of'), '50');
    await user.click(screen.getByRole('button', { name: 'Rehearse' }));
    await waitFor(() => expect(server.last('POST', '/rigs/bench-1/rehearsals')!.body).toEqual({ loadPercent: 50 }));
  });

  it('shows what failed as loudly as it must, and never only by colour', async () => {
    bench({ rehearsal: rehearsal() });
    expect(await screen.findByText(/do not leave a load on it alone/)).toBeTruthy();
    const table = screen.getByRole('table', { name: 'Rehearsal of Simulated bench' });
    expect(textOf(within(table).getByRole('row', { name: /Cut-out/ }))).toBe('Cut-outstayed onThe load stayed on.');
    expect(textOf(within(table).getByRole('row', { name: /Stop/ }))).toContain('< 0.1 s');
  });

  it('follows one under way, which can be broken off', async () => {
    const server = bench({ busyRunId: 'rehearsal-r1', rehearsal: rehearsal({ trying: 'lost-server', steps: [rehearsal().steps[0]!] }) });
    server.on('DELETE /rigs/bench-1/rehearsals/now', undefined);
    expect(textOf(await screen.findByRole('row', { name: /Lost server/ }))).toContain('being tried');
    expect(textOf(screen.getByRole('row', { name: /Cut-out/ }))).toContain('not tried');
    await user.click(screen.getByRole('button', { name: 'Break it off' }));
    await waitFor(() => expect(server.last('DELETE', '/rigs/bench-1/rehearsals/now')).toBeTruthy());
  });

  it('asks before a copy is brought back, says why it cannot be, and opens itself again when it is', async () => {
    const reload = vi.spyOn(location, 'reload').mockImplementation(() => {});
    const server = bench();
    server.on('POST /backups/daily-2026-01-02.sqlite/restore', problem(409, 'A run goes on, or a rehearsal.'));
    await user.click(await screen.findByRole('button', { name: /Bring back the copy of 2 Jan 2026/ }));
    expect(textOf(screen.getByRole('dialog'))).toContain('Everything written since then');
    await user.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(server.last('POST', '/backups/daily-2026-01-02.sqlite/restore')).toBeUndefined();
    await user.click(screen.getByRole('button', { name: /Bring back the copy/ }));
    await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
    expect(await screen.findByText('A run goes on, or a rehearsal.')).toBeTruthy();
    server.on('POST /backups/daily-2026-01-02.sqlite/restore', shelf());
    await user.click(screen.getByRole('button', { name: /Bring back the copy/ }));
    await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
    expect(await screen.findByText(/this page opens again by itself/)).toBeTruthy();
    expect(reload).not.toHaveBeenCalled();
    server.on('GET /backups', shelf({ opened: 'second' }));
    await waitFor(() => expect(reload).toHaveBeenCalled(), { timeout: 4000 });
    reload.mockRestore();
  });

  it('says how the last restore went', async () => {
    bench({}, shelf({ restored: { backupId: 'x', at: '2026-01-03T08:00:00Z', ok: false, sentence: 'The copy was not brought back.' } }));
    expect(await screen.findByText(/The copy was not brought back/)).toBeTruthy();
  });
});

describe('the line to the rig', () => {
  const load = (kind: 'commanded' | 'reported', atS: number, percent: number) => ({ kind, atS, at: '2026-01-01T00:00:00Z', percent, fromSeq: null, toSeq: null }); // prettier-ignore
  const line = (change: Partial<RunLine> = {}): RunLine => ({
    runId: 'r-bare-1',
    lastSeq: 40,
    missing: 0,
    again: 0,
    stepS: 1,
    gaps: [],
    entries: [load('commanded', 0, 100), load('reported', 0, 100)],
    differs: [],
    ...change,
  });
  const shown = (answer: RunLine) => {
    const run = { ...made.runs[0]!, source: 'rig' as const };
    renderAt('/', <LineSection run={run} />, new FakeServer().on(`GET /runs/${run.id}/line`, answer));
  };

  it('says that nothing is missing where nothing is', async () => {
    shown(line());
    expect(await screen.findByText('messages 1 to 40, none missing, a sample every 1 s, no gap')).toBeTruthy();
    expect(screen.queryByText(/were asked\./)).toBeNull();
  });

  it('names numbers that never came, gaps, and a load that was not what was asked', async () => {
    const odd = { kind: 'missing' as const, atS: 60, at: '2026-01-01T00:01:00Z', percent: null, fromSeq: 7, toSeq: 9 };
    shown(
      line({
        missing: 3,
        gaps: [{ fromS: 60, toS: 90 }],
        entries: [load('commanded', 0, 100), odd],
        differs: [{ fromS: 120, toS: 180, lastedS: 60, commanded: 100, reported: 0 }],
      }),
    );
    expect(await screen.findByText(/3 of them missing.*one gap|3 of them missing.*1 gap/)).toBeTruthy();
    expect(screen.getByText(/From 2:00 to 3:00, 60 s .* the rig reported 0 % where 100 % were asked/)).toBeTruthy();
    expect(screen.getByText('Messages 7 to 9 never came')).toBeTruthy();
    expect(screen.getByText('No samples until 1:30')).toBeTruthy();
  });

  it('of a run from before says that nothing was written down, and claims nothing of it', async () => {
    shown(line({ entries: [] }));
    expect(await screen.findByText(/before loads that were asked and reported were written down/)).toBeTruthy();
    expect(screen.queryByText(/none missing/)).toBeNull();
  });
});
