import type { Page } from '@playwright/test';
import type { Mount, Study } from '@red-ember/contract';
import { expect, test, type Bench } from '../support/bench.ts';

const heading = (page: Page) => page.getByRole('heading', { level: 1 });
const steps = (page: Page) => page.getByRole('list', { name: 'Steps' });
const mounted = (page: Page) => page.getByRole('button', { name: /is mounted$/ });

/** Confirms and ticks with the pointer whatever a card asks for, from top to bottom. */
async function workCard(page: Page): Promise<void> {
  const boxes = page.locator('form').getByRole('checkbox');
  await expect(boxes.first()).toBeVisible();
  for (let i = 0; i < (await boxes.count()); i++) await boxes.nth(i).check();
  await expect(mounted(page)).toBeEnabled();
  await mounted(page).click();
}

/** The same by keys alone: Tab to each box, Space, and Enter on the button at the end. */
async function workCardByKeys(page: Page): Promise<void> {
  const at = () =>
    page.evaluate(() => {
      const here = document.activeElement;
      if (here instanceof HTMLInputElement && here.type === 'checkbox') return here.checked ? 'ticked' : 'box';
      return here instanceof HTMLButtonElement && here.textContent!.endsWith('is mounted') ? 'mounted' : 'other';
    });
  for (let presses = 0; presses < 300; presses++) {
    await page.keyboard.press('Tab');
    const here = await at();
    if (here === 'box') await page.keyboard.press('Space');
    if (here === 'mounted') return page.keyboard.press('Enter');
  }
  throw new Error('the button was not reached');
}

const last = async (bench: Bench, studyId: string) => (await bench.get<Mount[]>(`/studies/${studyId}/mounts`)).at(-1)!;
const variantOf = async (bench: Bench, studyId: string, mount: Mount) =>
  (await bench.get<Study>(`/studies/${studyId}`)).variants.find((variant) => variant.id === mount.variantId)!.name;

/** Takes over the order that refits least and keeps it; says how long the plan is. */
async function takeLeast(page: Page, studyId: string): Promise<string> {
  await page.goto(`/studies/${studyId}/plan/order`);
  const take = page.getByRole('button', { name: 'Take this order' }).last();
  await expect(page.getByText(/No order refits less|Saves nothing here/)).toBeVisible();
  if (await take.isEnabled()) {
    await take.click();
    await page.keyboard.press('Control+s');
    await expect(page.getByText('Not saved yet')).toBeHidden();
  }
  // The hours come with the bench's own history.
  await expect(heading(page)).toContainText('at the bench.');
  return heading(page).innerText();
}

test('three fan layouts in two orientations: planned, priced and mounted by card', async ({ page, bench }) => {
  expect(await takeLeast(page, 'demo-layout')).toMatch(/^12 runs, \d+\sh \d+\smin at the bench\.$/);
  await page.goto('/studies/demo-layout/mount');
  await expect(heading(page)).toHaveText('Nothing is mounted yet');
  await expect(page.getByText(/run 1 of 12 by plan/)).toBeVisible();
  await workCard(page);
  await expect(heading(page)).toContainText('On the bench');
  // The least order changes one thing next: the card holds that and what opens and closes the case, nothing else.
  await expect(page.getByText(/run 2 of 12 by plan/)).toBeVisible();
  await page.getByRole('radio', { name: /lying, front only/ }).check();
  const first = await variantOf(bench, 'demo-layout', await last(bench, 'demo-layout'));
  await page.getByRole('radio', { name: first.startsWith('upright') ? /^lying, front only/ : /^upright, front only/ }).check();
  await workCard(page);
  // The first is mount 1 of its variant as well: what is kept tells when the second is there.
  await expect.poll(async () => (await last(bench, 'demo-layout')).fromVariantId).not.toBeNull();
  await expect(heading(page)).toContainText('mount 1');
  // Set up the other way round: only the orientation differs.
  await page.getByRole('radio', { name: first.startsWith('upright') ? /^upright, front only/ : /^lying, front only/ }).check();
  await expect(page.getByText(/^Changes: Orientation, \w+ to \w+\./)).toBeVisible();
  await expect(steps(page)).toContainText('side panel');
  await expect(steps(page)).not.toContainText('Cover the empty openings');
});

test('six pastes: what is bought, the card by keyboard, and the one that conducts', async ({ page, bench }) => {
  expect(await takeLeast(page, 'demo-pastes')).toMatch(/^12 runs, /);
  await page.getByRole('link', { name: 'Parts and fit' }).click();
  await expect(page.getByRole('row', { name: /In all/ })).toContainText('EUR');
  await expect(page.getByRole('row', { name: /^paste Q/ })).toContainText('g in all');
  await page.goto('/studies/demo-pastes/mount/pads');
  await expect(page.getByText(/141\sW through 676\smm²/)).toBeVisible();

  await page.goto('/studies/demo-pastes/mount');
  await expect(mounted(page)).toBeDisabled();
  await workCardByKeys(page);
  await expect(heading(page)).toContainText(/On the bench: paste \w, mount 1/);
  const from = await variantOf(bench, 'demo-pastes', await last(bench, 'demo-pastes'));

  // On to the one that conducts: cleaned, dried, masked, confirmed where it applies.
  await page.getByRole('radio', { name: 'paste Q' }).check();
  await expect(steps(page)).toContainText(`Wipe ${from} off die and plate`);
  await expect(steps(page)).toContainText('Then wait 3 min');
  await expect(page.getByRole('img', { name: 'Screws of cooler plate, in order' }).first()).toBeVisible();
  const mask = steps(page).getByRole('checkbox', { name: /Mask everything within 15\smm/ });
  await expect(mask).toBeDisabled();
  await steps(page)
    .getByRole('checkbox', { name: /conducts electricity/ })
    .check();
  await mask.check();
  // Half worked, and the page is closed by mistake: the ticks are still there.
  await page.reload();
  await expect(mask).toBeChecked();
  await expect(page.getByText(/cautions are still to confirm/)).toBeVisible();
  await workCard(page);
  await expect(heading(page)).toContainText('paste Q');
  expect((await last(bench, 'demo-pastes')).confirmed).toEqual(expect.arrayContaining(['conductive', 'solvent', 'springs']));
});

test('a ladder of fixes: each step is a card, the loop is tested for leaks, a mistake is taken back', async ({ page, bench }) => {
  expect(await takeLeast(page, 'demo-fixes')).toMatch(/^8 runs, /);
  await page.goto('/studies/demo-fixes/mount');
  await workCard(page);
  await expect(heading(page)).toContainText('stock, stock');
  await page.getByRole('radio', { name: 'bracketed tower, stock' }).check();
  await expect(page.getByText('Changes: Processor cooler, stock to bracketed tower.')).toBeVisible();
  await workCardByKeys(page);
  await expect(heading(page)).toContainText('bracketed tower, stock');
  // Pads lie under the tower: it comes off to reach them, and goes back on.
  await page.getByRole('radio', { name: 'bracketed tower, P12' }).check();
  await expect(page.getByText(/Changes: Pads, stock to P12\. Processor cooler comes off to reach it, and back on\./)).toBeVisible();
  await expect(page.getByText(/pad P12, cut, 2 pieces, cut to 80 × 10\smm, 1.5\smm thick/)).toBeVisible();
  await workCard(page);
  // What is mounted is on the page before the next is chosen.
  await expect(heading(page)).toContainText('bracketed tower, P12');
  await page.getByRole('radio', { name: 'closed loop 240, P12' }).check();
  const leak = steps(page).getByRole('checkbox', { name: /dry at every fitting/ });
  await leak.check();
  await steps(page)
    .getByRole('checkbox', { name: /Run the pump from its own supply/ })
    .check();
  await expect(steps(page).getByRole('timer')).toContainText(/(59:|60:|1:00:).* to wait/);
  await workCard(page);
  await expect(heading(page)).toContainText('closed loop 240, P12');
  await page.getByRole('button', { name: 'Take the last one back' }).click();
  await expect(heading(page)).toContainText('bracketed tower, P12');
  expect(await bench.get<Mount[]>('/studies/demo-fixes/mounts')).toHaveLength(3);
});

test('plate, fan and cooler: only the fan differs, a photograph is kept, what is no photograph is refused', async ({ page, bench }) => {
  expect(await takeLeast(page, 'demo-armour')).toMatch(/^12 runs, /);
  await page.getByRole('link', { name: 'Parts and fit' }).click();
  await expect(page.getByText(/cover plate leaves 1\.2\smm under hood over the rear connectors/).first()).toBeVisible();
  await page.goto('/studies/demo-armour/mount');
  await page.getByRole('radio', { name: 'plate, fan off, tower cooler' }).check();
  await workCard(page);
  await expect(heading(page)).toContainText('plate, fan off, tower cooler');
  await page.getByRole('radio', { name: 'plate, fan on, tower cooler' }).check();
  await expect(page.getByText('Changes: Small fan, off to on.')).toBeVisible();
  await expect(steps(page).locator(':scope > li')).toHaveCount(3);
  await expect(steps(page)).toContainText('CASE 4');
  await workCard(page);
  await expect(heading(page)).toContainText('plate, fan on, tower cooler');

  const file = page.getByLabel('Photograph of this mount');
  await file.setInputFiles({ name: 'plate.png', mimeType: 'image/png', buffer: await page.screenshot() });
  await expect(page.getByRole('button', { name: 'Show plate.png' })).toBeVisible();
  await file.setInputFiles({ name: 'page.png', mimeType: 'image/png', buffer: Buffer.from('<html>no picture</html>') });
  await expect(page.getByRole('alert')).toContainText('no photograph');
  expect((await last(bench, 'demo-armour')).photos).toHaveLength(1);
});

test('a part is kept on the bench with a photograph, and taken into a study that has none', async ({ page }) => {
  await page.goto('/runs/parts');
  await page.getByRole('button', { name: 'Write a part down' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Spare comb sink');
  await page.getByLabel('Weight').fill('38');
  await page.getByLabel('Tags').fill('drawer 3');
  await page.getByRole('button', { name: 'Keep it on the bench' }).click();
  await page
    .getByLabel('Photograph of this part')
    .setInputFiles({ name: 'label.png', mimeType: 'image/png', buffer: await page.screenshot() });
  await expect(page.getByRole('button', { name: 'Show label.png' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('row', { name: /Spare comb sink.*drawer 3, 1 photograph.*no study yet/ })).toBeVisible();
  await page.goto('/studies/demo-slot-lid/plan/parts');
  await page.getByRole('button', { name: 'From the bench' }).click();
  await page.getByRole('button', { name: 'Take Spare comb sink' }).click();
  await expect(page.getByText(/Spare comb sink is taken/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Not saved yet')).toBeHidden();
  await page.goto('/search?q=drawer+3');
  // The study speaks of it by now as well.
  await page.locator('a[href*="/runs/parts?part="]').click();
  await expect(page.getByRole('dialog')).toContainText('Photographs');
});

test('the seat is checked on the bench before hours are spent on it', async ({ page, bench }) => {
  await page.goto('/studies/demo-slot-lid/mount');
  await expect(page.getByText('The seat looks like the last 2.')).toBeVisible();
  await page.getByRole('radio', { name: /slot lid/ }).check();
  await page.getByLabel(/Serial number/).fill('T4-02');
  await workCard(page);
  await expect(heading(page)).toContainText('slot lid, mount 4');
  await expect(page.getByText('No run of this mount has 3 minutes of load yet.')).toBeVisible();
  await page.getByRole('button', { name: /Check the seat/ }).click();
  await expect(heading(page)).toContainText('finished', { timeout: 60_000 });
  await page.getByRole('link', { name: 'To the seat' }).click();
  await expect(page.getByText(/^The seat looks like the last 3\.$/)).toBeVisible();
  // Never part of a result.
  await page.goto('/studies/demo-slot-lid/judge');
  await expect(page.locator('#sheet')).toContainText('3 and 2 runs');
  expect((await bench.get<{ purpose: string }[]>('/studies/demo-slot-lid/runs')).at(-1)!.purpose).toBe('seat-check');
});

test('from nothing: what lies under what, parts, steps, and the card they make', async ({ page, bench }) => {
  const save = async () => {
    await page.keyboard.press('Control+s');
    await expect(page.getByText('Not saved yet')).toBeHidden();
  };
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill('Paste under a cooler');
  await page.keyboard.press('Enter');
  await expect(heading(page)).toHaveText('Paste under a cooler');
  await page.getByLabel('Family').selectOption('card');
  await page.getByLabel('Part under test').fill('Wren 8 T');
  await save();
  const id = /studies\/([^/]+)/.exec(page.url())![1]!;

  await page.goto(`/studies/${id}/plan/factors`);
  for (const [index, name, levels] of [
    [1, 'Cooler', 'low, tall'],
    [2, 'Paste', 'K, L'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a factor' }).click();
    await page.getByLabel(`Factor ${index}`).fill(name);
    await page.keyboard.press('Tab');
    await page.getByLabel(`Levels of ${name}`).fill(levels);
    await page.keyboard.press('Tab');
  }
  await page.getByLabel('Paste is reached through').selectOption('under Cooler');
  await page.getByLabel(/Paste is spoilt when Cooler comes off/).check();
  await page.getByRole('button', { name: /All combinations, 4/ }).click();
  await page.getByRole('button', { name: 'Make 4 variants' }).click();
  await save();

  await page.getByRole('link', { name: 'Parts and fit' }).click();
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByLabel('Part 1', { exact: true }).fill('tube K');
  await page.getByLabel('Kind of tube K').selectOption('paste');
  await page.getByLabel('tube K belongs to').selectOption('Paste: K');
  await page.getByLabel('Price of tube K').fill('2,5');
  await save();
  await expect(page.getByRole('row', { name: /tube K/ })).toContainText('g in all');

  await page.goto(`/studies/${id}/mount/steps`);
  const add = async (where: 0 | 1, text: string, to: string, caution: string) => {
    await page.getByRole('button', { name: 'Add a step' }).nth(where).click();
    const n = (await page.getByRole('textbox', { name: /^Step \d+$/ }).count()).toString();
    await page.getByLabel(`Step ${n}`, { exact: true }).fill(text);
    await page.getByLabel(`Step ${n} belongs to`).selectOption(to);
    await page.getByLabel(`Caution at step ${n}`).selectOption(caution);
  };
  await add(0, 'Lift the low cooler', 'Cooler: low', 'springs under tension');
  await add(0, 'Lift the tall cooler', 'Cooler: tall', 'springs under tension');
  await add(0, 'Wipe K off', 'Paste: K', 'solvent');
  await add(1, 'Spread K', 'Paste: K', 'no caution');
  await add(1, 'Set the low cooler', 'Cooler: low', 'no caution');
  await add(1, 'Set the tall cooler', 'Cooler: tall', 'fans and plugs');
  await save();

  await page.getByRole('link', { name: 'Card', exact: true }).click();
  await page.getByRole('radio', { name: 'low, K' }).check();
  await workCard(page);
  await expect(heading(page)).toContainText('low, K');
  // Another cooler over the same paste: the paste is spoilt on the way, and the card renews it.
  await page.getByRole('radio', { name: 'tall, K' }).check();
  await expect(page.getByText('Changes: Cooler, low to tall. Paste is spoilt by that and renewed.')).toBeVisible();
  await expect(page.getByText(/Have ready: tube K/)).toBeVisible();
  const texts = (await steps(page).locator(':scope > li').allInnerTexts()).join(' / ');
  expect(texts).toMatch(/Lift the low cooler.*Wipe K off.*Spread\sK.*Set the tall cooler/s);
  expect(texts).not.toContain('Set the low cooler');
  await workCardByKeys(page);
  await expect(heading(page)).toContainText('tall, K');
  expect((await bench.get<Mount[]>(`/studies/${id}/mounts`)).map((mount) => mount.number)).toEqual([1, 1]);
});
