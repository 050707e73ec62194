import { expect, test } from '../support/bench.ts';

test('what stands on a note is answered while it is typed, in °F too, kept over a reload, and becomes a study', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Scratch sheet', exact: true }).click();
  await expect(page.getByText('Type what stands on the note.')).toBeVisible();
  for (const [label, text] of [
    ['Room', '22'],
    ['Intake air', '29'],
    ['Exhaust air', '41'],
    ['Power', '210'],
    ['Name of spot 1', 'Chip'],
    ['Temperature of Chip', '181.4F ± 1'],
    ['Limit of Chip', '95'],
    ['In air of', '34'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(text);
  }
  const chip = page.getByRole('region', { name: 'Chip' });
  await expect(page.getByRole('region', { name: 'The air' })).toContainText('37 %');
  await expect(chip).toContainText(/over room.*61\.0 ±\s/s);
  await expect(chip).toContainText(/0\.257 ±\s0\.00\d\sK\/W/);
  await page.getByLabel('Room', { exact: true }).fill('cold');
  await expect(page.getByText('“cold” is not a temperature.')).toBeVisible();
  await page.getByLabel('Room', { exact: true }).fill('22');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Chip' })).toContainText(/over room.*61\.0 ±\s/s);
  await page.getByRole('button', { name: 'Keep as a study' }).click();
  await expect(page).toHaveURL(/\/studies\/[^/]+\/ask$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Note of ');
  await page.goto(page.url().replace(/ask$/, 'look'));
  await expect(page.locator('#sheet')).toContainText('Chip');
  await expect(page.locator('#sheet')).toContainText('95 °C');
});
