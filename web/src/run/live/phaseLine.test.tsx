// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, expect, it } from 'vitest';
import { phasesOf } from '@red-ember/core';
import type { Run } from '@red-ember/contract';
import { liveRun, study } from '@red-ember/testing';
import { PhaseLine } from './PhaseLine.tsx';

afterEach(cleanup);

/** What a phone shows of the line: it has room for one phase. */
function onAPhone(phases: Run['phases']): string[] {
  cleanup();
  render(<PhaseLine recipe={phasesOf(study().recipe)} run={liveRun({ phases })} snapshot={null} />);
  return screen
    .getAllByRole('listitem')
    .filter(({ className }) => !className.includes('max-sm:hidden'))
    .map(({ textContent }) => textContent!);
}

it('shows one phase on a phone, before the first, while one runs and once it has ended', () => {
  const { phases } = liveRun();
  const [idle, load] = phases;
  const names = study().recipe.map(({ name }) => name);
  const of = (i: number) => [expect.stringMatching(new RegExp(`^${names[i]!} · ${i + 1} of ${names.length}`))];
  expect(onAPhone([])).toEqual(of(0));
  expect(onAPhone(phases)).toEqual(of(1));
  expect(onAPhone([idle!, { ...load!, endS: 2000, endedBy: 'time' }])).toEqual(of(1));
});
