import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { Study } from '@red-ember/contract';
import { expect, test, type Bench } from '../support/bench.ts';

const save = async (page: Page) => {
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Not saved yet')).toBeHidden();
};
async function studyNamed(bench: Bench, title: string): Promise<Study> {
  const shelf = await bench.get<{ id: string; title: string }[]>('/studies');
  return bench.get<Study>(`/studies/${shelf.find((entry) => entry.title === title)!.id}`);
}

test('factors become variants, variants an order, the order a calendar', async ({ page, bench }) => {
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill('Plate, fan and cooler');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Plate, fan and cooler');
  await page.getByLabel('Family').selectOption('regulator');
  await page.getByLabel('Part under test').fill('Ferry B4');
  await save(page);

  await page
    .getByRole('navigation', { name: /stations/i })
    .getByRole('link', { name: 'Plan' })
    .click();
  await page.getByRole('link', { name: 'Factors', exact: true }).click();
  for (const [index, name, levels] of [
    [1, 'Plate', 'none, plate'],
    [2, 'Fan', 'off, on'],
    [3, 'Tower', 'upright, lying'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a factor' }).click();
    await page.getByLabel(`Factor ${index}`).fill(name);
    await page.keyboard.press('Tab');
    await page.getByLabel(`Levels of ${name}`).fill(levels);
    await page.keyboard.press('Tab');
  }
  await page.getByRole('button', { name: 'Strike out a combination' }).click();
  await page.getByLabel('Second level of rule 1').selectOption('Fan: on');
  await page.getByLabel('Reason of rule 1').fill('the fan sits in the plate');
  await page.getByRole('button', { name: /All combinations, 8/ }).click();
  await page.getByRole('button', { name: 'Make 6 variants' }).click();
  await expect(page.getByLabel('What qualifies this page')).toContainText('6 variants tell every factor apart');
  await save(page);

  await page.getByRole('link', { name: 'Repeats, order, calendar' }).click();
  // Answered by the worker.
  await expect(page.getByText('No order refits less.')).toBeVisible();
  await page.getByRole('button', { name: 'Take this order' }).last().click();
  await expect(page.getByText(/% of a steady drift stays in the difference/)).toHaveCount(2);
  // Rearranged by keys: Space lifts, an arrow moves, Space lets go.
  const rows = page.getByRole('list', { name: 'Order of runs' }).getByRole('listitem');
  const before = await rows.allInnerTexts();
  const handle = rows.nth(0).getByRole('button');
  await handle.focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(250);
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(250);
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(250);
  await page.keyboard.press('Space');
  await expect(page.getByText(/^Your own order/)).toBeVisible();
  const name = (text: string) => text.split('\n').find((line) => line.includes(','));
  expect(name((await rows.allInnerTexts())[2]!)).toBe(name(before[0]!));

  await page.getByLabel('First day').fill('2026-03-07');
  await expect(page.getByRole('list', { name: 'Days of the plan' })).toContainText('Monday 9 March');
  await save(page);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Calendar file' }).click()]);
  expect(download.suggestedFilename()).toBe('Plate fan and cooler.ics');
  const file = readFileSync(await download.path(), 'utf8');
  expect(file.match(/BEGIN:VEVENT/g)!.length).toBeGreaterThanOrEqual(24);
  expect(file).toContain('DTSTART:20260309T090000\r\n');

  const study = await studyNamed(bench, 'Plate, fan and cooler');
  expect(study.plan.school).toBe('own');
  expect(study.plan.order).toHaveLength(12);
  expect(study.plan.startOn).toBe('2026-03-07');
  expect(study.variants[0]!.levels).toEqual([
    { factor: 'Plate', level: 'none' },
    { factor: 'Fan', level: 'off' },
    { factor: 'Tower', level: 'upright' },
  ]);
});

test('planned studies of the demo: a paste that stains comes last, the board as shipped first', async ({ page }) => {
  await page.goto('/studies/demo-pastes/plan/order');
  const rows = page.getByRole('list', { name: 'Order of runs' }).getByRole('listitem');
  await expect(rows).toHaveCount(12);
  await expect(rows.nth(11)).toContainText('paste Q');
  await page.goto('/studies/demo-fixes/plan/order');
  await expect(rows.first()).toContainText('stock, stock');
  await page.goto('/studies/demo-fixes/plan/factors');
  await expect(page.getByLabel('What qualifies this page')).toContainText('4 variants tell every factor apart');
  await expect(page.getByText('the block stands too high for the stock pads')).not.toHaveCount(0);
});

test('six pastes and a ladder, planned by keyboard alone', async ({ page, bench }) => {
  /** Moves the focus to a control as Tab would bring it, and types into it. */
  const type = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  };
  const press = async (name: string | RegExp) => {
    await page.getByRole('button', { name }).first().focus();
    await page.keyboard.press('Enter');
  };
  const begin = async (title: string, part: string) => {
    await page.goto('/');
    await type('Start a study', title);
    await page.getByLabel('Start a study', { exact: true }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
    await page.getByLabel('Family').focus();
    await page.keyboard.type('Graphics');
    await type('Part under test', part);
    await save(page);
    const { id } = await studyNamed(bench, title);
    await page.goto(`/studies/${id}/plan/factors`);
  };

  await begin('Pastes by keyboard', 'Wren 8');
  await press('Add a factor');
  await type('Factor 1', 'Paste');
  await type('Levels of Paste', 'K, L, M, N, Q, Z');
  await press(/^Make 6 variants/);
  await save(page);
  await page.getByRole('link', { name: 'Repeats, order, calendar' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Always last').focus();
  await page.keyboard.type('Q');
  const rows = page.getByRole('list', { name: 'Order of runs' }).getByRole('listitem');
  await expect(rows).toHaveCount(12);
  await expect(rows.nth(10)).toContainText('Q');
  await expect(rows.nth(11)).toContainText('Q');
  // A run that is longer than the day allows is said, and nothing is lost.
  await type('To mount anything', '400');
  await expect(page.getByRole('alert')).toContainText('A refit takes 400 min, longer than any stretch of the working day');
  await type('To mount anything', '20');
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take this order' }).first().focus();
  await page.keyboard.press('Enter');
  await save(page);
  const pastes = await studyNamed(bench, 'Pastes by keyboard');
  expect(pastes.plan.order).toHaveLength(12);
  expect(pastes.plan.order.slice(-2)).toEqual([pastes.plan.lastVariantId, pastes.plan.lastVariantId]);

  await begin('Ladder by keyboard', 'Ferry B2');
  for (const [index, name, levels] of [
    [1, 'Cooler', 'stock, tower, loop'],
    [2, 'Pads', 'stock, P12'],
  ] as const) {
    await press('Add a factor');
    await type(`Factor ${index}`, name);
    await type(`Levels of ${name}`, levels);
  }
  await press('One change at a time');
  await press(/^Make \d variants/);
  await expect(page.getByLabel('What qualifies this page')).toContainText('tell every factor apart');
  await save(page);
  const ladder = await studyNamed(bench, 'Ladder by keyboard');
  // Each step changes one thing against the step before it.
  const steps = ladder.variants.map((variant) => variant.levels!.map((choice) => choice.level));
  for (let k = 1; k < steps.length; k++) expect(steps[k]!.filter((level, i) => level !== steps[k - 1]![i])).toHaveLength(1);
});

test('of 243 combinations forty are chosen that keep the factors apart; none, all, and those that a word finds', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill('Everything at once');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/ask$/);
  await page.getByRole('navigation', { name: /stations/i }).getByRole('link', { name: 'Plan' }).click(); // prettier-ignore
  await page.getByRole('link', { name: 'Factors', exact: true }).click();
  for (const [index, name, levels] of [
    [1, 'Cooler', 'stock, tower, loop'],
    [2, 'Pad', 'P6, P9, P12'],
    [3, 'Paste', 'K, L, M'],
    [4, 'Fans', 'one, two, three'],
    [5, 'Panel', 'on, off, mesh'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a factor' }).click();
    await page.getByLabel(`Factor ${index}`).fill(name);
    await page.keyboard.press('Tab');
    await page.getByLabel(`Levels of ${name}`).fill(levels);
    await page.keyboard.press('Tab');
  }
  await page.getByRole('button', { name: /All combinations, 243/ }).click();
  const said = page.getByRole('status').filter({ hasText: 'chosen' });
  await expect(said).toContainText('243 combinations of 243 chosen');
  await page.getByRole('button', { name: 'None', exact: true }).click();
  await expect(said).toContainText('0 combinations of 243 chosen.');
  await page.getByLabel('Show those with').fill('loop P12');
  await page.getByRole('button', { name: 'All of these' }).click();
  await expect(said).toContainText('27 combinations of 243 chosen: they cannot tell every factor by itself');
  await page.getByLabel('Show those with').fill('');
  await page.getByLabel('A fraction of').fill('40');
  await page.getByRole('button', { name: 'Choose those that keep the factors apart' }).click();
  await expect(said).toContainText(/40 combinations of 243 chosen: every factor can be told by itself/);
  await page.getByRole('button', { name: 'Make 40 variants' }).click();
  await expect(page.getByLabel('What qualifies this page')).toContainText('40 variants tell every factor apart');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();
});
