// @vitest-environment happy-dom
import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { eachOutput } from '@red-ember/core';
import type { LiveSnapshot, Run, Study } from '@red-ember/contract';
import { atMarksChosen, handUnitChosen } from '../data/settings.ts';
import { store } from '../data/store.ts';
import { ImportPage } from '../run/import/ImportPage.tsx';
import { RunPage } from '../run/RunPage.tsx';
import { RunsPage } from '../run/record/RunsPage.tsx';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();

class FakeEvents {
  static last: FakeEvents;
  listeners: Record<string, (message: { data: string }) => void> = {};
  constructor() {
    FakeEvents.last = this;
  }
  addEventListener(name: string, listener: (message: { data: string }) => void) {
    this.listeners[name] = listener;
  }
  close() {}
}
const tell = (event: 'run' | 'snapshot', data: Run | LiveSnapshot) =>
  act(() => FakeEvents.last.listeners[event]!({ data: JSON.stringify(data) }));

beforeEach(() => vi.stubGlobal('EventSource', FakeEvents));
afterEach(() => {
  store.dispatch(atMarksChosen('nothing'));
  store.dispatch(handUnitChosen('C'));
});

async function follow(options: { run?: Run; study?: Study; snapshot?: Partial<LiveSnapshot>; server?: (server: FakeServer) => void } = {}) {
  const run = options.run ?? made.liveRun();
  const server = new FakeServer(options.study ?? made.study());
  server.on('GET /runs/r1', run);
  options.server?.(server);
  renderAt('/studies/s1/run/r1', <RunPage />, server);
  await screen.findByRole('heading', { level: 1 });
  tell('snapshot', made.snapshot(options.snapshot));
  return server;
}

describe('a run that is steered', () => {
  it('is changed by the rig, which opens a phase', async () => {
    const controls = [
      { key: 'vent', label: 'Case vent', unit: '', usual: 'open', choices: ['open', 'blocked'] },
      { key: 'power-limit', label: 'Power limit', unit: 'W', usual: 235, least: 120, most: 300 },
    ];
    const server = await follow({
      server: (fake) => fake.on('GET /rigs', [{ ...made.rig, controls }]).on('POST /runs/r1/interventions', made.liveRun()),
    });
    await user.keyboard('c');
    const dialog = within(await screen.findByRole('dialog'));
    await user.selectOptions(await dialog.findByLabelText('Let the rig set'), 'Power limit');
    const value = dialog.getByLabelText('Power limit (120 to 300 W)');
    await user.clear(value);
    await user.type(value, '290');
    await user.click(dialog.getByRole('button', { name: 'Change it now' }));
    await waitFor(() =>
      expect(server.last('POST', '/runs/r1/interventions')!.body).toEqual({
        text: 'Power limit 290 W',
        set: [{ control: 'power-limit', value: 290 }],
      }),
    );
  });

  it('only marks a change where no phase is wanted', async () => {
    const server = await follow({ server: (fake) => fake.on('POST /runs/r1/events', made.liveRun()) });
    await user.keyboard('c');
    await user.type(await screen.findByRole('textbox', { name: 'Change' }), 'Door opened');
    await user.click(screen.getByLabelText(/Begin a phase with it/));
    await user.click(screen.getByRole('button', { name: 'Write it down' }));
    await waitFor(() => expect(server.last('POST', '/runs/r1/events')!.body).toEqual({ kind: 'change', text: 'Door opened' }));
  });

  it('is paused, gone on with and given more time by single keys', async () => {
    const paused = made.liveRun();
    paused.phases.push({ kind: 'pause', name: 'Pause', startS: 900, endS: null, endedBy: null });
    const server = await follow({
      server: (fake) =>
        fake.on('POST /runs/r1/pause', paused).on('POST /runs/r1/go-on', made.liveRun()).on('POST /runs/r1/more-time', made.liveRun()),
    });
    await user.keyboard('e');
    // Hit by mistake it can be taken back; the same key again does it now.
    expect(await screen.findByText(/This phase gets 10 min more in 10 s/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Take it back' }));
    expect(screen.queryByText(/in 10 s/)).toBeNull();
    await user.keyboard('ee');
    await waitFor(() => expect(server.last('POST', '/runs/r1/more-time')!.body).toEqual({ minutes: 10 }));
    expect(server.asked.filter(({ path }) => path === '/runs/r1/more-time')).toHaveLength(1);
    await user.keyboard('p');
    await waitFor(() => expect(server.last('POST', '/runs/r1/pause')).toBeTruthy());
    tell('run', paused);
    expect(await screen.findByText(/Paused: the load is off/)).toBeTruthy();
    await user.keyboard('n');
    await waitFor(() => expect(server.last('POST', '/runs/r1/go-on')).toBeTruthy());
  });

  it('waits for a hand and a reason after the load went off by itself; a key alone does not bring it back', async () => {
    const off = made.liveRun();
    off.phases = [off.phases[0]!, { ...off.phases[1]!, endS: 900, endedBy: 'interrupted' }];
    off.phases.push({ kind: 'pause', name: 'Waiting, the load is off', startS: 900, endS: null, endedBy: null });
    off.events = [{ id: 'e', atS: 900, at: '', kind: 'load-off', text: 'The load went off at 15:00: No sample has come for 11 s.' }];
    const server = await follow({ run: off, server: (fake) => fake.on('POST /runs/r1/go-on', made.liveRun()) });
    expect(textOf(await screen.findByRole('alert'))).toContain('No sample has come for 11 s. It stays off until you go on.');
    await user.keyboard('n');
    await user.keyboard('p');
    expect(server.last('POST', '/runs/r1/go-on')).toBeUndefined();
    const field = screen.getByLabelText('What was it? Kept with the run.');
    expect(document.activeElement).toBe(field);
    await user.clear(field);
    await user.type(field, 'cable{Enter}');
    await waitFor(() => expect(server.last('POST', '/runs/r1/go-on')!.body).toEqual({ reason: 'cable' }));
  });

  it('keeps a Stop that nobody answers, says so loudly, and lets it go only when the rig has confirmed it', async () => {
    let there = false;
    let load = { runId: 'r1', ended: true, off: false, connected: true, reportedPercent: 100 as number | null, heardAgoS: 1 };
    const away = () => {
      if (!there) throw new TypeError('failed');
      return made.liveRun({ state: 'stopped' });
    };
    const server = await follow({ server: (fake) => fake.on('POST /runs/r1/stop', away).on('GET /runs/r1/load', () => load) });
    await user.keyboard('s');
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Stop the load' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const alert = () => screen.findByText('Not stopped yet: switch the machine off by hand.', {}, { timeout: 5000 });
    await alert();
    expect(screen.getByText(/The server does not answer. It is asked again every second/)).toBeTruthy();
    // A page that is loaded anew finds it where it was left.
    expect(JSON.parse(localStorage.getItem('red-ember.stops')!)).toMatchObject([{ runId: 'r1', taken: false }]);
    there = true;
    await screen.findByText(/still reports a load of 100 %/, {}, { timeout: 5000 });
    expect(server.asked.filter(({ path }) => path === '/runs/r1/stop').length).toBeGreaterThan(1);
    load = { ...load, connected: false };
    await screen.findByText(/The rig is not connected, so nobody knows/, {}, { timeout: 5000 });
    load = { ...load, connected: true, off: true };
    await screen.findByText(/The rig confirms that its load is off/, {}, { timeout: 5000 });
    expect(screen.queryByText(/Not stopped yet/)).toBeNull();
    expect(JSON.parse(localStorage.getItem('red-ember.stops')!)).toEqual([]);
  }, 20_000);

  it('does not end the next phase where the present one was over before the wait was', async () => {
    const server = await follow({ server: (fake) => fake.on('POST /runs/r1/go-on', made.liveRun()) });
    await user.keyboard('n');
    expect(await screen.findByText(/This phase ends in 10 s/)).toBeTruthy();
    const next = made.liveRun();
    next.phases.push({ kind: 'cool-down', name: 'Cool', startS: 900, endS: null, endedBy: null });
    tell('run', next);
    await waitFor(() => expect(screen.queryByText(/This phase ends/)).toBeNull());
    expect(server.last('POST', '/runs/r1/go-on')).toBeUndefined();
  });

  it('says why it could not', async () => {
    await follow({ server: (fake) => fake.on('POST /runs/r1/pause', problem(409, 'This run is paused already.')) });
    await user.keyboard('p');
    expect(textOf(await screen.findByRole('alert'))).toContain('paused already');
  });

  it('offers the end of a fixed phase in which everything is settled', async () => {
    const recipe = made
      .liveRun()
      .phases.map(({ kind, name }) => ({ kind, name, mode: 'fixed' as const, durationS: 3600, capS: 3600, loadPercent: 100 }));
    await follow({ run: made.liveRun({ recipe }), snapshot: { allSettled: true } });
    expect(await screen.findByText(/Every spot is settled; 53 min of this phase are left/)).toBeTruthy();
  });
});

describe('what is watched', () => {
  it('names the lock that moved, the limiter, and the cap that comes too soon', async () => {
    await follow({
      snapshot: {
        limiter: 'power',
        throttling: false,
        capTooSoonS: 240,
        locks: [
          { name: 'Fan duty', unit: '%', value: 60, tolerance: 2, now: 66, leftAtS: 760, largestOff: 6 },
          { name: 'Clock', unit: 'MHz', value: 4300, tolerance: 25, now: 4300, leftAtS: null, largestOff: 0 },
        ],
      },
    });
    const text = () => textOf(screen.getByLabelText('What qualifies this page'));
    await waitFor(() => expect(text()).toContain('held back by its power limit'));
    expect(text()).toContain('moved +6.0 % at 12:40');
    expect(text()).toContain('about 4 min before the last spot is settled');
    expect(text()).toContain('4300.0 MHz, held at 4300 ± 25 MHz');
  });

  it('flashes at marks only where that was chosen', async () => {
    const run = made.liveRun();
    await follow({ run });
    const due = { id: 'e1', atS: 900, at: '', kind: 'mark-due', text: 'Read by hand: minute 5 of Load' };
    tell('run', { ...run, events: [due] });
    expect(screen.queryByTestId('flash')).toBeNull();
    await user.selectOptions(screen.getByLabelText('What calls you at marks and new phases'), 'flash');
    tell('run', { ...run, events: [due, { ...due, id: 'e2' }] });
    expect(await screen.findByTestId('flash')).toBeTruthy();
  });
});

describe('a notification', () => {
  /** A browser that shows notices, or asks for leave first. */
  function browser(permission: NotificationPermission, answer: NotificationPermission = permission) {
    const shown: { title: string; body: string }[] = [];
    class Fake {
      static permission = permission;
      static requestPermission = () => Promise.resolve((Fake.permission = answer));
      constructor(title: string, { body }: { body: string }) {
        shown.push({ title, body });
      }
    }
    vi.stubGlobal('Notification', Fake);
    return shown;
  }
  const choose = () => user.selectOptions(screen.getByLabelText('What calls you at marks and new phases'), 'notification');

  it('tells of a mark, and that the run has ended, once each and only where it was chosen', async () => {
    const shown = browser('default', 'granted');
    const run = made.liveRun();
    const server = await follow({ run });
    const due = { id: 'e1', atS: 900, at: '', kind: 'mark-due', text: 'Read by hand: minute 5 of Load' };
    tell('run', { ...run, events: [due] });
    await choose();
    await waitFor(() => expect(Notification.permission).toBe('granted'));
    expect(shown).toEqual([]);
    tell('run', { ...run, events: [due, { ...due, id: 'e2', atS: 99_000, text: 'Minute 10 of Load' }] });
    await waitFor(() => expect(shown).toEqual([{ title: `Run ${run.number}`, body: 'Minute 10 of Load' }]));
    const ended = { ...run, state: 'cut-out' as const, endReason: 'Controller above 98 °C.' };
    server.on('GET /runs/r1', ended);
    tell('run', ended);
    await waitFor(() =>
      expect(shown.at(-1)).toEqual({ title: `Run ${run.number} cut out`, body: 'Lid on the drive. Controller above 98 °C.' }),
    );
    expect(shown).toHaveLength(2);
  });

  it('says where the browser shows none', async () => {
    browser('denied');
    await follow({});
    await choose();
    expect(await screen.findByText(/Allow them in its settings/)).toBeTruthy();
    vi.stubGlobal('Notification', undefined);
    await follow({});
    expect(await screen.findByText(/over plain http is not trusted/)).toBeTruthy();
  });
});

describe('readings by hand', () => {
  const study = made.study({
    spots: [made.spot('top', { name: 'Sink top', byHand: true }), made.spot('under', { name: 'Capacitor', byHand: true })],
  });

  it('are typed number, Tab, number, Enter; the unit is understood', async () => {
    const server = await follow({ study, snapshot: { spots: [], shows: [{ spotId: 'top', valueC: 61.4 }] }, server: (fake) => fake.on('POST /runs/r1/hand-readings', made.liveRun()) }); // prettier-ignore
    expect(await screen.findByText('shows 61.4 °C')).toBeTruthy();
    await user.keyboard('h');
    await user.keyboard('61,4{Tab}142f');
    expect(screen.getByText('61.1 °C')).toBeTruthy();
    await user.keyboard('{Enter}');
    await waitFor(() =>
      expect(server.last('POST', '/runs/r1/hand-readings')!.body).toEqual({
        readings: [
          { spotId: 'top', typed: '61,4' },
          { spotId: 'under', typed: '142f' },
        ],
        usual: 'C',
      }),
    );
    await waitFor(() => expect((screen.getByLabelText(/Sink top/) as HTMLInputElement).value).toBe(''));
    expect(document.activeElement).toBe(screen.getByLabelText(/Sink top/));
  });

  it('keep what was typed where it cannot be read or sent', async () => {
    const server = await follow({ study, snapshot: { spots: [] } });
    const box = await screen.findByLabelText(/Capacitor/);
    await user.type(box, '6140');
    expect(screen.getByText(/is it another unit/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Write down one reading' })).toHaveProperty('disabled', true);
    await user.clear(box);
    await user.type(box, '64{Enter}');
    server.on('POST /runs/r1/hand-readings', problem(409, 'Not now.'));
    expect(textOf(await screen.findByRole('alert'))).not.toBe('');
    expect((box as HTMLInputElement).value).toBe('64');
  });

  it('show the last one, take it back, and work at arm’s length', async () => {
    const run = made.liveRun({ handReadings: [{ id: 'h1', spotId: 'top', atS: 840, at: '', valueC: 71.5, typed: '71.5' }] });
    const server = await follow({
      study,
      run,
      snapshot: { spots: [made.liveSpot('top', 71.5, { readAtS: 840 })] },
      server: (fake) => fake.on('DELETE /runs/r1/hand-readings/h1', made.liveRun()),
    });
    expect(textOf(await screen.findByRole('heading', { level: 1 }))).toContain('read by hand at 14:00: nothing stops the load for it');
    await user.click(screen.getByRole('button', { name: 'Take it back' }));
    await waitFor(() => expect(server.last('DELETE', '/runs/r1/hand-readings/h1')).toBeTruthy());
    await user.keyboard('a');
    expect(await screen.findByText('Back to the sheet (A)')).toBeTruthy();
    expect(screen.getByRole('textbox', { name: /Sink top/ })).toBeTruthy();
  });
});

describe('before a run', () => {
  const report = {
    id: 'pf',
    rigId: 'bench-1',
    clear: false,
    checks: [
      { key: 'sensors', ok: false, text: 'Flash, top face stands still at 31.2 °C' },
      { key: 'seat', ok: null, text: 'the seat of this mount was not checked' },
    ],
  };

  it('wants a reason where the list is not clear, and forgets the list when something changes', async () => {
    const server = renderAt('/studies/s1/run', <RunsPage />);
    server.on('POST /studies/s1/preflight', report).on('POST /studies/s1/runs', made.liveRun());
    await user.click(await screen.findByRole('button', { name: 'Look at the bench' }));
    expect(await screen.findByText(/stands still at 31.2/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Start the run' })).toHaveProperty('disabled', true);
    await user.click(screen.getByLabelText(/Case/));
    await waitFor(() => expect(screen.queryByText(/stands still/)).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Look at the bench' }));
    await user.type(await screen.findByLabelText(/say why the run is started all the same/), 'known probe');
    await user.click(screen.getByRole('button', { name: 'Start the run' }));
    await waitFor(() =>
      expect(server.last('POST', '/studies/s1/runs')!.body).toMatchObject({ preflightId: 'pf', overrideReason: 'known probe' }),
    );
  });

  it('chooses between rigs, and plants a fault on a simulated one', async () => {
    const faults = [{ key: 'pad-off', label: 'a pad does not touch' }];
    const server = renderAt(
      '/studies/s1/run',
      <RunsPage />,
      new FakeServer().on('GET /rigs', [
        { ...made.rig, faults },
        { ...made.rig, id: 'shed', name: 'Bench in the shed', simulated: false, setups: [] },
      ]),
    );
    server.on('POST /studies/s1/preflight', { ...report, clear: true });
    await user.click(await screen.findByRole('button', { name: 'Plant a fault to learn on' }));
    await user.click(screen.getByLabelText('a pad does not touch'));
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await user.click(screen.getByRole('button', { name: 'Look at the bench' }));
    await waitFor(() =>
      expect(server.last('POST', '/studies/s1/preflight')!.body).toMatchObject({ rigId: 'bench-1', faults: ['pad-off'] }),
    );
    await user.selectOptions(screen.getByLabelText('Rig'), 'Bench in the shed');
    expect(screen.queryByText('Plant a fault to learn on')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Look at the bench' }));
    await waitFor(() => expect(server.last('POST', '/studies/s1/preflight')!.body).toMatchObject({ rigId: 'shed', faults: [] }));
  });
});

describe('after a run', () => {
  it('says what happened and what to repeat', async () => {
    const ended = made.run('r1', 1, 'bare', {
      faults: ['pad-off'],
      handReadings: [{ id: 'h', spotId: 'top', atS: 800, at: '', valueC: 61.1, typed: '142F' }],
      preflight: { checks: [{ key: 'room', ok: false, text: 'the room probe shows nothing' }], overrideReason: 'battery ordered' },
    });
    renderAt('/studies/s1/run/r1', <RunPage />, new FakeServer().on('GET /runs/r1', ended));
    expect(await screen.findByText(/Flash, top face 61.1 °C, typed 142F/)).toBeTruthy();
    expect(screen.getByText(/Started all the same: battery ordered/)).toBeTruthy();
    expect(screen.getByText(/A fault was planted in it: repeat it without/)).toBeTruthy();
    expect(textOf(screen.getByLabelText('What qualifies this page'))).toContain('Planted on the simulated bench:');
  });
});

describe('a run of several loads', () => {
  it('says what each came to, and what changed from the one before', async () => {
    const load = (name: string, endS: number, riseK: number, bound: 'settled' | 'still-falling' = 'settled') => ({
      phase: 1,
      name,
      startS: endS - 600,
      endS,
      endedBy: 'settled',
      spots: [{ spotId: 'top', reading: made.reading(riseK, { bound }) }],
      ...eachOutput(() => null),
      power: { value: 231.4, u: 0.1, dof: 50 },
      fan: { value: 1830, u: 1, dof: 50 },
      room: null,
    });
    const readings = made.readings('r1');
    const loads = [load('Show player', 1500, 52), load('Vent blocked', 2200, 60.4), load('Side opened', 2900, 47, 'still-falling')];
    const server = new FakeServer().on('GET /runs/r1', made.run('r1', 1, 'bare'));
    server.on('GET /runs/r1/readings', { ...readings, review: { ...readings.review, loads } });
    renderAt('/studies/s1/run/r1', <RunPage />, server);
    const table = within(await screen.findByRole('region', { name: 'What each load came to' }));
    expect(table.getByRole('row', { name: /Vent blocked 36:40 60.4 \+8.4 231 1830/ })).toBeTruthy();
    expect(table.getByRole('row', { name: /Side opened .* 47.0 at least −13.4 upper bound/ })).toBeTruthy();
  });
});

describe('a second log of a run', () => {
  const staged = made.stagedLog({
    id: 'log2',
    fileName: 'drive.csv',
    columns: ['time', 'Throughput', 'Room'].map((name, index) => ({ index, name, sample: ['0'] })),
    guess: {
      columns: [
        { column: 1, role: 'throughput', spotId: null },
        { column: 2, role: 'room', spotId: null },
      ],
    },
  });

  it('is aligned by itself, moved by hand, and added without what the run has already', async () => {
    const server = new FakeServer();
    const run = made.run('r1', 1, 'bare');
    server.on('GET /runs/r1', run).on('POST /studies/s1/logs', staged).on('POST /studies/s1/logs/log2/join', run);
    const side = { t: [0, 100, 200], y: [0, 0, 5] };
    server.on('POST /studies/s1/logs/log2/align', {
      offsetS: -37.52,
      sure: true,
      lag: { side: 'b', tauS: 12.2 },
      explained: 0.93,
      stepS: 1,
      run: side,
      log: side,
    });
    renderAt('/studies/s1/run/import?run=r1', <ImportPage />, server);
    await screen.findByRole('heading', { level: 1, name: 'Add a log to run 1' });
    await user.upload(screen.getByLabelText(/Drop a log here/), new File(['x'], 'drive.csv', { type: 'text/csv' }));
    expect(
      await screen.findByText(
        /The two agree best with the log 37.5 s earlier, to within 0.5 s\. What the log shows there follows by some 12 s/,
      ),
    ).toBeTruthy();
    const clock = screen.getByLabelText('Its clock is moved by') as HTMLInputElement;
    expect(clock.value).toBe('-37.5');
    await user.clear(clock);
    await user.type(clock, '-36');
    await user.click(screen.getByRole('button', { name: 'Add it to run 1' }));
    await waitFor(() => expect(server.last('POST', '/studies/s1/logs/log2/join')).toBeTruthy());
    expect(server.last('POST', '/studies/s1/logs/log2/join')!.body).toMatchObject({
      runId: 'r1',
      offsetS: -36,
      columns: [{ column: 1, role: 'throughput', spotId: null }],
    });
  });

  it('says where the two do not show the same step', async () => {
    const server = new FakeServer();
    const side = { t: [0, 100], y: [1, 2] };
    server.on('GET /runs/r1', made.run('r1', 1, 'bare')).on('POST /studies/s1/logs', staged);
    server.on('POST /studies/s1/logs/log2/align', { offsetS: 5, sure: false, lag: null, explained: 0.11, stepS: 1, run: side, log: side });
    renderAt('/studies/s1/run/import?run=r1', <ImportPage />, server);
    await user.upload(await screen.findByLabelText(/Drop a log here/), new File(['x'], 'drive.csv', { type: 'text/csv' }));
    expect(await screen.findByText(/do not clearly show the same step, or show it more than once/)).toBeTruthy();
    expect((screen.getByLabelText('Its clock is moved by') as HTMLInputElement).value).toBe('0');
    expect(server.last('POST', '/studies/s1/logs/log2/align')!.body).toMatchObject({ column: 1 });
  });
});
