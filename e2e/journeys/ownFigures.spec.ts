import type { Run, Study } from '@red-ember/contract';
import { expect, test } from '../support/bench.ts';

test.use({ measured: true });

test('what no channel carries is named, typed with each run, ranked, and moves the choice of a reader', async ({ page, bench }) => {
  const id = 'demo-pastes';
  await page.goto(`/studies/${id}/ask`);
  await page.getByRole('button', { name: 'Name a figure' }).click();
  const figure = page.getByRole('group', { name: 'Figure 1' });
  await figure.getByLabel('What is noted').fill('Ease of spreading');
  await figure.getByLabel('Unit').fill('of 5');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect.poll(async () => (await bench.get<Study>(`/studies/${id}`)).figures).toMatchObject([{ name: 'Ease of spreading', better: 'high' }]); // prettier-ignore

  const study = await bench.get<Study>(`/studies/${id}`);
  const runs = await bench.get<Run[]>(`/studies/${id}/runs`);
  // Paste N spreads best of all: every run of it is a five, the others a two.
  const easy = study.variants.find((variant) => variant.name === 'paste N')!;
  for (const run of runs) {
    await page.goto(`/studies/${id}/run/${run.id}`);
    const form = page.getByRole('form', { name: 'Figures of your own' });
    await form.getByLabel('Ease of spreading').fill(run.variantId === easy.id ? '5' : '2');
    await form.getByRole('button', { name: 'Write them down' }).click();
    await expect(form.getByRole('button', { name: 'Write them down' })).toBeDisabled();
  }
  await page.goto(`/studies/${id}/judge/all`);
  await page.getByLabel('By', { exact: true }).selectOption({ label: 'Ease of spreading' });
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/paste N leads by ease of spreading/);

  await page.goto(`/studies/${id}/judge/choice`);
  await page.getByRole('button', { name: 'Add a reader' }).click();
  await page.getByLabel('Name of reader 3').fill('Spreads it all day');
  await page.getByLabel('temperature for Spreads it all day').fill('0');
  await page.getByLabel('Ease of spreading for Spreads it all day').fill('1');
  await expect(page.getByRole('listitem').filter({ hasText: 'Spreads it all day' })).toContainText('paste N');
  await page.getByRole('button', { name: 'Save' }).click();
  await page.reload();
  await expect(page.getByLabel('Ease of spreading for Spreads it all day')).toHaveValue('1');
});
