// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { TRAPS, type PracticeSheet, type PracticeShelf } from '@red-ember/contract';
import * as made from '@red-ember/testing';
import { JudgePage } from '../judge/pair/JudgePage.tsx';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { ExercisePage } from './ExercisePage.tsx';
import { PracticePage } from './PracticePage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
afterEach(() => localStorage.clear());

const marks = { call: 'wrong', figure: 'misses', found: [], missed: ['film-left'], imagined: ['starved'], skippedSteps: 2, hints: 1, hours: 9.4, goodHours: 4.2 } as const; // prettier-ignore
const sheet: PracticeSheet = {
  studyId: 's1',
  exercise: 'cover',
  title: 'Does the cover help?',
  level: 1,
  seed: 7,
  brief: 'Say what it does.',
  question: { a: 'bare', b: 'slot lid', spot: 'Controller', practicalK: 1 },
  traps: TRAPS.map((key) => ({ key, label: `Trap ${key}` })),
  hints: [],
  hintsLeft: 2,
  runs: 4,
  answer: null,
  marks: null,
  truth: null,
};
const opened: PracticeSheet = {
  ...sheet,
  hints: ['Remount.'],
  hintsLeft: 1,
  answer: { call: 'warmer', differenceK: 3, plusMinusK: 1, found: ['starved'], sentence: 'It traps heat.' },
  marks: { ...marks, found: [...marks.found], missed: [...marks.missed], imagined: [...marks.imagined] },
  truth: {
    differenceK: -4.21,
    calls: ['cooler'],
    planted: ['The film was left on a pad: on mount 1 of slot lid.'],
    seen: ['The seat check.'],
    lesson: 'Remount.',
    verdict: 'Slot lid cannot be told from bare.',
  },
};
const shelf: PracticeShelf = {
  exercises: ([1, 2, 3] as const).map((level) => ({
    key: `e${level}`,
    title: `Exercise ${level}`,
    level,
    family: 'drive',
    brief: `Brief ${level}`,
  })),
  attempts: [
    { studyId: 's1', exercise: 'e1', title: 'Exercise 1', level: 1, seed: 7, begunAt: '2026-05-01T08:00:00Z', runs: 4, hints: 1, handedInAt: '2026-05-01T10:00:00Z', marks: opened.marks }, // prettier-ignore
    { studyId: 's2', exercise: 'e2', title: 'Exercise 2', level: 2, seed: 8, begunAt: '2026-05-02T08:00:00Z', runs: 0, hints: 0, handedInAt: null, marks: null }, // prettier-ignore
  ],
};
const server = (change: Partial<PracticeSheet> = {}) =>
  new FakeServer().on('GET /practice', shelf).on('GET /practice/s1', { ...sheet, ...change });

describe('the list of exercises', () => {
  it('goes from easy to hard, keeps a record, and begins one anew', async () => {
    const asked = renderAt('/', <PracticePage />, server());
    expect(await screen.findByText('Exercise 3')).toBeTruthy();
    expect(screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent)).toEqual(expect.arrayContaining(['Your tries', 'To begin with', 'For a second week', 'Where good hands slip'])); // prettier-ignore
    const table = screen.getByRole('table', { name: 'Tries at exercises' });
    expect(within(table).getByText('missed, 1 imagined')).toBeTruthy();
    expect(within(table).getByText('9.4 of 4.2')).toBeTruthy();
    expect(within(table).getByText('not handed in')).toBeTruthy();
    expect(screen.getByText('0 of 1 called right.')).toBeTruthy();
    asked.on('POST /practice', sheet);
    await user.click(screen.getByRole('button', { name: 'Draw Exercise 1 with seed 7 again' }));
    await waitFor(() => expect(asked.last('POST', '/practice')!.body).toEqual({ exercise: 'e1', seed: 7 }));
  });

  it('says what was refused, and that there is no bench to practise on', async () => {
    const asked = renderAt('/', <PracticePage />, server().on('GET /rigs', []));
    expect(await screen.findByText('No simulated bench is connected.')).toBeTruthy();
    asked.on('POST /practice', problem(422, 'An exercise is made of a study with two variants.'));
    await user.selectOptions(await screen.findByLabelText('Study'), 'Lid on the drive');
    await user.click(screen.getByRole('button', { name: 'Spoil its bench' }));
    expect(textOf(await screen.findByRole('alert'))).toContain('two variants');
    expect(asked.last('POST', '/practice')!.body).toEqual({ studyId: 's1' });
    asked.on('DELETE /practice/s2', null);
    await user.click(screen.getByRole('button', { name: 'Put Exercise 2 with seed 8 away' }));
    await waitFor(() => expect(asked.last('DELETE', '/practice/s2')).toBeTruthy());
  });
});

describe('the sheet of an exercise', () => {
  const path = '/studies/s1/practice';

  it('asks, takes what was found, and keeps what is typed while the bench is looked at', async () => {
    renderAt(path, <ExercisePage />, server());
    await user.click(await screen.findByLabelText('Slot lid is cooler than bare'));
    await user.type(screen.getByLabelText('slot lid less bare'), '-4.2');
    await user.click(screen.getByLabelText('Trap film-left'));
    await user.type(screen.getByLabelText('The sentence for the report'), 'It cools');
    // Away, and back.
    const asked = renderAt(path, <ExercisePage />, server());
    expect(await screen.findByLabelText('Slot lid is cooler than bare')).toHaveProperty('checked', true);
    expect(screen.getByLabelText('slot lid less bare')).toHaveProperty('value', '-4.2');
    expect(screen.getByLabelText('The sentence for the report')).toHaveProperty('value', 'It cools');
    asked.on('POST /practice/s1/answer', opened).on('GET /practice/s1', opened);
    await user.click(screen.getByRole('button', { name: 'Hand in and see what was true' }));
    await screen.findByText('What was true');
    expect(asked.last('POST', '/practice/s1/answer')!.body).toEqual({ call: 'cooler', differenceK: -4.2, plusMinusK: null, found: ['film-left'], sentence: 'It cools' }); // prettier-ignore
    expect(localStorage.length).toBe(0);
  });

  it('is not handed in without a call, and gives hints that count', async () => {
    const asked = renderAt(path, <ExercisePage />, server());
    await user.click(await screen.findByRole('button', { name: 'Hand in and see what was true' }));
    expect(await screen.findByText('Say how it came out, or that it cannot be said.')).toBeTruthy();
    expect(asked.last('POST', '/practice/s1/answer')).toBeUndefined();
    asked
      .on('POST /practice/s1/hints', { ...sheet, hints: ['Remount.'], hintsLeft: 1 })
      .on('GET /practice/s1', { ...sheet, hints: ['Remount.'], hintsLeft: 1 });
    await user.click(screen.getByRole('button', { name: 'Take a hint' }));
    expect(await screen.findByText('Hint 1.')).toBeTruthy();
  });

  it('opens what was true line by line, in words', async () => {
    renderAt(path, <ExercisePage />, server(opened));
    expect(await screen.findByText('You said: Slot lid is warmer than bare. What was true: Slot lid is cooler than bare.')).toBeTruthy();
    const lines = screen.getAllByRole('listitem').map(({ textContent }) => textContent);
    for (const line of ['WrongThe truth lies outside', 'Missedtrap film-left', 'Not theretrap starved', 'Left out2 steps', 'Hours9.4 bench hours; a good hand takes about 4.2. 1 hint taken.']) expect(lines.some((text) => text?.startsWith(line))).toBe(true); // prettier-ignore
    expect(screen.getByText('−4.2 K')).toBeTruthy();
    expect(screen.getByText('The film was left on a pad: on mount 1 of slot lid.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /hint/ })).toBeNull();
  });

  it('is never far from its stations, and other studies say nothing of practice', async () => {
    renderAt('/studies/s1/judge', <JudgePage />, server());
    expect((await screen.findByRole('link', { name: 'What was true' })).getAttribute('href')).toBe('/studies/s1/practice');
    renderAt('/studies/s9/judge', <JudgePage />, new FakeServer(made.study({ id: 's9' })).on('GET /practice', shelf));
    await screen.findByRole('heading', { level: 1 });
    expect(screen.queryByText('Practice.')).toBeNull();
  });
});
