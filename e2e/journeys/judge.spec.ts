import { readFileSync } from 'node:fs';
import type { Study } from '@red-ember/contract';
import { expect, reading, test } from '../support/bench.ts';

/** From the shelf to an answer with its doubt and its caveats, job by job, on studies that were measured. */
test.use({ measured: true });

const h1 = 'h1';

reading('a paste round-up: groups that cannot be told apart, and another pick for another reader', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Six pastes on Wren 8', exact: true }).click();
  await page.getByRole('link', { name: /^Judge/ }).click();
  await page.getByRole('link', { name: 'All at once' }).click();
  await expect(page.locator(h1)).toContainText('lead by');
  await expect(page.getByLabel('What qualifies this page')).toContainText('corrected for their number by Holm');
  const rows = page.getByRole('figure', { name: /Variants by/ });
  await expect(rows.getByRole('img').last()).toHaveAttribute('aria-label', /^paste Z: /);
  // From the ranking to the runs of one of them, and back.
  await page
    .getByRole('row', { name: /^paste Z/ })
    .getByRole('link')
    .click();
  await expect(page.locator(h1)).toContainText('paste Z');
  await page.goBack();
  await page.getByRole('link', { name: 'Choice' }).click();
  await expect(page.locator(h1)).toContainText('Fits hundreds: paste');
  const before = await page.getByText('Who takes what').locator('..').locator('..').textContent();
  await page.getByLabel('temperature for Fits hundreds').fill('90');
  await expect(page.getByText('Who takes what').locator('..').locator('..')).not.toHaveText(before!);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'Save' })).toBeHidden();
  await page.reload();
  await expect(page.getByLabel('temperature for Fits hundreds')).toHaveValue('90');
});

reading('reusable pad against paste: free fans give no call, locked ones do, and the page says where it went', async ({ page }) => {
  await page.goto('/studies/demo-pad-free/judge');
  await expect(page.locator(h1)).toContainText('cannot be told from stock paste');
  await expect(page.getByText('Where did the cooling go?')).toBeVisible();
  await expect(page.getByRole('row', { name: /^fan/ })).toContainText('fans as shipped');
  await page.goto('/studies/demo-pad-locked/judge');
  await expect(page.locator(h1)).toContainText('Graphite sheet cools graphics chip');
  await expect(page.getByRole('row', { name: /^fan/ })).toContainText('held');
  // The same runs by what is usually asked of a call; the address and the report keep it.
  await expect(page.getByText('Evidence: strict: several spots pay for each other')).toBeVisible();
  await page.getByLabel('Evidence').selectOption('usual');
  await expect(page).toHaveURL(/evidence=usual/);
  await expect(page.getByText('Evidence: usual: every spot speaks by itself')).toBeVisible();
  await page.getByRole('link', { name: 'Report', exact: true }).last().click();
  await expect(page).toHaveURL(/report\?.*evidence=usual/);
});

test('a starved card is blocked, and the run that would unblock it goes into the plan', async ({ page, bench }) => {
  await page.goto('/studies/demo-tight-case/judge');
  await page.getByLabel('At load').selectOption('Case fans, 100');
  await expect(page).toHaveURL(/load=Case/);
  await expect(page.locator(h1)).toContainText('is blocked');
  await expect(page.locator(h1)).toContainText('kept busy only 6');
  await page.getByRole('button', { name: 'Add one run of each to the plan' }).click();
  await expect(page.getByText('One more run of either side is in the plan.')).toBeVisible();
  const study = await bench.get<Study>('/studies/demo-tight-case');
  expect(study.variants.map((variant) => variant.repeats)).toEqual([3, 3]);
  // The link reproduces what was seen.
  await page.reload();
  await expect(page.getByLabel('At load')).toHaveValue('Case fans, 100');
});

reading('a tight case: the knee of the case-fan sweep', async ({ page }) => {
  await page.goto('/studies/demo-tight-case/judge/steps?of=tight-fed');
  await expect(page.getByLabel('What qualifies this page')).toContainText('The knee of the sweep is at Case fans');
  await expect(page.getByRole('row', { name: /1\. Case fans, 100/ })).toBeVisible();
});

reading('one long session: what each change did, added up', async ({ page }) => {
  await page.goto('/studies/demo-long-session/judge');
  await expect(page.locator(h1)).toContainText('A comparison needs two variants');
  await page.getByRole('link', { name: 'Steps' }).click();
  await expect(page.locator(h1)).toContainText('All steps together');
  await page.getByLabel('By', { exact: true }).selectOption({ label: 'Memory, hottest chip' });
  // The free fan took part of each, so the steps are read, with what the fan did, and not called.
  await expect(page.getByRole('row', { name: /2\. Vent blocked/ })).toContainText(/\+1\d\.\d ±\s\d.*fan \+\d+\srpm/);
  await expect(page.getByRole('row', { name: /5\. Side opened/ })).toContainText(/not called: the fans were free.*fan −\d+\srpm/);
});

reading('a ladder of fixes: two steps only put it off, the last ends it', async ({ page }) => {
  await page.goto('/studies/demo-fixes/judge/steps');
  await expect(page.locator(h1)).toContainText('ends the throttling');
  await expect(page.locator(h1)).toContainText('only put it off');
  await expect(page.getByText('later, but still: only delayed')).toHaveCount(2);
});

reading('drive sinks: the temperature is struck out, time and throughput decide', async ({ page }) => {
  await page.goto('/studies/demo-hot-drive/judge?a=hot-bare&b=hot-comb-fan');
  await expect(page.getByText('Where did the cooling go?')).toBeVisible();
  await expect(page.getByRole('row', { name: /held by the part/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^time to throttle/ })).toContainText('comb sink with fan never throttled');
  await page.getByLabel('What qualifies this page').getByRole('link', { name: 'See trace' }).first().click();
  await expect(page).toHaveURL(/\/run\//);
});

reading('armour and little fans: effects fitted together, the interaction, and no test without repeats', async ({ page }) => {
  await page.goto('/studies/demo-armour/judge/factors');
  await expect(page.locator(h1)).toContainText('Small fan reads most on');
  await expect(page.getByLabel('What qualifies this page')).toContainText('So main effects are fitted together');
  await expect(page.getByLabel('What qualifies this page')).toContainText('No combination was run twice');
  await page.getByLabel('Lines').selectOption('Cooler');
  await expect(page.getByRole('figure', { name: 'Means over Plate, a line for each level of Cooler' })).toBeVisible();
});

reading('how many watts: what binds, in which air, and which loads it carries', async ({ page }) => {
  await page.goto('/studies/demo-watts-steps/judge/carry');
  await expect(page.locator(h1)).toContainText(/binds: still air carries \d+ ±\s\d+\sW/);
  const render = page.getByRole('row').filter({ has: page.getByLabel('Power of Show player') });
  await expect(render).toContainText('carries');
  // Warmer air, fewer watts: the heading follows what is saved, the table what is typed.
  await page.getByLabel('Air in the gallery').fill('70');
  await expect(render).not.toContainText(/carries.*carries/);
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByLabel('Of', { exact: true }).selectOption({ label: 'fan at the sink' });
  await expect(page).toHaveURL(/side=step-fan/);
  await page.reload();
  await expect(page.locator(h1)).toContainText('fan at the sink carries');
});

reading('is it worth it: degrees, clock, noise, and kelvin for money', async ({ page }) => {
  await page.goto('/studies/demo-loop/judge');
  await expect(page.getByLabel('What qualifies this page')).toContainText('“It gains a hundred megahertz” is contradicted');
  await expect(page.getByRole('row', { name: /^noise/ })).toContainText('free');
  // The same in other degrees, here and after a reload.
  await expect(page.locator(h1)).toContainText(/by \d+\.\d\sK/);
  await page.getByRole('button', { name: 'Show results in °F' }).click();
  await expect(page.locator(h1)).toContainText(/by \d+\.\d\s°F/);
  await page.reload();
  await expect(page.getByText('limit 203 °F').first()).toBeVisible();
  await page.getByRole('button', { name: 'Show results in °C' }).click();
  await page.getByRole('link', { name: 'Choice' }).click();
  // Fans were free, so that no kelvin is called: none is counted against money.
  const perMoney = async (choice: RegExp) => {
    const table = page.getByRole('table', { name: 'The choices' });
    const heads = await table.getByRole('columnheader').allInnerTexts();
    return table
      .getByRole('row', { name: choice })
      .getByRole('cell')
      .nth(heads.findIndex((head) => head.startsWith('K per EUR')));
  };
  await expect(page.getByRole('row', { name: /^closed loop 240/ })).toBeVisible();
  await expect(await perMoney(/^closed loop 240/)).toHaveText('');
  await page.goto('/studies/demo-pad-locked/judge/choice');
  await expect(page.getByRole('row', { name: /^paste L/ })).toBeVisible();
  await expect(await perMoney(/^paste L/)).toHaveText(/^\d+\.\d\d$/);
});

reading('two coolers at equal noise, read off their sweeps and said to be so', async ({ page }) => {
  await page.goto('/studies/demo-salvaged/judge');
  await page.getByLabel('Temperatures').selectOption('noise');
  await expect(page.getByText(/read off each run’s fan sweep at .* between measured points/)).toBeVisible();
  await expect(page).toHaveURL(/restate=noise/);
  await page.getByLabel('Compared').selectOption({ label: 'bracketed tower' });
  await expect(page.locator(h1)).toContainText(/Bracketed tower/);
  await page.getByLabel('Temperatures').selectOption('');
  await expect(page.getByText(/between measured points/)).toBeHidden();
});

reading('a plan decided at its first look: the level that belongs to it, and that nothing more need be run', async ({ page }) => {
  await page.goto('/studies/demo-salvaged/judge');
  const margin = page.getByLabel('What qualifies this page');
  await expect(margin).toContainText("Look 1 of 5 by the plan's stopping rule");
  await expect(margin).toContainText('What to do next');
  await expect(page.getByText(/likely cooler by more than 1\sK/).first()).toBeVisible();
  await page.goto('/studies/demo-salvaged/plan/order');
  await expect(page.getByLabel('It is decided')).toHaveValue('pocock');
  await expect(page.getByText(/Intervals are held at 98\.4\s% at each look from 2 to 6 a side/)).toBeVisible();
});

reading('what is holding it back: a faster fan buys degrees and no frames', async ({ page }) => {
  await page.goto('/studies/demo-holding-back/judge');
  await expect(page.getByLabel('What qualifies this page')).toContainText('is contradicted');
  await expect(page.getByRole('row', { name: /^throughput/ })).toBeVisible();
  await page.goto('/studies/demo-holding-back/read');
  await expect(page.getByText('Over the same window')).toBeVisible();
  await expect(page.getByText('Way of the heat')).toBeVisible();
});

reading('what held it back, drawn; and which spot moves first when the load comes on', async ({ page }) => {
  await page.goto('/studies/demo-fixes/judge');
  await page.getByRole('link', { name: 'Held back' }).click();
  await expect(page.locator(h1)).toHaveText(/^Heat held .* for \d+\s% of its load\.$/);
  await expect(page.getByRole('img', { name: /^closed loop 240, P12: its power limit 100\s%/ })).toBeVisible();
  await expect(page.getByRole('figure', { name: /^stock, stock: MHz against °C$/ })).toBeVisible();
  await page.goto('/studies/demo-long-session/read');
  const first = page.getByRole('region', { name: 'Which reacts first' });
  await expect(first.getByRole('row', { name: /^Show player on three outputs/ })).toContainText('moves first');
});

test('what if: warmer air and a faster fan, foretold from the runs, and made a variant with its prediction', async ({ page, bench }) => {
  await page.goto('/studies/demo-retrofit/judge');
  await page.getByRole('link', { name: 'What if' }).click();
  await expect(page.locator(h1)).toContainText('As it ran, Graphics chip, hottest place settles at');
  await expect(page.getByText(/Each run foretold from the others: \d+ of \d+ within their 95\s% band/)).toBeVisible();
  const settles = async () => Number(/at ([\d.]+)\s°C/.exec((await page.locator(h1).textContent())!)![1]);
  const ran = await settles();
  // By keyboard: half a degree a press.
  await page.getByLabel('Air around it').focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight');
  await expect(page.locator(h1)).toContainText('would settle at');
  await expect.poll(async () => (await settles()) - ran).toBeGreaterThan(4);
  await expect(page).toHaveURL(/air=/);
  await page.reload();
  await expect(page.locator(h1)).toContainText('would settle at');
  await expect(page.getByRole('button', { name: 'Make it a variant' })).toBeDisabled();
  await page.getByLabel('Fan speed, held').focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Make it a variant' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  // Saving looks at what the change moved, and may take a while.
  await expect(page.getByRole('button', { name: /^Sav/ })).toBeHidden();
  // The study has runs: what was predicted before stays, and what is expected of the new variant stands beside it.
  const study = await bench.get<Study>('/studies/demo-retrofit');
  const made = study.variants.at(-1)!;
  expect(made.name).toMatch(/, fan at 120\s%$/);
  const expected = study.predictions.filter(({ variantId }) => variantId === made.id);
  expect(expected).toHaveLength(4);
  for (const { expectedK, plusMinusK } of expected) {
    expect(expectedK).toBeLessThan(0.5);
    expect(plusMinusK).toBeGreaterThan(0.5);
  }
});

test('five boards and a lone outlier: what it was, and what it was not', async ({ page, bench }) => {
  await page.goto('/studies/demo-five-boards/judge/all');
  await expect(page.locator(h1)).toContainText('Quarry C3');
  await expect(page.getByRole('row', { name: /^Ferry B2, held/ })).toContainText('Firmware FB-1.09');
  await page.goto('/studies/demo-odd-board/judge/odd');
  await expect(page.locator(h1)).toContainText('Serial 07, fan held at 60 %: it was this, and not Serial 07, firmware of serial 03.');
  const noise = page.getByRole('row', { name: /^noise/ });
  await noise.getByRole('button', { name: 'Plan a retest' }).click();
  await expect(page.getByText(/is in the plan, two runs/)).toBeVisible();
  const study = await bench.get<Study>('/studies/demo-odd-board');
  expect(study.variants.at(-1)!.retest).toEqual({ variantId: 'odd-c7-v', suspect: 'noise' });
});

test('a window of one’s own, by keyboard: every reading follows, and the proposed one comes back', async ({ page }) => {
  await page.goto('/studies/demo-slot-lid/read');
  const from = page.getByLabel(/Window of Sustained write, from/);
  const proposed = await from.inputValue();
  const reading = page.getByRole('row', { name: /^Controller/ }).first();
  const before = await reading.textContent();
  await from.focus();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('10');
  await page.keyboard.press('Tab');
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('14');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: 'Read here' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('your own')).toBeVisible();
  await expect(reading).not.toHaveText(before!);
  await page.getByRole('button', { name: 'Back to its end' }).click();
  await expect(from).toHaveValue(proposed);
  await expect(reading).toHaveText(before!);
});

reading('a loop shared with the processor: the pump that followed the board, and who pays', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Wren 8 and the processor on one loop', exact: true }).click();
  await page.getByRole('link', { name: /^Judge/ }).click();
  const margin = page.getByLabel('What qualifies this page');
  await page.getByLabel('Compared').selectOption({ label: 'shared loop, 235 W' });
  await expect(page.locator(h1)).toContainText('reads higher by');
  await expect(page.locator(h1)).toContainText('not called: the fans were free and did not do the same');
  await expect(margin).toContainText('“On the loop the chip stays cooler” is not shown');
  await expect(margin).toContainText('“The loop is quieter by five decibels” is contradicted');
  // Chosen where it stands on the other side, the two are turned round.
  await page.getByLabel('Reference').selectOption({ label: 'shared loop, 235 W' });
  await expect(page.locator(h1)).toContainText('Stock air, 235 W reads lower by');
  await page.getByLabel('Compared').selectOption({ label: 'shared loop, first try' });
  await expect(page.locator(h1)).toContainText('Shared loop, first try heats graphics chip');
  // What is claimed of the loop against air is still held against that pair, and says so.
  await expect(margin).toContainText('Shared loop, 235 W against stock air, 235 W: “On the loop the chip stays cooler” is not shown');
  await page.getByRole('link', { name: 'Factors' }).click();
  await expect(page.getByText('Power limit').first()).toBeVisible();
});

reading('a retrofit guide: the mount that went wrong is left out with its reason, before and after at two settings', async ({ page }) => {
  await page.goto('/studies/demo-retrofit/judge?a=ret-00&b=ret-10');
  await expect(page.locator(h1)).toContainText('not called: the fans were free');
  await expect(page.getByLabel('What qualifies this page')).toContainText('One strip over both rows rested on the inductors');
  await page.getByLabel('Reference').selectOption({ label: 'stock, tuned' });
  await page.getByLabel('Compared').selectOption({ label: 'tower, tuned' });
  await expect(page.locator(h1)).toContainText('not called: the fans were free');
  await page.goto('/studies/demo-retrofit/mount/pads');
  await expect(page.getByText('It lies on with paste alone')).toBeVisible();
  await expect(page.getByText(/No thickness touches Power stage 1.* well: 3.7\smm below the face/)).toBeVisible();
});

reading(
  'last month’s study stands against today’s, by today’s rules, and is blocked where the bench was run otherwise',
  async ({ page }) => {
    await page.goto('/studies/demo-pad-locked/judge?a=padl-stock');
    const compared = page.getByLabel('Compared');
    await compared.selectOption('pick-elsewhere');
    const dialogue = page.getByRole('dialog');
    await dialogue.getByLabel('Study').selectOption({ label: 'Graphite sheet against paste, fans left free' });
    await dialogue.getByLabel('Variant').selectOption({ label: 'graphite sheet' });
    await dialogue.getByRole('button', { name: 'Compare' }).click();
    await expect(page.locator(h1)).toContainText(
      'is blocked. House rules differ, fans: locked at equal duty here; as shipped, automatic there.',
    );
    const margin = page.getByLabel('What qualifies this page');
    await expect(margin).toContainText('“Graphite sheet against paste, fans left free”');
    await expect(margin).toContainText('read by card and card of the other study: nothing cancels');
    // The address alone brings it back.
    await page.reload();
    await expect(page.locator(h1)).toContainText('House rules differ');
    await page.getByRole('button', { name: 'How was this worked out?' }).first().click();
    const table = page.getByRole('dialog').getByRole('row');
    await expect(table).toHaveCount(6);
    await expect(table.last().getByRole('link')).toHaveAttribute('href', /demo-pad-free/);
  },
);

reading('a cover on a drive, from the shelf by keyboard: the claim, its doubt, the gallery, and the raw samples', async ({ page }) => {
  await page.goto('/');
  const link = page.getByRole('link', { name: 'Slot lid on Thistle 4T', exact: true });
  await link.focus();
  await page.keyboard.press('Enter');
  const judge = page.getByRole('link', { name: /^Judge/ });
  await judge.focus();
  await page.keyboard.press('Enter');
  await expect(page.locator(h1)).toContainText('“The slot lid keeps the drive cooler” is contradicted');
  await page.getByLabel(/Gallery air/i).focus();
  // Faster than the address follows.
  for (let i = 0; i < 9; i++) await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/air=36/);
  const trace = page.getByRole('link', { name: 'See trace' }).first();
  await trace.focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/run\//);
});

reading('the report is taken as pictures of its figures, and read as a page for each reader', async ({ page }) => {
  await page.goto('/studies/demo-pastes/report');
  const arriving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Figures, PNG' }).click();
  const taken = await arriving;
  expect(taken.suggestedFilename()).toMatch(/figures PNG\.zip$/);
  const packed = readFileSync(await taken.path()).toString('latin1');
  expect(packed.split('\x89PNG').length - 1).toBeGreaterThan(3);
  // Painted, and no white sheets.
  expect(packed.length).toBeGreaterThan(20_000);
  await page.getByLabel('Form', { exact: true }).selectOption({ label: 'a page a reader' });
  await expect(page).toHaveURL(/form=short/);
  const paper = page.frameLocator('iframe');
  await expect(paper.getByRole('heading', { level: 1, name: /^Wants it coolest: / })).toBeVisible();
  await expect(paper.getByRole('heading', { level: 1, name: /^Fits hundreds: / })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Form', { exact: true })).toHaveValue('short');
});
