import { expect, type Page } from '@playwright/test';

/** Works a mount card: every step, every caution, the serial number where one is asked for. */
export async function mount(page: Page, studyId: string, variant: string, serial?: string): Promise<void> {
  await page.goto(`/studies/${studyId}/mount`);
  // A comb sink is not the comb sink with its fan.
  await page.getByRole('radio', { name: new RegExp(`^${variant}(?! with )`) }).check();
  const boxes = page.locator('form').getByRole('checkbox');
  await boxes.first().waitFor();
  for (const box of await boxes.all()) await box.check();
  if (serial) await page.getByLabel(/Serial number/).fill(serial);
  await page.getByRole('button', { name: `${variant} is mounted` }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(variant);
}

/** Looks at the bench and starts; a list that is not clear is overridden with a reason, where one is given. */
export async function startRun(
  page: Page,
  studyId: string,
  options: { scale?: string; reason?: string; before?: () => Promise<void> } = {},
) {
  await page.goto(`/studies/${studyId}/run`);
  await page.getByText(options.scale ?? '600×', { exact: true }).click();
  const all = page.getByRole('button', { name: 'All of them' });
  if (await all.isVisible()) await all.click();
  await options.before?.();
  await page.getByRole('button', { name: 'Look at the bench' }).click();
  await expect(page.getByLabel('Pre-flight list')).toBeVisible({ timeout: 15_000 });
  if (options.reason) await page.getByLabel(/say why the run is started all the same/).fill(options.reason);
  await page.getByRole('button', { name: 'Start the run' }).click();
  await expect(page).toHaveURL(/\/run\/[0-9a-f-]{36}/);
}

export const runIdOf = (page: Page): string => /\/run\/([0-9a-f-]{36})/.exec(page.url())![1]!;

export async function ends(page: Page, how = 'finished'): Promise<void> {
  await expect(page.getByRole('heading', { level: 1 })).toContainText(how, { timeout: 150_000 });
}
