import { expect, test } from '../support/bench.ts';

const STUDY = 'demo-repeatability';
const body = (): RegExp => new RegExp(`/api/v1/studies/${STUDY}$`);

test('what is typed while a save is under way stays, and is saved after it', async ({ page, bench }) => {
  // The answer to a save comes four seconds late, as over a bad line.
  let answered = 0;
  await page.route(body(), async (route) => {
    if (route.request().method() !== 'PUT') return route.fallback();
    const answer = await route.fetch();
    if (answered++ === 0) await page.waitForTimeout(4000);
    return route.fulfill({ response: answer });
  });
  await page.goto(`/studies/${STUDY}/hold`);
  const kept = page.getByLabel('Value of Case');
  await kept.fill('closed case');
  await page.getByRole('button', { name: 'Save' }).click();
  await kept.fill('closed case, side panel off');
  const firmware = page.getByLabel('Value of Firmware');
  await firmware.fill('LH-2.9');
  await expect.poll(() => answered).toBe(1);
  // The answer is here once the saved version is.
  await expect
    .poll(async () => (await bench.get<{ version: number }>(`/studies/${STUDY}`)).version, { timeout: 10_000 })
    .toBeGreaterThan(1);
  await page.waitForTimeout(4500);
  await expect(kept).toHaveValue('closed case, side panel off');
  await expect(firmware).toHaveValue('LH-2.9');
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Not saved yet')).toBeHidden();
  expect(JSON.stringify(await bench.get(`/studies/${STUDY}`))).toContain('closed case, side panel off');
  await page.reload();
  await expect(firmware).toHaveValue('LH-2.9');
});

test('what was pressed just before a page is left, or closed, is there afterwards', async ({ page, context }) => {
  await page.goto(`/studies/${STUDY}/hold`);
  await page.getByLabel('Value of Case').fill('left at once');
  // No pause between the last key and the click.
  await page.getByRole('link', { name: /Plan/ }).first().click();
  await expect(page).toHaveURL(/\/plan$/);
  await page.goBack();
  await expect(page.getByLabel('Value of Case')).toHaveValue('left at once');
  await page.getByLabel('Value of Case').fill('closed at once');
  await page.close({ runBeforeUnload: false });
  const again = await context.newPage();
  await again.goto(`/studies/${STUDY}/hold`);
  await expect(again.getByLabel('Value of Case')).toHaveValue('closed at once');
});

test('a draft that a page cannot show is put aside as a file, and the study opens as it was saved', async ({ page }) => {
  await page.goto(`/studies/${STUDY}/hold`);
  await page.getByLabel('Value of Case').fill('closed case');
  await expect.poll(() => page.evaluate(() => localStorage.getItem('red-ember.drafts-3') ?? '')).toContain('closed case');
  // As a draft of another version of the program would be: a list that every station reads is not there.
  await page.evaluate((id) => {
    const drafts = JSON.parse(localStorage.getItem('red-ember.drafts-3')!) as Record<string, { body: Record<string, unknown> }>;
    drafts[id]!.body.variants = null;
    localStorage.setItem('red-ember.drafts-3', JSON.stringify(drafts));
    // The page that is left would write its own over it.
    Storage.prototype.setItem = () => {};
  }, STUDY);
  await page.goto(`/studies/${STUDY}/plan`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('This page failed over something that was typed.');
  // It is not for good: a reload says the same and offers the same.
  await page.reload();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Put it aside and open the study' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/not[- ]saved.*\.json$/i);
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText(/failed/);
  await page.goto(`/studies/${STUDY}/hold`);
  await expect(page.getByLabel('Value of Case')).toHaveValue('open bench');
});

test('of two windows that change one study, mine on top loses nothing of the other, and names what differs', async ({ page, bench }) => {
  await page.goto(`/studies/${STUDY}/hold`);
  await page.getByLabel('Value of Case').fill('mine');
  // Another window changes one field that is typed here too, and one that is not.
  await bench.changeStudy(STUDY, (study) => ({
    question: 'asked by the other window',
    locks: study.locks.map((lock) =>
      /^case/i.test(lock.name) ? { ...lock, value: 'theirs' } : /firmware/i.test(lock.name) ? { ...lock, value: 'LH-9' } : lock,
    ),
  }));
  await page.getByRole('button', { name: 'Save' }).click();
  const told = page.getByRole('alert');
  await expect(told).toContainText('saved in another window');
  await expect(told).toContainText('theirs');
  await told.getByRole('button', { name: 'Keep mine on top' }).click();
  await expect(page.getByLabel('Value of Firmware')).toHaveValue('LH-9');
  await expect(page.getByLabel('Value of Case')).toHaveValue('mine');
  const save = page.getByRole('button', { name: 'Save' });
  if (await save.isVisible()) await save.click();
  await expect(page.getByText('Not saved yet')).toBeHidden();
  expect(await bench.get(`/studies/${STUDY}`)).toMatchObject({
    question: 'asked by the other window',
    locks: expect.arrayContaining([expect.objectContaining({ value: 'mine' }), expect.objectContaining({ value: 'LH-9' })]) as unknown,
  });
});
