// @vitest-environment happy-dom
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { RunOfBench } from '@red-ember/contract';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { AllRunsPage } from './AllRunsPage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
const run = (number: number, change: Partial<RunOfBench> = {}): RunOfBench => ({
  id: `r${number}`,
  number,
  studyId: 's1',
  studyTitle: 'What does a slot lid do?',
  family: 'drive',
  startKnown: true,
  part: 'Plover 2',
  variant: 'bare',
  mountNumber: 1,
  source: 'rig',
  sourceName: 'drive bench',
  purpose: 'measure',
  state: 'finished',
  startedAt: `2026-03-0${(number % 9) + 1}T08:00:00Z`,
  lengthS: 3600,
  disposition: 'use',
  dispositionBy: '',
  tags: '',
  ...change,
});
const shown = (runs: RunOfBench[]) => renderAt('/', <AllRunsPage />, new FakeServer().on('GET /runs', runs));
const rows = () =>
  within(screen.getByRole('table', { name: 'Runs of the bench' }))
    .getAllByRole('row')
    .slice(1);
const heading = async () => (await screen.findByRole('heading', { level: 1 })).textContent;

describe('all runs', () => {
  const many = [
    ...Array.from({ length: 9 }, (_, i) => run(i + 1)),
    run(10, { studyId: 's2', studyTitle: 'Six pastes', family: 'card', part: 'Wren 8', variant: 'paste K', disposition: 'undecided' }),
    run(11, { studyId: 's2', studyTitle: 'Six pastes', family: 'card', part: 'Wren 8', state: 'cut-out', source: 'file', sourceName: 'evening.csv' }), // prettier-ignore
  ];

  it('stand in one table, the newest first, with what is still to be done about them', async () => {
    shown(many);
    await screen.findByRole('table');
    expect(await heading()).toBe('11 runs in 2 studies');
    expect(screen.getByText('1 run not signed off yet.')).toBeTruthy();
    expect(screen.getByText('1 run cut out, interrupted or failed.')).toBeTruthy();
    expect(textOf(rows()[0]!)).toContain('run 8');
    expect(screen.getByRole('link', { name: 'run 11' }).getAttribute('href')).toBe('/studies/s2/run/r11');
  });
  it.each([
    ['evening', ['run 11']],
    ['not yet', ['run 10']],
    ['graphics', ['run 11', 'run 10']],
    ['cut out', ['run 11']],
    ['2026-03-02', ['run 10', 'run 1']],
  ])('are looked through for “%s”', async (word, found) => {
    shown(many);
    await user.type(await screen.findByLabelText('Look for in Runs of the bench'), word);
    expect(
      rows()
        .map((row) => /run \d+/.exec(row.textContent!)![0])
        .sort(),
    ).toEqual([...found].sort());
  });
  it('are narrowed down to a tag, and looked through for it', async () => {
    shown([...many, run(12, { tags: 'night shift, door open' }), run(13, { tags: 'Night shift' })]);
    await user.selectOptions(await screen.findByLabelText('Tag'), 'night shift');
    expect(await heading()).toBe('2 runs in one study, tagged night shift');
    expect(
      rows()
        .map((row) => /run \d+/.exec(row.textContent!)![0])
        .sort(),
    ).toEqual(['run 12', 'run 13']);
    await user.selectOptions(screen.getByLabelText('Tag'), 'any');
    await user.type(screen.getByLabelText('Look for in Runs of the bench'), 'door');
    expect(rows()).toHaveLength(1);
    expect(textOf(rows()[0]!)).toContain('night shift, door open');
  });
  it('of a bench with hundreds are drawn as far as they are in sight, and all of them are looked through', async () => {
    shown(Array.from({ length: 450 }, (_, i) => run(i + 1, { variant: i === 0 ? 'copper shim' : 'bare', startedAt: new Date(1e12 + 1e7 * i).toISOString() }))); // prettier-ignore
    await screen.findByRole('table');
    expect(rows().length).toBeLessThan(400);
    expect(screen.getByRole('table').getAttribute('aria-rowcount')).toBe('451');
    await user.type(screen.getByLabelText('Look for in Runs of the bench'), 'copper');
    expect(rows()).toHaveLength(1);
  });
  it('that are none say where they come from, and a fault is said', async () => {
    shown([]);
    expect(await screen.findByText('Runs appear here as they are made, on a rig or out of logs.')).toBeTruthy();
    expect(await heading()).toBe('No run on this bench yet.');
    renderAt('/', <AllRunsPage />, new FakeServer().on('GET /runs', problem(500, 'The disk is full.')));
    expect(await screen.findByText('The disk is full.')).toBeTruthy();
  });
});
