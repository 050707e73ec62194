import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '../support/bench.ts';
import { startRun } from '../support/benchDay.ts';

test('a run on the bench settles, enters the verdict, and the report is exported', async ({ page, bench }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await page.getByRole('link', { name: 'Slot lid on Thistle 4T' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('heats flash, underside');
  await expect(page.locator('#sheet')).toContainText('3 and 2 runs');

  await page.getByRole('link', { name: /Mount/ }).click();
  await page.getByRole('radio', { name: /slot lid/ }).check();
  const mounted = page.getByRole('button', { name: 'slot lid is mounted' });
  await expect(mounted).toBeDisabled();
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await expect(mounted).toBeDisabled();
  await page.getByLabel(/Serial number/).fill('T4-03');
  await mounted.click();
  await expect(page.getByRole('alert')).toContainText('is T4-02, not T4-03');
  await page.getByLabel(/Serial number/).fill('T4-02');
  await mounted.click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('slot lid, mount 4');

  await page.getByRole('link', { name: 'Run it' }).click();
  await page.getByText('600×').click();
  await page.getByRole('button', { name: 'All of them' }).click();
  await page.getByRole('button', { name: 'Look at the bench' }).click();
  await expect(page.getByText('Ready.')).toBeVisible();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await expect(page.getByTestId('binding')).toBeVisible();
  await expect(page.locator('#sheet')).toContainText('Sustained write');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('finished', { timeout: 150_000 });
  const ended = page.getByRole('row', { name: /Sustained write/ });
  // By what is likely to remain; a slow sensor may take it to its cap.
  await expect(ended).toContainText(/settled|reached its cap/);

  await page.getByLabel('used', { exact: true }).check();
  await page.getByRole('button', { name: 'Sign off' }).click();
  await expect(page.getByText('Signed off: use.')).toBeVisible();

  await page.getByRole('link', { name: /Judge/ }).click();
  await expect(page.locator('#sheet')).toContainText('3 and 3 runs');
  await page.getByRole('button', { name: 'How was this worked out?' }).first().click();
  await expect(page.getByRole('dialog')).toContainText('degrees of freedom');
  await page.keyboard.press('Escape');

  await page.getByLabel(/air$/).fill('40');
  await expect(page.getByText(/slot lid: .* over/)).toBeVisible();

  await page
    .getByRole('link', { name: /^Report/ })
    .first()
    .click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Report, HTML' }).click()]);
  const report = readFileSync(await download.path(), 'utf8');
  expect(report).toContain('<svg');
  expect(report).toContain('slot lid');
  expect(report).not.toMatch(/<script|src="http|href="http/);
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Readings, CSV' }).click()]);
  expect(
    readFileSync(await csv.path(), 'utf8')
      .split('\r\n')
      .filter(Boolean),
  ).toHaveLength(1 + 7 * 4);
  expect((await bench.get<{ disposition: string }[]>('/studies/demo-slot-lid/runs')).at(-1)!.disposition).toBe('use');
});

test('the stop key removes the load, and the run stays out of the verdict', async ({ page, bench }) => {
  // A load of ninety minutes: in time-lapse it lasts longer than the slowest machine takes to get to the stop key.
  await bench.changeStudy('demo-slot-lid', (study) => ({
    recipe: study.recipe.map((phase) =>
      phase.kind === 'load' ? { ...phase, mode: 'fixed', durationS: 5400, capS: 5400 } : { ...phase, durationS: 120, capS: 120 },
    ),
  }));
  await startRun(page, 'demo-slot-lid', { scale: '60×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  await page.keyboard.press('c');
  await page.getByRole('textbox', { name: 'Change' }).fill('Door opened');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('What qualifies this page')).toContainText('Door opened');
  const serious = async () =>
    (await new AxeBuilder({ page }).analyze()).violations
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ')}`);
  expect(await serious()).toEqual([]);
  await page.keyboard.press('a');
  await expect(page.getByText('Back to the sheet (A)')).toBeVisible();
  expect(await serious()).toEqual([]);
  await page.keyboard.press('a');
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Sustained write', { timeout: 30_000 });
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('stopped by hand');
  await expect(page.getByLabel('What qualifies this page')).toContainText('lower bound');
  await expect.poll(async () => (await bench.get<{ busyRunId: string | null }[]>('/rigs'))[0]!.busyRunId).toBeNull();
});
