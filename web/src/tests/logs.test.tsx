// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { strToU8, zipSync } from 'fflate';
import { beforeEach, describe, expect, it } from 'vitest';
import type { LogPhaseBody } from '@red-ember/contract';
import { handOver, takeOver } from '../logs/handed.ts';
import { LogsPage } from '../logs/LogsPage.tsx';
import { moved, parted, without } from '../logs/phases.ts';
import { rowsOf } from '../logs/rows.ts';
import { folderOf } from '../data/folders.ts';
import { unpack } from '../logs/unpack.ts';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
beforeEach(() => {
  localStorage.clear();
  takeOver();
});

const phases: LogPhaseBody[] = [
  { kind: 'idle-soak', name: 'Idle', startS: 0, endS: 100 },
  { kind: 'load', name: 'Load', startS: 100, endS: 500 },
  { kind: 'cool-down', name: 'Cool-down', startS: 500, endS: 600 },
];

describe('phases put right', () => {
  it('stay in a row without gaps, however their ends are moved', () => {
    for (const at of [-50, 0, 99, 250, 5000, NaN]) {
      const next = moved(phases, 1, at);
      next.slice(1).forEach((phase, i) => expect(phase.startS).toBe(next[i]!.endS));
      expect(next.every(({ startS, endS }) => endS > startS)).toBe(true);
    }
    expect(moved(phases, 1, 250)[0]!.endS).toBe(250);
    expect(moved(phases, 0, 20)).toEqual(phases);
  });
  it('are taken away and parted', () => {
    expect(without(phases, 2).at(-1)).toMatchObject({ name: 'Load', endS: 600 });
    expect(without(phases, 0)[0]).toMatchObject({ name: 'Load', startS: 0 });
    expect(parted(phases, 1).map(({ kind, startS, endS }) => [kind, startS, endS])).toEqual([
      ['idle-soak', 0, 100],
      ['load', 100, 300],
      ['change', 300, 500],
      ['cool-down', 500, 600],
    ]);
  });
});

describe('rows of the table', () => {
  const log = (id: string, fileName: string, content: string, change = {}) => made.stagedLog({ id, fileName, content, ...change });
  it('use one of two with the same readings, and what was put right goes before', () => {
    const logs = [
      log('1', 'Q bare m1 (copy).csv', 'x'),
      log('2', 'Q bare m1.csv', 'x'),
      log('3', 'Q lid m2.csv', 'y'),
      log('4', 'Q sweep.csv', 'z', { kind: 'sweep' }),
    ];
    const rows = rowsOf(logs, { 3: { variant: 'cover', mount: null } });
    expect(rows.map(({ use }) => use)).toEqual([false, true, true, true]);
    expect(rows[0]!.why).toBe('the same readings as Q bare m1.csv');
    expect(rows.map(({ variant, mount }) => [variant, mount])).toEqual([['bare', 1], ['bare', 1], ['cover', null], ['as it is', null]]); // prettier-ignore
    expect(rowsOf(logs, { 2: { use: false } }).map(({ use }) => use)).toEqual([true, false, true, true]);
  });
});

describe('files that are dropped', () => {
  it('are taken out of a zip; what is no log stays in it', async () => {
    const zip = new File([zipSync({ 'day/a m1.csv': strToU8('t,x'), 'day/photo.png': strToU8('..'), '__MACOSX/a m1.csv': strToU8('') }) as Uint8Array<ArrayBuffer>], 'day.zip'); // prettier-ignore
    const { files, refused } = await unpack([zip, new File(['t,y'], 'b.csv')]);
    expect(files.map(({ name }) => name)).toEqual(['a m1.csv', 'b.csv']);
    // A folder may name the variant.
    expect(files.map(folderOf)).toEqual(['day', '']);
    expect(refused).toEqual([]);
  });
  it('a broken zip is told of, and so are more than can be read', async () => {
    expect((await unpack([new File(['nonsense'], 'x.zip')])).refused[0]).toContain('cannot be unpacked');
    const many = await unpack(Array.from({ length: 303 }, (_, i) => new File(['t'], `${i}.csv`)));
    expect(many.files).toHaveLength(300);
    expect(many.refused[0]).toContain('3 files were left aside');
  });
});

describe('the page of logs', () => {
  const server = () =>
    new FakeServer()
      .on('GET /logs', [
        made.stagedLog({
          id: 'l1',
          fileName: 'Q bare m1.csv',
          content: 'a',
          guess: { startedAt: { iso: '2026-03-01T09:00:00Z', zone: 'assumed' } },
        }),
        made.stagedLog({ id: 'l2', fileName: 'Q lid.csv', content: 'b', doubts: ['No room temperature was recorded.'] }),
      ]) // prettier-ignore
      .on('GET /logs/l2/trace', { lengthS: 600, series: [{ column: 2, t: [0, 300, 600], y: [22, 22, 22] }] });

  it('shows what was understood, takes corrections for one or for many, and makes the study of what is seen', async () => {
    const fake = server();
    renderAt('/', <LogsPage />, fake);
    expect(textOf(await screen.findByRole('heading', { level: 1 }))).toBe('2 logs, as they were understood');
    expect(screen.getByText('bare: 1 run, 1 mount · lid: 1 run, mounts unknown')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Mount of Q lid.csv'), '2');
    await user.click(screen.getByLabelText('Choose Q bare m1.csv'));
    const chosen = screen.getByRole('group', { name: 'All that are chosen' });
    await user.type(within(chosen).getByLabelText('Variant'), 'stock');
    await user.click(within(chosen).getByRole('button', { name: 'Set' }));
    await user.click(screen.getByRole('button', { name: 'Q lid.csv' }));
    expect(await screen.findByText('No room temperature was recorded.', { selector: 'ul.list-disc li' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Part Load in two' }));
    fake.on('POST /logs/study', problem(422, 'Q lid.csv: Nothing was imported. Line 7 goes back in time.'));
    await user.selectOptions(screen.getByLabelText('Times without a zone are of'), 'Asia/Tokyo');
    await user.click(screen.getByRole('button', { name: 'Make the study of 2 logs' }));
    expect(textOf(await screen.findByRole('alert'))).toContain('Line 7 goes back in time');
    const { body } = fake.last('POST', '/logs/study')!;
    expect(body).toMatchObject({
      zone: 'Asia/Tokyo',
      logs: [
        { id: 'l1', use: true, variant: 'stock', mount: 1 },
        { id: 'l2', use: true, variant: 'lid', mount: 2, phases: [{ name: 'Idle' }, { name: 'Load' }, { name: 'Change', kind: 'change' }] },
      ],
    });
    // A page that is opened again has lost nothing; what was done last can be taken back.
    expect(JSON.parse(localStorage.getItem('red-ember logs put right')!)).toMatchObject({ l1: { variant: 'stock' }, l2: { mount: 2 } });
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.queryByRole('button', { name: 'Take Change away' })).toBeNull();
  });

  it('reads what was dropped on the shelf, one after the other, and says which could not be read', async () => {
    const fake = new FakeServer().on('GET /logs', []);
    fake.on('POST /logs', problem(422, 'x.csv was not imported. The file is empty.'));
    handOver([new File([''], 'x.csv')]);
    renderAt('/', <LogsPage />, fake);
    expect(await screen.findByText('x.csv was not imported. The file is empty.')).toBeTruthy();
    await waitFor(() => expect(fake.last('POST', '/logs')).toBeTruthy());
    await user.click(screen.getByRole('button', { name: 'Understood' }));
    expect(screen.queryByText(/The file is empty/)).toBeNull();
  });

  it('adds to a study that is there, by its name', async () => {
    const fake = server().on('GET /studies', [made.summary({ id: 's1', title: 'Pads on Quill' })]);
    renderAt('/', <LogsPage />, fake);
    await user.selectOptions(await screen.findByLabelText('They go into'), 'Pads on Quill');
    expect(screen.queryByLabelText('Part')).toBeNull();
    fake.on('POST /logs/study', problem(422, 'No.'));
    await user.click(screen.getByRole('button', { name: 'Add 2 logs to it' }));
    await screen.findByRole('alert');
    expect(fake.last('POST', '/logs/study')!.body).toMatchObject({ addTo: 's1' });
  });

  it('does not make a study of a log whose time nobody knows', async () => {
    renderAt('/', <LogsPage />, new FakeServer().on('GET /logs', [made.stagedLog({ guess: { timeColumn: null } })]));
    expect(await screen.findByText(/choose the column that holds the time/)).toBeTruthy();
    expect((screen.getByRole('button', { name: /Make the study/ }) as HTMLButtonElement).disabled).toBe(true);
  });

  describe('what they say together', () => {
    const two = [
      made.stagedLog({ id: 'l1', fileName: 'Q bare m1.csv', content: 'x' }),
      made.stagedLog({ id: 'l2', fileName: 'Q lid m1.csv', content: 'y' }),
    ];
    const refused = { title: '', runs: 0, leftOut: [], verdict: null, refused: 'Q lid m1.csv: Line 7, Room: “x” is not a number.' };

    it('is asked of what is seen, anew when it is put right, and says why it cannot be told', async () => {
      const fake = new FakeServer().on('GET /logs', two).on('POST /logs/glance', refused);
      renderAt('/', <LogsPage />, fake);
      expect(await screen.findByText(/Line 7, Room/)).toBeTruthy();
      const variantsAsked = () =>
        (fake.last('POST', '/logs/glance')!.body as { logs: { variant: string }[] }).logs.map(({ variant }) => variant);
      expect(variantsAsked()).toEqual(['bare', 'lid']);
      const field = screen.getByLabelText('Variant of Q lid m1.csv');
      await user.clear(field);
      await user.type(field, 'comb{Tab}');
      await waitFor(() => expect(variantsAsked()).toEqual(['bare', 'comb']), { timeout: 3000 });
    });

    it('is not asked of one variant', async () => {
      const fake = new FakeServer().on('GET /logs', two.slice(0, 1)).on('POST /logs/glance', refused);
      renderAt('/', <LogsPage />, fake);
      await screen.findByLabelText('Variant of Q bare m1.csv');
      expect(fake.last('POST', '/logs/glance')).toBeUndefined();
    });

    it('is asked of very long logs only when somebody wants it', async () => {
      const long = new FakeServer().on('GET /logs', two.map((log) => ({ ...log, rows: 5_000_000 }))).on('POST /logs/glance', refused); // prettier-ignore
      renderAt('/', <LogsPage />, long);
      const ask = await screen.findByRole('button', { name: 'What do they say together?' });
      expect(long.last('POST', '/logs/glance')).toBeUndefined();
      await user.click(ask);
      expect(await screen.findByText(/Line 7, Room/)).toBeTruthy();
    });
  });
});
