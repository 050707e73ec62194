import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from '../support/bench.ts';

const SAMPLES = join(import.meta.dirname, '../../web/public/samples');
const sampleDay = () => readdirSync(SAMPLES).map((name) => ({ name, mimeType: 'text/csv', buffer: readFileSync(join(SAMPLES, name)) }));

/** Files let go over a part of the page, as a hand does. */
async function dropOn(page: Page, label: RegExp, files: { name: string; mimeType: string; buffer: Buffer }[]) {
  const handed = await page.evaluateHandle(
    (all) => {
      const transfer = new DataTransfer();
      for (const { name, mimeType, text } of all) transfer.items.add(new File([text], name, { type: mimeType }));
      return transfer;
    },
    files.map(({ name, mimeType, buffer }) => ({ name, mimeType, text: buffer.toString('utf8') })),
  );
  await page.locator('label').filter({ hasText: label }).dispatchEvent('drop', { dataTransfer: handed });
}

test('a bench day dropped on the shelf becomes a verdict by one press; a copy and a free fan are left out', async ({ page }) => {
  const day = sampleDay();
  const twice = { ...day.find(({ name }) => name.includes('stock paste m1'))!, name: 'Wren 8 stock paste m1 (copy).csv' };
  await page.goto('/');
  await dropOn(page, /drop a day’s logs/, [...day, twice]);
  await expect(page).toHaveURL(/\/logs$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('6 logs, as they were understood');
  await expect(page.getByText('paste L: 3 runs, 2 mounts · stock paste: 2 runs, 2 mounts')).toBeVisible();
  await expect(page.getByRole('row', { name: /\(copy\)/ })).toContainText('Not used: the same readings as Wren 8 stock paste m1.csv.');
  await expect(page.getByRole('row', { name: /fans auto/ })).toContainText('it was not held');
  await page.getByRole('button', { name: 'Make the study of 5 logs' }).click();
  await expect(page).toHaveURL(/\/judge/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Paste L cools');
  await expect(page.getByText(/Fan duty was to be held at 100\s% and was off it/)).toBeVisible();
});

test('two files dropped on the shelf say at once what they come to, and go on saying it as they are put right', async ({ page, bench }) => {
  const day = sampleDay();
  const before = (await bench.get<unknown[]>('/studies')).length;
  await page.goto('/');
  await dropOn(page, /drop a day’s logs/, day.filter(({ name }) => /(stock paste|paste L) m1/.test(name))); // prettier-ignore
  const glance = page.getByRole('heading', { name: 'At a glance' }).locator('xpath=ancestor::section');
  await expect(glance).toContainText(/Paste L cools chip by \d/);
  await expect(glance).toContainText('paste L against stock paste, 1 against 1 in use');
  expect(await bench.get<unknown[]>('/studies')).toHaveLength(before);
  await page.getByLabel('Variant of Wren 8 paste L m1.csv').fill('another paste');
  await page.getByLabel('Variant of Wren 8 paste L m1.csv').press('Tab');
  await expect(glance).toContainText('another paste against stock paste');
  await page.getByRole('button', { name: 'Make the study of 2 logs' }).click();
  await expect(page).toHaveURL(/\/judge/);
});

test('a marked session: its phases are found, named, moved by a key and read one by one', async ({ page }) => {
  const rows = ['t (min),chip C,room C,W,what was done'];
  let fast = 0;
  for (let s = 0; s <= 5400; s += 2) {
    const aim = s < 600 ? 4 : s < 3000 ? 45 : 38;
    fast += (aim - fast) * (1 - Math.exp(-2 / 120));
    const text = s === 3000 ? 'panel off' : '';
    rows.push(`${(s / 60).toFixed(4)},${(22 + fast + 0.1 * Math.sin(s * 12.9898)).toFixed(2)},22.0,${s < 600 ? 26 : 190},${text}`);
  }
  await page.goto('/logs');
  await page
    .locator('input[type=file]')
    .setInputFiles([{ name: 'Quill session.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) }]);
  await page.getByRole('button', { name: 'Quill session.csv', exact: true }).click();
  await expect(page.getByLabel('Phase 3 is called')).toHaveValue('panel off');
  await expect(page.getByLabel('Phase 3 begins', { exact: true })).toHaveValue('50');
  // The whole of it: table, trace with its handles, phases and columns.
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id} at ${nodes[0]!.target.join(' ')}`),
  ).toEqual([]);
  const handle = page.getByRole('slider', { name: 'Load begins' });
  await handle.focus();
  await handle.press('ArrowRight');
  await expect(page.getByLabel('Phase 2 begins', { exact: true })).toHaveValue('10.08');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Phase 2 begins', { exact: true })).toHaveValue('10');
  await page.getByRole('button', { name: 'Make the study of 1 log' }).click();
  await expect(page).toHaveURL(/\/read/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('run 1');
  const study = /^.*\/studies\/[^/]+/.exec(page.url())![0];
  await page.goto(`${study}/run`);
  await page
    .getByRole('row', { name: /Quill session/ })
    .getByRole('link')
    .first()
    .click();
  await expect(page.getByRole('cell', { name: 'panel off' }).first()).toBeVisible();
});

test('what was written down wrongly of a run is put right, and the verdict follows', async ({ page }) => {
  await page.goto('/logs');
  await page.locator('input[type=file]').setInputFiles(sampleDay().filter(({ name }) => /m1|m2/.test(name)));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('4 logs, as they were understood');
  // Typed wrongly by a tired hand.
  await page.getByLabel('Variant of Wren 8 paste L m2.csv').fill('stock paste');
  await page.getByRole('button', { name: 'Make the study of 4 logs' }).click();
  await expect(page.getByText(/stock paste against paste L, 3 and 1 runs/)).toBeVisible();
  const study = /^.*\/studies\/[^/]+/.exec(page.url())![0];
  await page.goto(`${study}/run`);
  await page
    .getByRole('row', { name: /paste L m2/ })
    .getByRole('link')
    .first()
    .click();
  await page.getByRole('button', { name: 'Put right' }).click();
  const dialogue = page.getByRole('dialog');
  await dialogue.getByLabel('Variant on the bench').selectOption('paste L');
  await dialogue.getByLabel('Mount').selectOption('2');
  await dialogue.getByLabel('Began at').fill('2026-03-09T14:30');
  await dialogue.getByText('What its channels read').click();
  const channels = dialogue.getByRole('table', { name: 'What the channels read' });
  const first = channels.getByLabel(/was read from/).first();
  const [spotWas, roomLabel] = [await first.inputValue(), 'room air'];
  // Two columns cannot both be the room: said, and nothing is lost of what was chosen.
  await first.selectOption({ label: roomLabel });
  await dialogue.getByRole('button', { name: 'Put it right' }).click();
  await expect(dialogue.getByRole('alert')).toContainText('room air cannot be read by Chip [°C] and by Room [°C]');
  await first.selectOption(spotWas);
  await dialogue.getByRole('button', { name: 'Put it right' }).click();
  await expect(dialogue).toBeHidden();
  await expect(page.locator('#sheet')).toContainText('9 Mar 2026 14:30');

  // What stood on paper is added with its minute, and taken back.
  await page.getByText('Add what was missed, or stands on paper').click();
  await page.getByLabel('At, from the start').fill('12,5');
  await page.getByLabel('What happened').first().fill('the side panel was opened');
  await page.getByRole('button', { name: 'Add it' }).click();
  const noted = page.getByRole('row', { name: /12:30.*the side panel was opened/ });
  await expect(noted).toBeVisible();
  await noted.getByRole('button', { name: 'Take it back' }).click();
  await expect(noted).toHaveCount(0);
  await page.goto(`${study}/judge`);
  await expect(page.getByText(/stock paste against paste L, 2 and 2 runs, 2 mounts and 2 mounts/)).toBeVisible();
});

test('a second day is added to the study that is there', async ({ page, bench }) => {
  const day = sampleDay();
  await page.goto('/logs');
  await page.locator('input[type=file]').setInputFiles(day.filter(({ name }) => /m1/.test(name)));
  await page.getByRole('button', { name: 'Make the study of 2 logs' }).click();
  await expect(page).toHaveURL(/\/judge/);
  const study = /\/studies\/([^/]+)/.exec(page.url())![1]!;
  await page.goto(`/studies/${study}/run`);
  await page.getByRole('link', { name: 'A day of logs' }).click();
  await page.locator('input[type=file]').setInputFiles(day.filter(({ name }) => /m2|stock paste m1/.test(name)));
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('3 logs, as they were understood');
  await expect(page.getByText(/the same readings as run 1 of/)).toBeVisible();
  await page.getByRole('button', { name: 'Add 2 logs to it' }).click();
  await expect(page.getByText(/2 and 2 runs, 2 mounts and 2 mounts/)).toBeVisible();
  expect(await bench.get<unknown[]>(`/studies/${study}/runs`)).toHaveLength(4);
});

test('files that cannot be read are named, and the others stay', async ({ page }) => {
  await page.goto('/logs');
  const [one] = sampleDay();
  await page
    .locator('input[type=file]')
    .setInputFiles([
      one!,
      { name: 'empty.csv', mimeType: 'text/csv', buffer: Buffer.from('') },
      { name: 'page.csv', mimeType: 'text/csv', buffer: Buffer.from('<!doctype html><html></html>') },
    ]);
  await expect(page.getByText('empty.csv was not imported. The file is empty.')).toBeVisible();
  await expect(page.getByText(/page.csv was not imported. This is a web page/)).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 log, as it was understood');
  await page.reload();
  await expect(page.getByRole('button', { name: one!.name, exact: true })).toBeVisible();
});

/** A fan's sweep as a spreadsheet hands it over: the level has the room's floor in it. */
const sweepText = (gainK: number, quietDb: number) =>
  [
    'Duty %\tLevel dB(A)\tGPU rise K',
    ...[30, 40, 50, 60, 70, 80].map((duty) => {
      const level = 10 * Math.log10(10 ** 2.9 + 10 ** ((10 + 0.6 * duty - quietDb) / 10));
      return `${duty}\t${level.toFixed(1)}\t${(30 + 1200 / duty - gainK).toFixed(1)}`;
    }),
  ].join('\n');

test('two pasted sweeps are read at one level; a step too near the room is not freed of it', async ({ page, bench }) => {
  await page.goto('/logs');
  for (const [name, text] of [
    ['stock cooler', sweepText(0, 0)],
    ['tall cooler', sweepText(4, 3)],
  ] as const) {
    await page.getByRole('button', { name: 'Paste or type a table' }).click();
    await page.getByLabel('What it is called: the variant of a sweep').fill(name);
    await page.getByLabel('Table', { exact: true }).fill(text);
    await page.getByRole('button', { name: 'Put it down' }).click();
    await expect(page.getByRole('button', { name: `${name}.csv`, exact: true })).toBeVisible();
  }
  await page.getByRole('button', { name: 'stock cooler.csv', exact: true }).click();
  await page.getByLabel('Level of the room with nothing running').fill('29');
  await page.getByRole('button', { name: 'Make the study of 2 logs' }).click();
  await expect(page).toHaveURL(/\/judge/);
  await page.getByRole('button', { name: /Read both at [\d.]+\sdB\(A\)/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/Tall cooler cools GPU by \d/);
  await expect(page.getByText(/All runs are figures as given, no traces/)).toBeVisible();
  const study = /\/studies\/([^/]+)/.exec(page.url())![1]!;
  const [run] = await bench.get<{ id: string }[]>(`/studies/${study}/runs`);
  await page.goto(`/studies/${study}/run/${run!.id}`);
  await expect(page.getByText('Figures as given: there is no trace behind them')).toBeVisible();
  await expect(page.getByRole('cell', { name: 'too near the room' }).first()).toBeVisible();
});
