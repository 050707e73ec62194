import type { Study } from '@red-ember/contract';
import { emptyBench, expect, test } from '../support/bench.ts';

test('a study is written from nothing, with the keyboard where it can be', async ({ page, bench }) => {
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill('Comb sink on Thistle 1T');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Comb sink on Thistle 1T');
  await page.getByLabel('What do you want to know?').fill('Is the comb sink worth its height?');
  await page.getByLabel('Part under test').fill('Thistle 1T');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Not saved yet')).toBeHidden();

  await page.getByRole('link', { name: /Look/ }).click();
  // The limits library has to come first; a key, unlike a click, is not waited with.
  await expect(page.getByRole('button', { name: 'Add a spot' })).toBeEnabled();
  await page.getByRole('button', { name: 'Add a spot' }).press('Enter');
  await page.getByLabel('Spot', { exact: true }).fill('Controller');
  await page.getByLabel('Limit', { exact: true }).fill('203');
  await expect(page.getByText('A limit above 150 °C: is this °F?')).toBeVisible();
  await page.getByLabel('Limit', { exact: true }).fill('');
  await expect(page.getByText('Give a limit, so that headroom can be shown.')).toBeVisible();
  await page.getByLabel('Limit', { exact: true }).fill('95,5');
  await expect(page.getByText('One field needs attention')).toBeHidden();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();

  await page.getByRole('link', { name: /Plan/ }).click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  await page.getByRole('button', { name: 'Add a variant' }).click();
  await page.getByLabel('At least', { exact: true }).fill('0');
  await expect(page.getByText('A phase shorter than a minute cannot be read.')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('One field needs attention')).toBeVisible();
  await page.getByLabel('At least', { exact: true }).fill('10');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();

  await page.getByRole('link', { name: /Ask/ }).click();
  await page.getByRole('button', { name: 'Write down a claim' }).click();
  await page.getByLabel('In one sentence').fill('The comb sink cools the controller by 10 K');
  await page.getByLabel('By at least').fill('10');
  await page.getByRole('button', { name: 'Write down a prediction' }).click();
  await page.getByLabel('Change against the reference').fill('-8');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();

  await page.getByRole('link', { name: /Judge/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('no finished run yet');
  const [shelf] = await bench.get<{ id: string }[]>('/studies');
  const study = await bench.get<Study>(`/studies/${shelf!.id}`);
  expect(study.spots[0]).toMatchObject({ name: 'Controller', limitC: 95.5 });
  expect(study.predictions[0]).toMatchObject({ expectedK: -8 });
});

test('two windows edit one study: the second is told and loses nothing', async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto('/studies/demo-slot-lid/ask');
  await other.goto('/studies/demo-slot-lid/hold');
  await page.getByLabel('What do you want to know?').fill('First window');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();
  await other.getByLabel('Value of Firmware').fill('LH-2.5');
  await other.getByRole('button', { name: 'Save' }).click();
  await expect(other.getByRole('alert')).toContainText('saved in another window');
  await expect(other.getByLabel('Value of Firmware')).toHaveValue('LH-2.5');
  await other.getByRole('button', { name: 'Take over the other version' }).click();
  await expect(other.getByLabel('Value of Firmware')).toHaveValue('LH-2.4');
});

test('what is typed survives a reload, can be undone, and the trash gives back', async ({ page }) => {
  await page.goto('/studies/demo-repeatability/hold');
  await page.getByLabel('Value of Case').fill('closed case');
  await page.waitForTimeout(600);
  await page.reload();
  await expect(page.getByLabel('Value of Case')).toHaveValue('closed case');
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByLabel('Value of Case')).toHaveValue('open bench');
  await page.getByLabel('Value of Case').fill('x');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Value of Case')).toHaveValue('open bench');

  await page.goto('/');
  await page.getByRole('button', { name: 'Put How well the bench repeats in the trash' }).click();
  await expect(page.getByRole('link', { name: 'How well the bench repeats', exact: true })).toBeHidden();
  await page.getByRole('button', { name: 'Trash', exact: true }).first().click();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'How well the bench repeats', exact: true })).toBeVisible();
});

test('a study is taken from one bench to another, and comes to the same there', async ({ page, context, bench }) => {
  const other = await emptyBench();
  try {
    await page.goto('/');
    const arriving = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Take Slot lid on Thistle 4T along as a file' }).click();
    const taken = await arriving;
    expect(taken.suggestedFilename()).toBe('Slot lid on Thistle 4T.zip');
    const path = test.info().outputPath(taken.suggestedFilename());
    await taken.saveAs(path);

    const there = await context.newPage();
    await there.goto(other.url);
    await there.locator('input[type=file]').setInputFiles(path);
    await expect(there.getByText('Slot lid on Thistle 4T was read in, with 6 runs.')).toBeVisible({ timeout: 60_000 });
    await there.getByRole('link', { name: 'Open it' }).click();
    await expect(there.getByRole('heading', { level: 1 })).toBeVisible();
    const [study] = await other.get<{ id: string; runs: number }[]>('/studies');
    expect(study).toMatchObject({ runs: 6 });
    expect(study!.id).not.toBe('demo-slot-lid');
    const saidBy = async (at: typeof bench, id: string) =>
      (
        await at.get<{ judgement: { spots: { comparison: { difference: { value: number } } }[] } }>(`/studies/${id}/verdict`)
      ).judgement.spots.map(({ comparison }) => comparison.difference.value);
    expect(await saidBy(other, study!.id)).toEqual(await saidBy(bench, 'demo-slot-lid'));
  } finally {
    await other.close();
  }
});

test('a whole bench is taken along in one file, and every study of it comes to the same on another', async ({ page, context, bench }) => {
  // Three studies say as much of it as two dozen.
  const keep = ['demo-slot-lid', 'demo-odd-board', 'demo-salvaged'];
  for (const { id } of await bench.get<{ id: string }[]>('/studies'))
    if (!keep.includes(id)) await fetch(`${bench.url}/api/v1/studies/${id}`, { method: 'DELETE' });
  const other = await emptyBench();
  try {
    await page.goto('/bench');
    const arriving = page.waitForEvent('download');
    await page.getByRole('link', { name: 'All studies, ZIP' }).click();
    const taken = await arriving;
    const path = test.info().outputPath(taken.suggestedFilename());
    await taken.saveAs(path);

    const there = await context.newPage();
    await there.goto(other.url);
    await there.locator('input[type=file]').setInputFiles(path);
    for (const id of keep) {
      const { title } = await bench.get<{ title: string }>(`/studies/${id}`);
      await expect(there.getByText(`${title} was read in, with `)).toBeVisible({ timeout: 120_000 });
    }
    await expect(there.getByText(/comes to something else/)).toHaveCount(0);
    expect((await other.get<{ title: string }[]>('/studies')).length).toBe(keep.length);
  } finally {
    await other.close();
  }
});
