import type { Page } from '@playwright/test';
import type { PracticeSheet, PracticeShelf, Run, RunReadings } from '@red-ember/contract';
import { barriers } from '../support/barriers.ts';
import { expect, test, type Bench } from '../support/bench.ts';
import { ends, mount, runIdOf, startRun } from '../support/benchDay.ts';

test.describe.configure({ timeout: 300_000 });

/** An exercise with a seed that is known, opened on its sheet. */
async function begin(page: Page, bench: Bench, exercise: string, seed: number): Promise<PracticeSheet> {
  const answer = await fetch(`${bench.url}/api/v1/practice`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: bench.url },
    body: JSON.stringify({ exercise, seed }),
  });
  const sheet = (await answer.json()) as PracticeSheet;
  await page.goto(`/studies/${sheet.studyId}/practice`);
  return sheet;
}

/** Mounts a variant by its card and runs it to its end. */
async function measure(page: Page, bench: Bench, { studyId }: PracticeSheet, variant: string): Promise<Run> {
  await mount(page, studyId, variant);
  await startRun(page, studyId);
  await ends(page);
  return bench.get<Run>(`/runs/${runIdOf(page)}`);
}

async function handIn(page: Page, { studyId }: PracticeSheet, call: string, found: string[]): Promise<void> {
  await page.goto(`/studies/${studyId}/practice`);
  await page.getByLabel(call).check();
  for (const trap of found) await page.getByLabel(trap).check();
  await page.getByRole('button', { name: 'Hand in and see what was true' }).click();
  await expect(page.getByRole('heading', { name: 'What was true' })).toBeVisible();
}

const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);

test('practice: a cover that somebody fitted in a hurry is remounted, and what was true is opened', async ({ page, bench }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Practice' }).click();
  await page.getByRole('button', { name: 'Begin Does the cover help?' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Does the cover help?');

  const sheet = await begin(page, bench, 'cover', 3);
  const { a, b } = sheet.question;
  const runs = [await measure(page, bench, sheet, b), await measure(page, bench, sheet, b), await measure(page, bench, sheet, a)];
  // Nothing that a learner can read names what is wrong.
  expect(runs.map(({ faults }) => faults)).toEqual([[], [], []]);
  await page.goto(`/studies/${sheet.studyId}/judge`);
  await expect(page.getByText('Practice.', { exact: true })).toBeVisible();
  // What is typed on the sheet stays while the bench is looked at.
  await page.getByRole('link', { name: 'What is asked, hints, and handing in' }).click();
  await page.getByLabel('The sentence for the report').fill('The first mount was no mount.');
  await page.goto(`/studies/${sheet.studyId}/read`);
  await page.goto(`/studies/${sheet.studyId}/practice`);
  await expect(page.getByLabel('The sentence for the report')).toHaveValue('The first mount was no mount.');
  expect(await barriers(page)).toEqual([]);
  await handIn(page, sheet, `${capital(b)} is cooler than ${a}`, ['A film was left on a pad']);
  expect(await barriers(page)).toEqual([]);
  await expect(page.getByText(`You said it: ${capital(b)} is cooler than ${a}.`)).toBeVisible();
  await expect(page.getByText(`The film was left on a pad: on mount 1 of ${b}.`)).toBeVisible();
  await expect(page.getByText('The first mount was no mount.')).toBeVisible();

  // Kept apart: neither the shelf nor the list of runs knows of it.
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Slot lid on Thistle 4T', exact: true })).toBeVisible();
  await expect(page.getByText('Does the cover help?')).toBeHidden();
  await page.goto('/practice');
  await expect(page.getByText('1 of 1 called right.')).toBeVisible();
});

test('practice: a heavy slab wins in five minutes; the load is given its time, and the result turns round', async ({ page, bench }) => {
  const sheet = await begin(page, bench, 'heavy', 1);
  const { a, b } = sheet.question;
  for (const variant of [a, b]) await measure(page, bench, sheet, variant);
  // Five minutes are five minutes: Judge does not call it.
  await page.goto(`/studies/${sheet.studyId}/judge`);
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText(/cooler|warmer/);
  await page.goto(`/studies/${sheet.studyId}/practice`);
  await page.getByRole('button', { name: 'Take a hint' }).click();
  await expect(page.getByText('Hint 1.')).toBeVisible();
  await bench.changeStudy(sheet.studyId, ({ recipe }) => ({
    recipe: recipe.map((phase) =>
      phase.kind === 'load' ? { ...phase, mode: 'until-settled' as const, durationS: 900, capS: 7200 } : phase,
    ),
  }));
  const rises: Record<string, number> = {};
  for (const variant of [a, b]) {
    const { id } = await measure(page, bench, sheet, variant);
    const { review } = await bench.get<RunReadings>(`/runs/${id}/readings`);
    rises[variant] = review.spots[0]!.load!.rise!.mean.value;
  }
  expect(rises['thick slab']!).toBeGreaterThan(rises['comb sink']! + 3);
  await handIn(page, sheet, `${capital(b)} is ${b === 'thick slab' ? 'warmer' : 'cooler'} than ${a}`, [
    'The loads ended before the parts had settled',
  ]);
  await expect(page.getByText(/^You said it:/)).toBeVisible();
  await expect(page.getByText('1 hint taken.')).toBeVisible();
});

test('practice: a fan on the wrong plug is seen in its speed, and gone with the next mount', async ({ page, bench }) => {
  const sheet = await begin(page, bench, 'little-fan', 2);
  const { a, b } = sheet.question;
  const [fanned, still] = a.includes('fan') ? [a, b] : [b, a];
  const wrong = await measure(page, bench, sheet, fanned);
  const right = await measure(page, bench, sheet, fanned);
  await measure(page, bench, sheet, still);
  const speed = async ({ id }: Run) => (await bench.get<{ review: { fan: { value: number } } }>(`/runs/${id}/readings`)).review.fan.value;
  expect(await speed(wrong)).toBeLessThan(0.5 * (await speed(right)));
  await handIn(page, sheet, `${capital(b)} is ${b === fanned ? 'cooler' : 'warmer'} than ${a}`, [
    'A fan hung on the wrong plug and did not obey',
  ]);
  await expect(page.getByText(/^You said it:/)).toBeVisible();
  const { attempts } = await bench.get<PracticeShelf>('/practice');
  expect(attempts[0]!.marks).toMatchObject({ call: 'right', found: ['wrong-plug'], missed: [], imagined: [] });
});
