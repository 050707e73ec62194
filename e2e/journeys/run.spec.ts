import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '../support/bench.ts';
import { startRun } from '../support/benchDay.ts';

test('a run on the bench settles, enters the verdict, and the report is exported', async ({ page, bench }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await page.getByRole('link', { name: 'Slot lid on Thistle 4T', exact: true }).click();
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

test('a run in time-lapse keeps its page alive: one draw a frame at most, lines as thin as the plot, and every click answered', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await startRun(page, 'demo-repeatability', { scale: '60×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  await page.locator('.trace-path').first().waitFor({ state: 'attached', timeout: 60_000 });
  await page.evaluate(() => {
    const counted = { draws: 0, frames: 0 };
    Object.assign(window, { counted });
    // Lines drawn in one commit come in one record list.
    new MutationObserver((changes) => {
      if (changes.some(({ target }) => (target as Element).classList.contains('trace-path'))) counted.draws++;
    }).observe(document.body, { subtree: true, attributes: true, attributeFilter: ['d'] });
    const frame = () => {
      counted.frames++;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  for (let k = 0; k < 8; k++) {
    await page.getByRole('button', { name: 'Keys' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await page.waitForTimeout(500);
  }
  const { counted, longest, width } = await page.evaluate(() => {
    const paths = [...document.querySelectorAll('.trace-path')];
    return {
      counted: (window as unknown as { counted: { draws: number; frames: number } }).counted,
      longest: Math.max(...paths.map((path) => (path.getAttribute('d') ?? '').split(/[ML]/).length - 1)),
      width: paths[0]!.closest('svg')!.getBoundingClientRect().width,
    };
  });
  expect(counted.draws).toBeGreaterThan(5);
  expect(counted.draws).toBeLessThanOrEqual(counted.frames + 1);
  expect(longest).toBeGreaterThan(50);
  expect(longest).toBeLessThanOrEqual(4 * Math.ceil(width) + 8);
});

test('Stop is in sight on every size of window, wherever the page stands', async ({ page }) => {
  await startRun(page, 'demo-repeatability', { scale: '10×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  const stop = page.getByRole('button', { name: /Stop the load/ });
  for (const [width, height] of [
    [1280, 800],
    [1100, 700],
    [820, 1180],
    [390, 844],
    [390, 600],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const to of [0, 500, 5000]) {
      await page.evaluate((y) => scrollTo(0, y), to);
      await expect(stop, `${width} × ${height}, at ${to}`).toBeInViewport({ ratio: 1 });
    }
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  }
  await stop.click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  await expect(page.getByText('The rig confirms that its load is off')).toBeVisible({ timeout: 30_000 });
});
