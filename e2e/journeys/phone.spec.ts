import type { Page } from '@playwright/test';
import type { Mount, Run } from '@red-ember/contract';
import { expect, test } from '../support/bench.ts';
import { mount, runIdOf, startRun } from '../support/benchDay.ts';

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const scrollsSideways = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth > document.documentElement.clientWidth);

test('on a phone: a card is worked and signed, the run started, marked at arm’s length and stopped, and nothing scrolls sideways', async ({
  page,
  bench,
}) => {
  test.setTimeout(180_000);
  await page.goto('/studies/demo-slot-lid/mount');
  await page.getByLabel('Your initials').fill('km');
  await mount(page, 'demo-slot-lid', 'slot lid', 'T4-02');
  expect((await bench.get<Mount[]>('/studies/demo-slot-lid/mounts')).at(-1)!.by).toBe('KM');
  expect(await scrollsSideways(page)).toBe(false);

  await startRun(page, 'demo-slot-lid', { scale: '10×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  const stop = page.getByRole('button', { name: /Stop the load/ });
  await expect(stop).toBeInViewport({ ratio: 1 });
  expect(await scrollsSideways(page)).toBe(false);
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: /Back to the sheet/ })).toBeVisible();
  for (const height of [600, 844]) {
    await page.setViewportSize({ width: 390, height });
    expect(await scrollsSideways(page), `arm’s length, ${height} high`).toBe(false);
    await expect(stop).toBeInViewport({ ratio: 1 });
  }
  await page.getByRole('button', { name: /Mark/ }).tap();
  expect(await scrollsSideways(page)).toBe(false);
  await page.keyboard.press('Escape');
  const id = runIdOf(page);
  await expect.poll(async () => (await bench.get<Run>(`/runs/${id}`)).events.filter(({ kind }) => kind === 'mark').length).toBe(1);
  await stop.tap();
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).tap();
  await expect(page.getByText('The rig confirms that its load is off')).toBeVisible({ timeout: 30_000 });
});
