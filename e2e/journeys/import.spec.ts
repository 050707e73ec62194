import { expect, test } from '../support/bench.ts';

/** A log as a tester might have: idle, load and after, with a spike, a gap and a missing mark. */
function log(change: (line: string, second: number) => string | null = (line) => line): string {
  const lines = ['Elapsed (s),Controller,Flash underside,Room,Throughput MB/s'];
  for (let s = 0; s < 3000; s += 2) {
    const on = s >= 600 && s < 2400;
    const warm = on ? 1 - Math.exp(-(s - 600) / 200) : s >= 2400 ? Math.exp(-(s - 2400) / 200) : 0;
    const noise = 0.05 * Math.sin(s * 12.9898) + 0.05 * Math.sin(s * 78.233);
    const line = change(
      `${s},${(32 + 40 * warm + noise).toFixed(2)},${(30 + 35 * warm - noise).toFixed(2)},${(22 + s / 10000).toFixed(2)},${on ? 6100 : 0}`,
      s,
    );
    if (line !== null) lines.push(line);
  }
  return `${lines.join('\n')}\n`;
}

const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('a recorded log becomes a run with readings', async ({ page }) => {
  await page.goto('/studies/demo-slot-lid/run/import');
  await page.locator('input[type=file]').setInputFiles(
    file(
      'march.csv',
      log((line, s) => (s > 1000 && s < 1100 ? null : s === 1500 ? line.replace(/^(\d+),[^,]+/, '$1,N/A') : line)),
    ),
  );
  await expect(page.getByLabel('What Controller holds')).toHaveValue('spot:lid-controller');
  await expect(page.getByLabel('Phase 2 begins')).toHaveValue('10');
  await expect(page.getByLabel('Phase 3 begins')).toHaveValue('40');
  await expect(page.getByLabel('What Flash underside holds')).toHaveValue('spot:lid-flash-under');
  await page.getByLabel('Variant on the bench').selectOption('slot lid');
  await page.getByRole('button', { name: 'Import as a run' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('run 7, slot lid');
  const row = page.getByRole('row', { name: /^Controller/ });
  await expect(row).toContainText('settled since');
  await expect(row).toContainText('72.0 °C');
  await page.getByRole('button', { name: 'How was Controller worked out?' }).click();
  await expect(page.getByRole('dialog')).toContainText('count as independent');
});

for (const [what, text, sentence] of [
  [
    'text for a number',
    log((line, s) => (s === 200 ? line.replace(/^(\d+),[^,]+/, '$1,hot') : line)),
    'Line 102, Controller: “hot” is not a number.',
  ],
  [
    'time going back for good',
    log((line, s) => (s >= 2000 ? line.replace(/^\d+/, String(s - 1900)) : line)),
    'Line 1002 goes back in time',
  ],
  ['nothing in it', '', 'The file is empty.'],
  ['a header and no more', 'Time,Controller\n', 'a header but no readings'],
  ['a web page', '<!doctype html><html><body>no</body></html>', 'This is a web page'],
  ['binary', 'a,b\n\u0000\u0001\u0002,3\n', 'not a text file'],
] as const) {
  test(`a log with ${what} is refused with its sentence, and nothing is kept`, async ({ page, bench }) => {
    await page.goto('/studies/demo-slot-lid/run/import');
    await page.locator('input[type=file]').setInputFiles(file('broken.csv', text));
    const submit = page.getByRole('button', { name: 'Import as a run' });
    const alert = page.getByRole('alert');
    await expect(submit.or(alert).first()).toBeVisible();
    if (await submit.isVisible()) {
      await page.getByLabel('What Flash underside holds').selectOption({ label: 'Flash, underside' });
      await submit.click();
    }
    await expect(alert).toContainText(sentence);
    expect(await bench.get<unknown[]>('/studies/demo-slot-lid/runs')).toHaveLength(6);
  });
}

test('a log from another country: UTF-16, a preamble, units in a row, decimal commas; known again the next time', async ({
  page,
  bench,
}) => {
  const lines = log((line) => {
    const [time, controller, ...rest] = line.split(',');
    return [time, (Number(controller) * 1.8 + 32).toFixed(2), ...rest].join(';').replaceAll('.', ',');
  }).split('\n');
  const text = [
    'Messprotokoll',
    '# Schrank 2',
    'Zeit;Controller;Flash underside;Raum (room);Throughput MB/s',
    's;°F;°C;°C;MB/s',
    ...lines.slice(1),
  ].join('\r\n');
  const wide = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]);
  const take = () => page.locator('input[type=file]').setInputFiles({ name: 'mess.txt', mimeType: 'text/plain', buffer: wide });
  await page.goto('/studies/demo-slot-lid/run/import');
  await take();
  await expect(page.getByText('Read as UTF-16, semicolons, decimal commas, header in line 3, units in line 4.')).toBeVisible();
  await expect(page.getByLabel('Unit of Controller [°F]')).toHaveValue('°F');
  await page.getByLabel('What Flash underside [°C] holds').selectOption({ label: 'Flash, underside' });
  await page.getByRole('button', { name: 'Import as a run' }).click();
  await expect(page.getByRole('row', { name: /^Controller/ })).toContainText('72.0 °C');
  const { events } = (await bench.get<{ events: { text: string }[] }[]>('/studies/demo-slot-lid/runs')).at(-1)!;
  expect(events.map((event) => event.text)).toContain('Controller: written in °F, stored in °C.');
  await page.goto('/studies/demo-slot-lid/run/import');
  await take();
  await expect(page.getByText(/These columns were mapped before/)).toBeVisible();
  await expect(page.getByLabel('What Flash underside [°C] holds')).toHaveValue('spot:lid-flash-under');
});

test('temperatures that look like Fahrenheit are asked about', async ({ page, bench }) => {
  await page.goto('/studies/demo-slot-lid/run/import');
  const hot = log((line) =>
    line
      .split(',')
      .map((cell, i) => (i === 3 ? String(Number(cell) * 1.8 + 32) : cell))
      .join(','),
  );
  await page.locator('input[type=file]').setInputFiles(file('warm.csv', hot));
  await page.getByRole('button', { name: 'Import as a run' }).click();
  await expect(page.getByRole('alert')).toContainText('is this °F?');
  expect(await bench.get<unknown[]>('/studies/demo-slot-lid/runs')).toHaveLength(6);
  await page.getByRole('button', { name: 'It is °C, import it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('run 7');
});
