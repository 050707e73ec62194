import type { Run, RunReadings } from '@red-ember/contract';
import { expect, test } from '../support/bench.ts';
import { ends, mount, runIdOf, startRun } from '../support/benchDay.ts';

test.describe.configure({ timeout: 240_000 });

test('one long session: four changes in one recording, each left to settle, one more made by hand', async ({ page, bench }) => {
  await mount(page, 'demo-long-session', 'small case');
  await startRun(page, 'demo-long-session');
  await expect(page.getByText('Vent blocked').first()).toBeVisible({ timeout: 60_000 });
  await ends(page);
  const run = await bench.get<Run>(`/runs/${runIdOf(page)}`);
  expect(run.phases.map(({ name }) => name)).toEqual([
    'Idle soak',
    'Show player on three outputs',
    'Vent blocked',
    'Power limit to 290 W',
    'Vent open again',
    'Side opened',
    'Cool-down',
  ]);
  expect(run.events.filter(({ kind }) => kind === 'change')).toHaveLength(4);
  // The raised limit is seen by the lock that watches the power, and stays with the run.
  expect(run.events.some(({ kind, text }) => kind === 'lock-moved' && text.startsWith('Power cap moved'))).toBe(true);
  await expect(page.getByRole('region', { name: 'What happened' })).toContainText('Vent blocked');

  const { review } = await bench.get<RunReadings>(`/runs/${run.id}/readings`);
  const memory = review.loads.map(({ spots }) => spots.find(({ spotId }) => spotId === 'long-mem')!.reading!.rise!.mean.value);
  expect(memory[1]!).toBeGreaterThan(memory[0]! + 5); // blocked: hotter, though the fan works against it
  expect(memory[4]!).toBeLessThan(memory[3]! - 5); // the side opened: cooler, and the fan takes a part of it
  expect(review.loads[4]!.fan!.value).toBeLessThan(review.loads[3]!.fan!.value - 100);
  await expect(page.getByRole('region', { name: 'What each load came to' })).toContainText('Vent blocked');

  // The same again by hand: a change that the rig makes, a pause, more time, the end of a phase.
  await startRun(page, 'demo-long-session', { scale: '60×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Show player');
  await page.keyboard.press('c');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Let the rig set').selectOption({ label: 'Card fans' });
  await dialog.getByLabel('Card fans', { exact: true }).selectOption('locked');
  await dialog.getByRole('button', { name: 'Change it now' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Card fans locked');
  await page.keyboard.press('p');
  await expect(page.getByText(/Paused: the load is off/)).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press('n');
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Card fans locked, again');
  await page.keyboard.press('e');
  await expect(page.getByLabel('What qualifies this page')).toContainText('10 min more for this phase');
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  await ends(page, 'stopped by hand');
});

test('does one part heat another: two coolers in one closed case, then the front open', async ({ page, bench }) => {
  const rises: Record<string, number[]> = {};
  for (const variant of ['open cooler', 'flow-through cooler']) {
    await mount(page, 'demo-heat-path', variant);
    await startRun(page, 'demo-heat-path', {
      before: () => page.getByLabel('On the bench').selectOption({ label: `${variant}, mount 1` }).then(() => {}), // prettier-ignore
    });
    await ends(page);
    const run = await bench.get<Run>(`/runs/${runIdOf(page)}`);
    expect(run.phases.map(({ name }) => name)).toEqual(['Idle soak', 'Show player on three outputs', 'Front opened', 'Cool-down']);
    expect(run.events.filter(({ kind }) => kind === 'lock-moved')).toEqual([]);
    const trace = await bench.get<{ series: { key: string; t: number[]; y: number[] }[] }>(`/runs/${run.id}/trace?points=4000`);
    // Over the room: every run begins in one of its own.
    const meanOf = (channel: string, endS: number) => {
      const { t, y } = trace.series.find(({ key }) => key === channel)!;
      const window = y.filter((_, k) => t[k]! > endS - 300 && t[k]! <= endS);
      return window.reduce((sum, value) => sum + value / window.length, 0);
    };
    rises[variant] = [1, 2].map((i) => meanOf('processor', run.phases[i]!.endS!) - meanOf('room', run.phases[i]!.endS!));
  }
  const [open, through] = [rises['open cooler']!, rises['flow-through cooler']!];
  expect(through[0]!).toBeGreaterThan(open[0]! + 0.5);
  expect(through[1]!).toBeLessThan(through[0]! - 3);
  await page.goto('/studies/demo-heat-path/judge');
  await expect(page.locator('#sheet')).toContainText('Processor');
});

test('a ladder of fixes: the board trips later at each step, and not at all with the loop', async ({ page, bench }) => {
  const atS: (number | null)[] = [];
  const names = (await bench.get<{ variants: { name: string }[] }>('/studies/demo-fixes')).variants.map(({ name }) => name);
  // The whole of its load, so that what is put off is seen to come.
  await bench.changeStudy('demo-fixes', (study) => ({
    recipe: study.recipe.map((phase) => (phase.kind === 'load' ? { ...phase, mode: 'fixed', durationS: 4200, capS: 4200 } : { ...phase, durationS: 120, capS: 120 })), // prettier-ignore
  }));
  for (const name of names) {
    await mount(page, 'demo-fixes', name);
    await startRun(page, 'demo-fixes', { before: () => page.getByLabel('On the bench').selectOption({ label: `${name}, mount 1` }).then(() => {}) }); // prettier-ignore
    await ends(page);
    const { review } = await bench.get<RunReadings>(`/runs/${runIdOf(page)}/readings`);
    atS.push(review.throttle?.timeToFirstS ?? null);
  }
  const [stock, tower, pads, loop] = atS;
  expect(stock).toBeGreaterThan(300);
  expect(tower!).toBeGreaterThan(stock! + 60);
  expect(pads!).toBeGreaterThan(tower! + 60);
  expect(loop).toBeNull();
});

test('drives that throttle, vanish and return: recorded where that is expected, cut out where it is not', async ({ page, bench }) => {
  await mount(page, 'demo-hot-drive', 'bare', 'T4-09');
  await startRun(page, 'demo-hot-drive');
  await ends(page, 'cut out');
  await expect(page.getByLabel('What qualifies this page')).toContainText('The part no longer answers. The load was removed.');

  await startRun(page, 'demo-hot-drive', { before: () => page.getByLabel(/Go on recording when the drive vanishes/).check() });
  await ends(page);
  const bare = await bench.get<Run>(`/runs/${runIdOf(page)}`);
  expect(bare.events.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['vanished', 'returned']));
  expect(bare.events.map(({ text }) => text)).toContain('The drive shut off and is gone from the machine.');
  expect(bare.phases.map(({ endedBy }) => endedBy)).toEqual(['time', 'time', 'time', 'time', 'time']);
  await expect(page.getByRole('region', { name: 'What happened' })).toContainText('part gone');

  await mount(page, 'demo-hot-drive', 'comb sink with fan', 'T4-09');
  await startRun(page, 'demo-hot-drive', {
    before: () => page.getByLabel('On the bench').selectOption({ label: 'comb sink with fan, mount 1' }).then(() => {}), // prettier-ignore
  });
  await ends(page);
  const cooled = await bench.get<Run>(`/runs/${runIdOf(page)}`);
  expect(cooled.events.filter(({ kind }) => kind === 'vanished')).toEqual([]);
  expect(cooled.channels.map(({ role }) => role)).toEqual(expect.arrayContaining(['fan', 'level']));
});

test('what is holding it back: automatic fan, full fan, raised power, on one card', async ({ page, bench }) => {
  const read: { throughput: number; power: number; die: number }[] = [];
  for (const variant of ['automatic fan', 'fan full', 'raised to 290 W']) {
    await mount(page, 'demo-holding-back', variant);
    await startRun(page, 'demo-holding-back', {
      before: () => page.getByLabel('On the bench').selectOption({ label: `${variant}, mount 1` }).then(() => {}), // prettier-ignore
    });
    await ends(page);
    const { review } = await bench.get<RunReadings>(`/runs/${runIdOf(page)}/readings`);
    read.push({
      throughput: review.performance!.value,
      power: review.power!.value,
      die: review.spots.find(({ spotId }) => spotId === 'hold-die')!.load!.absolute.mean.value,
    });
  }
  const [auto, full, raised] = read as [(typeof read)[0], (typeof read)[0], (typeof read)[0]];
  expect(full.die).toBeLessThan(auto.die - 1); // a full fan cools, mount against mount,
  expect(Math.abs(full.throughput / auto.throughput - 1)).toBeLessThan(0.02); // and hardly helps:
  expect(full.power).toBeGreaterThan(226); // power holds it,
  expect(raised.throughput).toBeGreaterThan(full.throughput * 1.01); // and then its own clock.
  expect(raised.power).toBeLessThan(280);
});

test('how many watts, read by hand at arm’s length', async ({ page, bench }) => {
  // Load for a quarter of an hour with marks at 2, 4 and 6 min, so that a person could keep up at 10×.
  await bench.changeStudy('demo-watts', (study) => ({
    recipe: study.recipe.map((phase) => ({
      ...phase,
      mode: 'fixed',
      durationS: phase.kind === 'load' ? 900 : 60,
      capS: phase.kind === 'load' ? 900 : 60,
      ...(phase.kind === 'load' ? { marksMin: [2, 4, 6] } : {}),
    })),
  }));
  await mount(page, 'demo-watts', 'still air');
  await startRun(page, 'demo-watts', { scale: '10×', reason: 'Everything is read by infrared; I stay beside it.' });
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Worst case', { timeout: 30_000 });
  await page.keyboard.press('a');
  await expect(page.getByText('Back to the sheet (A)')).toBeVisible();
  const boxes = page.getByRole('form', { name: 'Hand readings' }).getByRole('textbox');
  for (let mark = 0; mark < 3; mark++) {
    await expect.poll(async () => (await bench.get<Run>(`/runs/${runIdOf(page)}`)).events.filter(({ kind }) => kind === 'mark-due').length, { timeout: 60_000 }).toBeGreaterThan(mark); // prettier-ignore
    if (mark === 0) await page.keyboard.press('h');
    await expect(boxes.first()).toBeFocused();
    const shown = (await page.getByText(/^shows \d/).allTextContents()).map((text) => Number(/[\d.]+/.exec(text)![0]));
    expect(shown).toHaveLength(6);
    for (const [i, value] of shown.entries()) {
      await page.keyboard.type(i === 1 ? `${((value * 9) / 5 + 32).toFixed(1)}F` : String(value));
      await page.keyboard.press(i === shown.length - 1 ? 'Enter' : 'Tab');
    }
    await expect(boxes.first()).toHaveValue('');
  }
  await expect(page.locator('#sheet')).toContainText('read at');
  await ends(page);
  const run = await bench.get<Run>(`/runs/${runIdOf(page)}`);
  expect(run.handReadings).toHaveLength(18);
  const base = run.handReadings.filter(({ spotId }) => spotId === 'watts-base').map(({ valueC }) => valueC);
  expect(base[2]!).toBeGreaterThan(base[0]! + 5); // it creeps on
  const { review } = await bench.get<RunReadings>(`/runs/${run.id}/readings`);
  expect(review.spots.find(({ spotId }) => spotId === 'watts-base')!.load).toMatchObject({ bound: 'still-rising', absolute: { n: 3 } });
});

test('a planted fault is found by the look at the bench, and stays with a run that is started all the same', async ({ page, bench }) => {
  await mount(page, 'demo-holding-back', 'fan full');
  await startRun(page, 'demo-holding-back', {
    reason: 'To see what it looks like.',
    before: async () => {
      await page.getByRole('button', { name: 'Plant a fault to learn on' }).click();
      await page.getByLabel(/wires of a fan are swapped/).check();
      await page.getByRole('button', { name: 'Done' }).click();
    },
  });
  await expect(page.getByLabel('What qualifies this page')).toContainText('To see what it looks like.');
  await ends(page);
  await expect(page.getByLabel('Pre-flight list')).toContainText('Fan 1, Fan 2 shows no speed');
  await expect(page.getByText(/A fault was planted in it: repeat it without/)).toBeVisible();
  expect((await bench.get<Run>(`/runs/${runIdOf(page)}`)).faults).toEqual(['fan-wires-swapped']);
});

test('two benches at once, each with its own run', async ({ page, bench }) => {
  // Slow enough to go on whatever the other takes on a busy machine.
  await startRun(page, 'demo-repeatability', { scale: '10×' });
  const drive = runIdOf(page);
  await mount(page, 'demo-holding-back', 'automatic fan');
  await startRun(page, 'demo-holding-back');
  const card = runIdOf(page);
  expect((await bench.get<Run>(`/runs/${drive}`)).state).toBe('recording');
  await ends(page);
  await page.goto('/studies/demo-repeatability/run');
  await page.getByRole('link', { name: 'Watch it' }).click();
  await expect(page.getByTestId('binding')).toBeVisible();
  expect((await bench.get<Run>(`/runs/${card}`)).sourceName).toBe('bench-2');
  expect((await bench.get<Run>(`/runs/${drive}`)).sourceName).toBe('bench-1');
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  await ends(page, 'stopped by hand');
});
