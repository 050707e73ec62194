// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Study } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import * as made from '@red-ember/testing';
import { store } from '../data/store.ts';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { JudgePage } from '../judge/pair/JudgePage.tsx';
import { MountPage } from '../mount/MountPage.tsx';
import { ReadPage } from '../read/ReadPage.tsx';
import { ReportPage } from '../report/ReportPage.tsx';
import { ImportPage } from '../run/import/ImportPage.tsx';
import { RunPage } from '../run/RunPage.tsx';
import { RunsPage } from '../run/record/RunsPage.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
const heading = () => screen.findByRole('heading', { level: 1 });
const margin = () => screen.getByRole('complementary', { name: 'What qualifies this page' });

beforeAll(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
});
afterEach(() => localStorage.clear());

describe('Mount and Run', () => {
  it('asks for every caution, and suggests the variant with the fewest mounts', async () => {
    const server = renderAt('/studies/s1/mount', <MountPage />, new FakeServer().on('GET /studies/s1/mounts', [made.mount('m1', 'bare')]));
    server.on('POST /studies/s1/mounts', made.mount('m2', 'lid'));
    const button = await screen.findByRole('button', { name: 'slot lid is mounted' });
    const boxes = screen.getAllByRole('checkbox');
    expect(boxes).toHaveLength(cautionsFor('drive').length);
    for (const box of boxes.slice(1)) await user.click(box);
    expect(screen.getByText('One caution is still to confirm.')).toBeTruthy();
    expect(button).toHaveProperty('disabled', true);
    await user.click(boxes[0]!);
    await user.click(button);
    await waitFor(() =>
      expect(server.last('POST', '/studies/s1/mounts')!.body).toMatchObject({
        variantId: 'lid',
        confirmed: expect.arrayContaining(['scratch', 'power']),
      }),
    );
  });

  it('starts what is mounted at the chosen speed, and remembers the speed', async () => {
    const server = renderAt('/studies/s1/run', <RunsPage />);
    server.on('POST /studies/s1/runs', problem(409, 'The rig is busy with another run.'));
    await user.click(await screen.findByLabelText('600×'));
    await user.selectOptions(screen.getByLabelText('On the bench'), 'bare, mount 1');
    await user.click(screen.getByRole('button', { name: 'All of them' }));
    server.on('POST /studies/s1/preflight', {
      id: 'pf1',
      rigId: 'bench-1',
      clear: true,
      checks: [{ key: 'room', ok: true, text: '22.1 °C' }],
    });
    await user.click(screen.getByRole('button', { name: 'Look at the bench' }));
    expect(await screen.findByText('Ready.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Start the run' }));
    expect(textOf(await screen.findByRole('alert'))).toBe('The rig is busy with another run.');
    expect(server.last('POST', '/studies/s1/runs')!.body).toEqual({
      mountId: 'm-bare',
      timeScale: 600,
      seed: null,
      confirmedLocks: ['Case'],
      onVanish: 'cut-out',
      preflightId: 'pf1',
      overrideReason: '',
    });
    await waitFor(() => expect(JSON.parse(localStorage.getItem('red-ember.settings')!)).toMatchObject({ timeScale: 600 }));
  });

  it.each([
    ['no mount', (server: FakeServer) => server.on('GET /studies/s1/mounts', []), /Nothing is mounted yet/],
    ['no rig', (server: FakeServer) => server.on('GET /rigs', []), /No rig is connected/],
    ['a busy rig', (server: FakeServer) => server.on('GET /rigs', [{ ...made.rig, busyRunId: 'r9' }]), /is busy with a run/],
  ])('says what is missing: %s', async (_what, change, words) => {
    renderAt('/studies/s1/run', <RunsPage />, change(new FakeServer()));
    expect(await screen.findByText(words)).toBeTruthy();
  });

  it('shows a finished run with its end, and needs a reason to reject it', async () => {
    const server = renderAt(
      '/studies/s1/run/r1',
      <RunPage />,
      new FakeServer().on(
        'GET /runs/r1',
        made.run('r1', 1, 'bare', {
          state: 'cut-out',
          endReason: 'Too hot.',
          earlier: [{ until: '2026-03-02T15:30:00Z', disposition: 'use', reason: 'as found', by: 'AB' }],
          events: [{ id: 'e', atS: 700, at: '', kind: 'change', text: 'Door opened' }],
        }),
      ),
    );
    expect(textOf(await heading())).toBe('Run 1, bare, cut out.');
    expect(textOf(margin())).toContain('Too hot.');
    expect(screen.getByRole('row', { name: '11:40 change Door opened' })).toBeTruthy();
    expect(textOf(screen.getByRole('list', { name: 'Decided before' }))).toContain('use, AB, “as found”');
    await user.click(screen.getByLabelText('rejected'));
    expect(screen.getByText('Say why the run is rejected.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Sign off' })).toHaveProperty('disabled', true);
    server.on('PUT /runs/r1/sign-off', made.run('r1', 1, 'bare', { disposition: 'reject' }));
    await user.type(screen.getByLabelText('Reason'), 'door open');
    await user.type(screen.getByLabelText('Your initials'), 'km');
    await user.click(screen.getByRole('button', { name: 'Sign off' }));
    await waitFor(() =>
      expect(server.last('PUT', '/runs/r1/sign-off')!.body).toEqual({ disposition: 'reject', reason: 'door open', by: 'KM' }),
    );
    // They are known the next time.
    expect(store.getState().settings.initials).toBe('KM');
    server.on('PUT /runs/r1/tags', made.run('r1', 1, 'bare', { tags: 'door' }));
    expect(screen.getByRole('button', { name: 'Tag it' })).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Tags, commas between them'), 'door');
    await user.click(screen.getByRole('button', { name: 'Tag it' }));
    await waitFor(() => expect(server.last('PUT', '/runs/r1/tags')!.body).toEqual({ tags: 'door' }));
  });

  it('follows a live run, by key and by event', async () => {
    const sources: { listeners: Record<string, (message: { data: string }) => void>; onopen?: () => void; closed: boolean }[] = [];
    vi.stubGlobal(
      'EventSource',
      class {
        listeners: Record<string, (message: { data: string }) => void> = {};
        closed = false;
        constructor() {
          sources.push(this);
        }
        addEventListener(name: string, listener: (message: { data: string }) => void) {
          this.listeners[name] = listener;
        }
        close() {
          this.closed = true;
        }
      },
    );
    const live = made.liveRun();
    const server = renderAt(
      '/studies/s1/run/r1',
      <RunPage />,
      new FakeServer()
        .on('GET /runs/r1', live)
        .on('POST /runs/r1/events', live)
        .on('POST /runs/r1/interventions', live)
        .on('POST /runs/r1/stop', live),
    );
    expect(textOf(await heading())).toBe('Waiting for the first samples');
    const source = sources.at(-1)!;
    source.onopen!();
    const { snapshot: snapshotOf, liveSpot: spotAt } = made;
    const snapshot = snapshotOf();
    source.listeners.snapshot!({ data: JSON.stringify(snapshot) });
    expect(textOf(await screen.findByTestId('binding'))).toBe('76.4°C');
    expect(textOf(await heading())).toContain('Flash, underside binds, 9 K left');
    expect(textOf(await heading())).toContain('settles in about 5 min');
    // Past its limit nothing is left, near or from two metres away.
    source.listeners.snapshot!({ data: JSON.stringify({ ...snapshot, spots: [spotAt('top', 64.2), spotAt('under', 88.4)] }) });
    await waitFor(async () => expect(textOf(await heading())).toContain('Flash, underside binds, 3 K over'));
    await user.keyboard('a');
    expect(await screen.findByText('3 K over')).toBeTruthy();
    await user.keyboard('a');
    await user.keyboard('m');
    await waitFor(() => expect(server.last('POST', '/runs/r1/events')!.body).toEqual({ kind: 'mark', text: 'Mark' }));
    await user.keyboard('c');
    await user.type(await screen.findByRole('textbox', { name: 'Change' }), 'Fan on{Enter}');
    await waitFor(() => expect(server.last('POST', '/runs/r1/interventions')!.body).toEqual({ text: 'Fan on', set: [] }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await user.keyboard('a');
    expect(await screen.findByText('Back to the sheet (A)')).toBeTruthy();
    await user.keyboard('a');
    await user.keyboard('s');
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Stop the load' }));
    await waitFor(() => expect(server.last('POST', '/runs/r1/stop')).toBeTruthy());
    source.listeners.run!({ data: JSON.stringify({ ...live, state: 'stopped', endReason: 'Stopped by hand.' }) });
    await waitFor(async () => expect(textOf(await heading())).toContain('stopped by hand'));
    expect(source.closed).toBe(true);
  });

  it('imports a log as mapped, and asks again about odd units', async () => {
    const staged = made.stagedLog({
      written: { encoding: 'Latin-1', delimiter: ';', decimal: ',', headerLine: 4, unitsLine: 5 },
      known: true,
    });
    const server = renderAt('/studies/s1/run/import', <ImportPage />);
    server
      .on('POST /studies/s1/logs', staged)
      .on(
        'POST /studies/s1/logs/log1/run',
        problem(422, 'A room at 72 °C: is this °F?', [{ pointer: '/acceptOddTemperatures', sentence: 'is this °F?' }]),
      );
    await user.upload(await screen.findByLabelText(/Drop a log here/), new File(['x'], 'march.csv', { type: 'text/csv' }));
    await user.selectOptions(await screen.findByLabelText('What A holds'), 'Flash, top face');
    expect(screen.getByText(/Latin-1, semicolons, decimal commas, header in line 4, units in line 5.*mapped before/)).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Unit of A'), 'mV, type K');
    await user.selectOptions(screen.getByLabelText('Unit of A'), '°F');
    await user.selectOptions(screen.getByLabelText('Time is given as'), 'clock, 14:05:00');
    await user.selectOptions(screen.getByLabelText('Variant on the bench'), 'slot lid');
    await user.selectOptions(screen.getByLabelText('Mount'), '2');
    const begins = screen.getByLabelText('Phase 2 begins');
    await user.clear(begins);
    await user.type(begins, '2.5');
    await user.click(screen.getByRole('button', { name: 'Import as a run' }));
    expect(textOf(await screen.findByRole('alert'))).toContain('is this °F?');
    await user.click(screen.getByRole('button', { name: 'It is °C, import it' }));
    await waitFor(() => expect(server.last('POST', '/studies/s1/logs/log1/run')!.body).toMatchObject({ acceptOddTemperatures: true }));
    expect(server.last('POST', '/studies/s1/logs/log1/run')!.body).toMatchObject({
      variantId: 'lid',
      timeColumn: 0,
      mount: 2,
      phases: [
        { kind: 'idle-soak', startS: 0, endS: 150 },
        { kind: 'load', startS: 150, endS: 600 },
      ],
      columns: [
        { column: 2, role: 'room', spotId: null },
        { column: 1, role: 'spot', spotId: 'top', unit: 'F', voltage: null },
      ],
      timeFormat: 'clock',
    });
  });
});

describe('Read, Judge and Report', () => {
  it('reads a run and opens the numbers behind each reading', async () => {
    renderAt('/studies/s1/read?run=r2', <ReadPage />);
    expect(textOf(await heading())).toBe('Readings of run 2, slot lid');
    const row = await screen.findByRole('row', { name: /Flash, underside/ });
    expect(textOf(row)).toContain('49.20 ± 0.10 K');
    expect(textOf(row)).toContain('settled since 28:25');
    await user.click(within(row).getByRole('button', { name: /How was/ }));
    const dialog = await screen.findByRole('dialog');
    expect(textOf(dialog)).toContain('300, of which 61.0 count as independent');
    expect(textOf(dialog)).toContain('Spikes left out of the window');
  });

  it('says in the margin what speaks against a run', async () => {
    renderAt('/studies/s1/read?run=r1', <ReadPage />, new FakeServer().on('GET /runs/r1/readings', made.readings('r1', { room: null })));
    await waitFor(() => expect(textOf(margin())).toContain('no room temperature was recorded'));
  });

  it('shows the verdict, what qualifies it, and how it was worked out', async () => {
    renderAt('/studies/s1/judge', <JudgePage />);
    expect(textOf(await heading())).toBe(
      'Slot lid heats flash, underside by 4.5 K and cools flash, top face by 3.3 K. The claim “It cools” is contradicted.',
    );
    expect(textOf(margin())).toContain('Held alike: power within 0.1 %');
    expect(textOf(margin())).toContain('Expected 0.0 ± 1.0 K at Flash, underside. Missed by');
    await user.click(screen.getAllByRole('button', { name: 'How was this worked out?' })[1]!);
    const dialog = await screen.findByRole('dialog');
    expect(textOf(dialog)).toContain('Flash, underside: how the call was worked out');
    expect(textOf(dialog)).toContain('It does not hold zero: a call.');
    expect(await within(dialog).findAllByText('61 of 300')).toHaveLength(4);
    expect(textOf(dialog)).not.toContain('As they were read');
  });

  it('says what lies between the figures as they were read and the difference', async () => {
    const verdict = made.verdict(made.study());
    const spot = verdict.judgement.spots[1]!;
    spot.comparison!.difference = { ...spot.comparison!.difference, value: spot.b!.figure.value - spot.a!.figure.value - 0.3 };
    renderAt('/studies/s1/judge', <JudgePage />, new FakeServer().on('GET /studies/s1/verdict', verdict));
    await user.click((await screen.findAllByRole('button', { name: 'How was this worked out?' }))[1]!);
    expect(textOf(await screen.findByRole('dialog'))).toMatch(/As they were read the two differ by \+\d\.\d+ K; −0\.30 K come from/);
  });

  it('names the run that is left out, with a way to its trace', async () => {
    renderAt('/studies/s1/judge', <JudgePage />, new FakeServer().on('GET /studies/s1/verdict', made.verdict(made.study(), true)));
    await waitFor(() => expect(textOf(margin())).toContain('Left out: slot lid, run 3. The room rose 2.3 K'));
    expect(within(margin()).getByRole('link', { name: 'See trace' }).getAttribute('href')).toBe('/studies/s1/run/r3');
  });

  it('restates for the gallery and marks it as calculated', async () => {
    renderAt('/studies/s1/judge?air=45', <JudgePage />);
    expect(await screen.findByText(/slot lid: flash, underside 9\.1 K over/)).toBeTruthy();
    expect(screen.getByText(/dashed on the strips, calculated/)).toBeTruthy();
    expect(screen.getByLabelText('gallery air')).toHaveProperty('value', '45');
  });

  it('refuses to judge what cannot be, and leads to what is missing', async () => {
    const alone: Study = made.study({ variants: [made.study().variants[0]!] });
    const refusal = { ...made.verdict(alone), refusal: 'A comparison needs two variants: add them at Plan.' };
    renderAt('/studies/s1/judge', <JudgePage />, new FakeServer(alone).on('GET /studies/s1/verdict', refusal));
    expect(textOf(await heading())).toContain('needs two variants');
    expect(screen.getByRole('link', { name: 'To Plan' })).toBeTruthy();
  });

  it('says of which side nothing may be used, and whether for want of runs', async () => {
    const without = (leftOut: { runId: string; label: string; reason: string }[]) => {
      const verdict = { ...made.verdict(), refusal: 'Every run of one side is left out.' };
      const spots = verdict.judgement.spots.map((spot) => ({ ...spot, a: null, comparison: null }));
      return { ...verdict, judgement: { ...verdict.judgement, spots, leftOut } };
    };
    const shown = (verdict: object) =>
      renderAt('/studies/s1/judge', <JudgePage />, new FakeServer().on('GET /studies/s1/verdict', verdict));
    shown(without([{ runId: 'r1', label: 'bare, run 1', reason: 'Fan duty moved.' }]));
    expect(await screen.findByText(/^Bare has no run that may be used: the margin says what speaks against/)).toBeTruthy();
    cleanup();
    shown(without([]));
    expect(await screen.findByText('Bare has no finished run yet. What is known of slot lid:')).toBeTruthy();
  });

  it('holds it against a variant of another study of the same kind, chosen in a dialogue, and says where it comes from', async () => {
    const other = made.study({ id: 's2', title: 'Last month' });
    const both = made.verdict();
    const elsewhere = { studyId: 's2', title: 'Last month', spots: { top: 'o-top' } };
    const server = new FakeServer()
      .on('GET /studies', [
        made.summary({ runs: 4 }),
        made.summary({ id: 's2', title: 'Last month', runs: 2 }),
        made.summary({ id: 's3', family: 'card' }),
      ])
      .on('GET /studies/s2', other)
      .on('GET /studies/s2/runs', [made.run('o1', 1, 'lid', { studyId: 's2' })])
      .on('GET /studies/s1/verdict', ({ search }: { search: string }) =>
        search.includes('s2')
          ? {
              ...both,
              elsewhere,
              judgement: { ...both.judgement, b: { ...both.judgement.b, variantId: 'study:s2:lid', name: 'lid of the other study' } },
            }
          : both,
      );
    renderAt('/studies/s1/judge', <JudgePage />, server);
    await user.selectOptions(await screen.findByLabelText('Compared'), 'pick-elsewhere');
    const dialog = await screen.findByRole('dialog');
    expect(
      within(dialog)
        .getAllByRole('option')
        .map((option) => option.textContent),
    ).not.toContain('Card');
    await within(dialog).findByRole('option', { name: 'slot lid' });
    await user.selectOptions(within(dialog).getByLabelText('Variant'), 'slot lid');
    await user.click(within(dialog).getByRole('button', { name: 'Compare' }));
    await waitFor(() => expect(textOf(margin())).toContain('Lid of the other study: “Last month”.'));
    expect(server.last('GET', '/studies/s1/verdict')!.search).toContain('b=study%3As2%3Alid');
    expect(screen.getByLabelText('Compared')).toHaveProperty('value', 'study:s2:lid');
  });

  it('offers the report and the readings as files', async () => {
    renderAt('/studies/s1/report', <ReportPage />);
    expect((await screen.findByRole('link', { name: 'Report, HTML' })).getAttribute('href')).toBe(
      `/api/v1/studies/s1/report.html?zone=${encodeURIComponent(Intl.DateTimeFormat().resolvedOptions().timeZone)}&download=true`,
    );
    expect(screen.getByRole('link', { name: 'Readings, CSV' }).getAttribute('href')).toBe('/api/v1/studies/s1/readings.csv');
  });
});
