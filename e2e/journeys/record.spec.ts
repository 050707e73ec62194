import type { Page } from '@playwright/test';
import type { Study, SurveySummary } from '@red-ember/contract';
import { expect, test, type Bench } from '../support/bench.ts';

const saved = (page: Page) => expect(page.getByText('Not saved yet')).toBeHidden();
const save = async (page: Page) => {
  await page.keyboard.press('Control+s');
  await saved(page);
};
const station = async (page: Page, name: string) => {
  await page
    .getByRole('navigation', { name: /stations/i })
    .getByRole('link', { name })
    .click();
  // A station is loaded when it is first opened: until then the old one still stands there.
  await expect(page).toHaveURL(new RegExp(`/${name.toLowerCase()}$`));
};

/** A study of a family with one part, written by keyboard from the shelf. */
async function begin(page: Page, title: string, family: string, part: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill(title);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(title);
  await page.getByLabel('Family').selectOption(family);
  await page.getByLabel('What do you want to know?').fill(`What does ${part} do?`);
  await page.getByLabel('Part under test').fill(part);
  await save(page);
}
async function studyNamed(bench: Bench, title: string): Promise<Study> {
  const shelf = await bench.get<{ id: string; title: string }[]>('/studies');
  return bench.get<Study>(`/studies/${shelf.find((entry) => entry.title === title)!.id}`);
}

/** A camera picture of 20 × 66 cells: a warm package at the left, another at the right, a shiny corner. */
function picture(): string {
  const spot = (r: number, c: number, row: number, column: number, rise: number) =>
    rise * Math.exp(-((r - row) ** 2 + (c - column) ** 2) / 40);
  return Array.from({ length: 22 }, (_, r) =>
    Array.from({ length: 80 }, (_, c) => (32 + spot(r, c, 11, 19, 40) + spot(r, c, 11, 69, 22)).toFixed(1)).join('\t'),
  ).join('\n');
}

test('a board is looked at more closely, a part moved there by pointer and by key, and undone step by step', async ({ page, bench }) => {
  await begin(page, 'A closer look', 'M.2 drive', 'Thistle 4T');
  await station(page, 'Look');
  await page.getByRole('link', { name: 'Board map' }).click();
  await page.getByRole('button', { name: 'M.2 2280, parts on both faces' }).click();
  await save(page);
  const part = page.getByRole('button', { name: 'Part Controller' });
  const place = async () => (await part.boundingBox())!;
  const before = await place();
  await page.getByRole('button', { name: 'Closer' }).click();
  await expect.poll(async () => (await place()).width / before.width).toBeCloseTo(1.6, 1);
  // With Shift the drawing moves and nothing on it.
  const board = (await page.getByRole('group', { name: /Board map/ }).boundingBox())!;
  const drag = async (fromX: number, fromY: number, byX: number) => {
    await page.mouse.move(fromX, fromY);
    await page.mouse.down();
    await page.mouse.move(fromX + byX, fromY, { steps: 6 });
    await page.mouse.up();
  };
  const closer = await place();
  await page.keyboard.down('Shift');
  await drag(board.x + board.width / 2, board.y + board.height / 2, 60);
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await place()).x - closer.x).toBeCloseTo(60, -1);
  await expect(page.getByText('Not saved yet')).toBeHidden();
  // As far as the pointer: what is drawn larger, 14 mm wide, moves by fewer millimetres.
  const at = await place();
  await drag(at.x + at.width / 2, at.y + at.height / 2, 80);
  const fromLeft = page.getByLabel('From the left');
  const moved = Number(await fromLeft.inputValue());
  expect(moved - 12).toBeCloseTo((80 * 14) / at.width, 0);
  // What comes after a pause is a step of its own; three presses without one are one.
  await page.waitForTimeout(1200);
  await part.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(fromLeft).toHaveValue(String(moved + 3));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(fromLeft).toHaveValue(String(moved));
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(fromLeft).toHaveValue(String(moved + 3));
  await page.getByRole('button', { name: 'Whole board' }).click();
  await expect.poll(async () => (await place()).width / before.width).toBeCloseTo(1, 1);
  await save(page);
  const study = await studyNamed(bench, 'A closer look');
  expect(study.subjects[0]!.map!.parts.find(({ name }) => name === 'Controller')!.xMm).toBeCloseTo(moved + 3, 3);
});

test('a cover on a drive is surveyed: map, camera, thermocouples on both faces', async ({ page, bench }) => {
  await begin(page, 'Lid on a drive', 'M.2 drive', 'Thistle 4T');
  await station(page, 'Look');
  await page.getByRole('link', { name: 'Board map' }).click();
  await page.getByRole('button', { name: 'M.2 2280, parts on both faces' }).click();
  await page.getByRole('button', { name: 'Add a cover' }).click();
  await expect(page.getByLabel('What qualifies this page')).toContainText('19 % is left bare');
  await save(page);

  await page.getByRole('link', { name: 'Camera survey' }).click();
  await page.locator('input[type=file]').setInputFiles({ name: 'bare top.tsv', mimeType: 'text/plain', buffer: Buffer.from('30\t31\n32') });
  await expect(page.getByRole('alert')).toContainText('Line 2 has 1 values');
  await page.locator('input[type=file]').setInputFiles({ name: 'bare top.tsv', mimeType: 'text/plain', buffer: Buffer.from(picture()) });
  const camera = page.getByRole('application');
  await expect(camera).toBeVisible();
  // Two places known in both, by pointer; their millimetres typed.
  const box = (await camera.boundingBox())!;
  const press = (column: number, row: number) =>
    page.mouse.click(box.x + ((column + 0.5) / 80) * box.width, box.y + ((row + 0.5) / 22) * box.height);
  for (const [name, column, row, xMm, yMm] of [
    ['Reference A', 12, 4, '12', '4'],
    ['Reference B', 76, 19, '76', '19'],
  ] as const) {
    await page.getByRole('button', { name }).click();
    await press(column, row);
    const index = name === 'Reference A' ? 0 : 1;
    await page.getByLabel('From the left').nth(index).fill(xMm);
    await page.getByLabel('From above').nth(index).fill(yMm);
  }
  await expect(page.getByText(/One cell covers 1.00\smm/)).toBeVisible();
  // A shiny corner, by keys.
  await page.getByRole('button', { name: 'Mark a surface' }).click();
  await camera.focus();
  await page.keyboard.press('Enter');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Cannot be read; use matt tape or paint.')).toBeVisible();
  await page.getByRole('button', { name: /^Remove surface/ }).click();

  await expect(page.getByRole('listitem').filter({ hasText: 'Controller' })).toBeVisible();
  await page.getByRole('button', { name: 'Place a spot' }).first().click();
  await page.getByRole('button', { name: 'Place a spot' }).first().click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await save(page);

  // The underside has no picture: its spot is placed by hand, on the other face.
  await page.getByRole('link', { name: 'Spots and limits' }).click();
  await page.getByRole('button', { name: 'Add a spot' }).click();
  await page.getByLabel('Spot', { exact: true }).fill('Flash, underside');
  await page.getByLabel('Component').selectOption('flash');
  await save(page);
  await page.getByRole('link', { name: 'Board map' }).click();
  await page.getByRole('button', { name: 'Underside', exact: true }).click();
  await page.getByRole('button', { name: 'Flash, underside' }).click();
  const map = (await page.getByRole('group', { name: /Board map/ }).boundingBox())!;
  await page.mouse.click(map.x + (map.width * (69 + 2)) / 84, map.y + (map.height * (9 + 2)) / 26);
  await save(page);

  const study = await studyNamed(bench, 'Lid on a drive');
  expect(study.spots.map((spot) => [spot.name, spot.componentClass, spot.limitC])).toEqual([
    ['Controller', 'drive controller', 95],
    ['Flash 1', 'flash', 85],
    ['Flash, underside', 'flash', 85],
  ]);
  const placements = study.subjects[0]!.map!.placements;
  expect(placements.map((placement) => [placement.face, Math.round(placement.xMm), Math.round(placement.yMm)])).toEqual([
    ['top', 19, 11],
    ['top', 69, 11],
    ['under', 69, 11],
  ]);
  const [survey] = await bench.get<SurveySummary[]>(`/studies/${study.id}/surveys`);
  expect(survey).toMatchObject({ rows: 22, columns: 80, references: [{ xMm: 12 }, { xMm: 76 }] });
});

test('a regulator is read by hand with infrared, the covered part estimated', async ({ page, bench }) => {
  await begin(page, 'Watts of a small board', 'Voltage regulator', 'Ferry B2');
  await station(page, 'Look');
  await page.getByRole('button', { name: 'Add several' }).click();
  await page.getByLabel('Names, one a line').fill('Sink top\nSink base\nInductor\nCapacitor\nHub chip');
  await page.getByLabel('Read by').selectOption('infrared');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Add 5 spots' }).click();
  await page.getByRole('button', { name: 'Add a spot' }).click();
  await page.getByLabel('Spot', { exact: true }).fill('Software reading, unlabelled');
  await save(page);

  await station(page, 'Equip');
  await page.getByRole('button', { name: 'Sink base', exact: true }).press('Enter');
  await page.getByLabel('Instrument', { exact: true }).selectOption('ir2-spot');
  await page.getByRole('button', { name: 'Estimate the part beneath this surface' }).click();
  await page.getByLabel('Heat of the part').fill('1.7');
  await expect(page.getByText(/an estimate, not a reading/)).toBeVisible();
  await page.getByRole('button', { name: 'Sink base', exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Software reading, unlabelled', exact: true }).press('Enter');
  await page.getByLabel('Reads as').selectOption('own');
  await page.getByLabel('by hand').check();
  await save(page);
  await page.getByLabel('Use of the reading').selectOption('absolute');
  await expect(page.getByText('Largest: stated accuracy.')).toBeVisible();

  const study = await studyNamed(bench, 'Watts of a small board');
  expect(study.spots).toHaveLength(6);
  expect(study.spots.every((spot) => spot.byHand)).toBe(true);
  expect(study.spots[1]).toMatchObject({ method: 'infrared', instrumentChannelId: 'ir2-spot', beneath: { heatW: 1.7 } });
});

test('five boards hold one voltage by settings of their own', async ({ page, bench }) => {
  await begin(page, 'Boards side by side', 'Voltage regulator', 'Ferry B2');
  for (const [i, name] of ['Ferry B4', 'Quarry C1', 'Quarry C3', 'Sandpiper D1'].entries()) {
    await page.getByRole('button', { name: 'Add a part' }).press('Enter');
    await page.getByLabel(`Part ${i + 2}`, { exact: true }).fill(name);
  }
  await page.getByLabel('The figure of a run is').selectOption('hottest');
  await save(page);

  await station(page, 'Look');
  await page.getByRole('button', { name: 'Add several' }).click();
  await page.getByLabel('Names, one a line').fill('Stage, side\nInductor\nUnderside');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: '3 spots' })).toBeVisible();
  await page.getByRole('link', { name: 'Board map' }).click();
  await page.getByRole('button', { name: 'Regulator corner of a board' }).click();
  await page.getByRole('button', { name: 'Quarry C1' }).click();
  await page.getByRole('button', { name: 'As Ferry B2' }).click();
  await save(page);

  await station(page, 'Hold');
  for (const [name, value] of [
    ['Voltage under load', '1.20'],
    ['Load-line level', '4'],
  ] as const) {
    await page.getByRole('button', { name: 'Add', exact: true }).press('Enter');
    await page
      .getByLabel(/^Name of setting/)
      .last()
      .fill(name);
    await page.getByLabel(`Value of ${name}`).fill(value);
  }
  await page.getByLabel('Channel that watches Voltage under load').fill('vcore');
  await expect(page.getByText('The tolerance must be a number.')).toBeVisible();
  await page.getByLabel('Tolerance of Voltage under load').fill('0.01');
  await page.getByRole('button', { name: 'Load-line level part by part' }).press('Enter');
  await page.getByLabel('Load-line level of Quarry C1').fill('5');
  await page.getByLabel('Load-line level of Sandpiper D1').fill('2');
  await save(page);

  await station(page, 'Plan');
  for (const [i, part] of ['Ferry B2', 'Quarry C1'].entries()) {
    await page.getByRole('button', { name: 'Add a variant' }).click();
    await page.getByLabel('Variant', { exact: true }).nth(i).fill(`${part}, held`);
    await page.getByLabel('On the part').nth(i).selectOption(part);
  }
  await save(page);
  const study = await studyNamed(bench, 'Boards side by side');
  expect(study.subjects.map((subject) => [subject.name, subject.map !== null])).toEqual([
    ['Ferry B2', true],
    ['Ferry B4', false],
    ['Quarry C1', true],
    ['Quarry C3', false],
    ['Sandpiper D1', false],
  ]);
  expect(study.locks).toMatchObject([
    { name: 'Voltage under load', value: '1.20', unit: 'V', tolerance: 0.01, channel: 'vcore', overrides: [] },
    { name: 'Load-line level', channel: '', overrides: [{ value: '5' }, { value: '2' }] },
  ]);
  expect(study.variants.map((variant) => study.subjects.find((subject) => subject.id === variant.subjectId)!.name)).toEqual([
    'Ferry B2',
    'Quarry C1',
  ]);
});

test('a dozen of a board’s own sensors are written down in one go', async ({ page, bench }) => {
  await begin(page, 'Armour', 'Voltage regulator', 'Ferry B4');
  await station(page, 'Look');
  await expect(page.getByRole('button', { name: 'Add several' })).toBeEnabled();
  await page.getByRole('button', { name: 'Add several' }).press('Enter');
  const names = ['Stages, upper end', 'Stages, middle', 'Stages, lower end', 'Stages, upper row', 'Inductors, side', 'Inductors, upper'];
  names.push('Hub chip', 'Board under the plate', 'Board by the slots', 'Drive slot', 'Rear connectors', 'Processor');
  await page.getByLabel('Names, one a line').fill(names.join('\n'));
  await page.getByLabel('Read by').selectOption('own');
  await page.getByLabel('Names, one a line').press('Control+Enter');
  await expect(page.getByRole('heading', { name: '12 spots' })).toBeVisible();
  await save(page);
  await station(page, 'Equip');
  await expect(page.getByRole('row', { name: /Processor/ })).toContainText('own s12');
  const study = await studyNamed(bench, 'Armour');
  expect(new Set(study.spots.map((spot) => spot.channel)).size).toBe(12);
  expect(study.spots.filter((spot) => spot.componentClass === 'power stage')).toHaveLength(4);
});

test('a limit is replaced from a data sheet, a sensor calibrated, and the results that moved are kept', async ({ page, bench }) => {
  await page.goto('/limits');
  await page.getByRole('button', { name: 'Change flash' }).click();
  const form = page.getByRole('form', { name: 'flash' });
  await form.getByLabel('Never exceed').fill('65');
  await expect(form.getByText(/lies above the one never to be exceeded/)).toBeVisible();
  await form.getByLabel('Never exceed').fill('82');
  await form.getByLabel('Source').last().fill('data sheet, rev 3');
  await form.getByRole('button', { name: 'Save flash' }).click();
  await expect(form).toBeHidden();

  await page.goto('/instruments');
  await page.getByRole('button', { name: 'Calibrate TC 3' }).click();
  await page.getByRole('button', { name: 'Ice point' }).click();
  await page.getByLabel('Shown').fill('-0.5');
  await page.getByLabel(/Slot lid on Thistle 4T, run 1/).check();
  await page.getByRole('button', { name: 'Save the calibration' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.goto('/studies/demo-slot-lid/hold');
  await page.getByLabel('Second run').selectOption({ label: 'run 4, bare' });
  await expect(page.getByRole('row', { name: /Sensor, Flash, underside/ })).toBeVisible();

  await page.goto('/studies/demo-slot-lid/ask');
  await page.getByLabel('A difference matters from').fill('6');
  await save(page);
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog')).toContainText('house rules');
  // Newest first: the rules moved the verdict, the calibration before it the figure.
  await expect(page.getByRole('row', { name: /Flash, underside/ }).first()).toContainText('equivalent');
  await expect(page.getByRole('dialog')).toContainText('calibration of TC 3 applied to run 1');
  const flash = (await bench.get<{ componentClass: string; neverExceedC: number }[]>('/limits')).find(
    (limit) => limit.componentClass === 'flash',
  )!;
  expect(flash.neverExceedC).toBe(82);
});
