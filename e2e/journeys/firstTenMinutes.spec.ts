import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test } from '../support/bench.ts';
import { startRun } from '../support/benchDay.ts';

const readme = readFileSync(join(import.meta.dirname, '../../README.md'), 'utf8');
const section = /## The first ten minutes\n([\s\S]*?)\n## /.exec(readme)![1]!;
/** What the README tells a newcomer to do, by its number. */
const told = new Map([...section.matchAll(/^(\d+)\. ([\s\S]*?)(?=^\d+\. |$(?![\s\S]))/gm)].map(([, n, text]) => [Number(n), text!]));

const h1 = (page: Page) => page.getByRole('heading', { level: 1 });
const station = (page: Page, name: string) =>
  page
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .first()
    .click();
const open = async (page: Page, title: string) => {
  await page.goto('/');
  await page.getByRole('link', { name: title, exact: true }).click();
  await expect(page.getByText(title).first()).toBeVisible();
};

test.describe('the first ten minutes of the README', () => {
  test.use({ measured: true });

  test('are true, one step after the other', async ({ page }) => {
    test.setTimeout(400_000);
    expect([...told.keys()]).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
    /** A step, and the names in it that are gone to: should the README name others, this test does not follow it any more. */
    const step = (n: number, names: string[], walk: () => Promise<void>) =>
      test.step(told.get(n)!.slice(0, 80), async () => {
        for (const name of names) expect(told.get(n)).toContain(name);
        await walk();
      });

    await step(1, ['*Slot lid on Thistle 4T*'], async () => {
      await page.goto('/');
      await expect(page.getByRole('link', { name: 'Slot lid on Thistle 4T', exact: true })).toBeVisible();
    });
    await step(2, ['run 6 was left out', '*How was this worked out?*'], async () => {
      await page.getByRole('link', { name: 'Slot lid on Thistle 4T', exact: true }).click();
      await expect(page).toHaveURL(/demo-slot-lid/, { timeout: 30_000 });
      await expect(h1(page)).toContainText('heats');
      await expect(page.getByLabel('What qualifies this page')).toContainText(/Left out: slot lid, run 6\. The room rose/);
      await page.getByRole('button', { name: 'How was this worked out?' }).first().click();
      await expect(page.getByRole('dialog')).toContainText('degrees of freedom');
      await page.keyboard.press('Escape');
    });
    await step(3, ['*Gallery air* to 36 °C'], async () => {
      await page.getByLabel('Gallery air').fill('36');
      await expect(page.getByText(/slot lid: .* over/)).toBeVisible();
    });
    await step(4, ['**Mount**', '`T4-02`', '*Check the seat*', '*Run it*', '600×', '`A`', '`C`', '`P`', '`S`'], async () => {
      await station(page, 'Mount');
      await page.getByRole('radio', { name: /slot lid/ }).check();
      for (const box of await page.getByRole('checkbox').all()) await box.check();
      await page.getByLabel(/Serial number/).fill('T4-02');
      await page.getByRole('button', { name: 'slot lid is mounted' }).click();
      await expect(page.getByRole('button', { name: 'Check the seat' })).toBeVisible();
      await page.getByRole('link', { name: 'Run it' }).click();
      await startRun(page, 'demo-slot-lid');
      await expect(page.getByTestId('binding')).toBeVisible();
      await page.keyboard.press('a');
      await expect(page.getByText('Back to the sheet (A)')).toBeVisible();
      await page.keyboard.press('a');
      await page.keyboard.press('c');
      await expect(page.getByRole('dialog')).toBeVisible();
      await page.keyboard.press('Escape');
      await expect(h1(page)).toContainText('finished', { timeout: 150_000 });
    });
    await step(
      5,
      [
        '**Judge** the lid has one more run',
        '**Report** take the page and the readings',
        '*Six pastes on Wren 8*',
        '*What stops Ferry B2 from tripping*',
        '*Armour and little fans*',
        '*tower on Wren 8*',
      ],
      async () => {
        await station(page, 'Judge');
        await expect(page.locator('#sheet')).toContainText('3 and 3 runs');
        await station(page, 'Report');
        for (const name of ['Report, HTML', 'Readings, CSV']) {
          const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
          expect(readFileSync(await file.path()).length).toBeGreaterThan(200);
        }
        const pages: [string, string, RegExp][] = [
          ['Six pastes on Wren 8', 'All at once', /lead/],
          ['Six pastes on Wren 8', 'Choice', /./],
          ['What stops Ferry B2 from tripping', 'Steps', /./],
          ['Armour and little fans on Ferry B4', 'Factors', /moves|reads/],
          ['Watts that Ferry B2 carries, in three steps', 'Carry', /W/],
          ['What stops Ferry B2 from tripping', 'Held back', /./],
          ['A tower on Wren 8, a guide for the crew', 'What if', /./],
          ['Five boards, one processor', 'Odd one out', /./],
        ];
        for (const [title, tab, says] of pages) {
          await open(page, title);
          await station(page, 'Judge');
          await page.getByRole('link', { name: tab, exact: true }).click();
          await expect(page).toHaveTitle(new RegExp(tab));
          // Under the name of the page alone nothing is there yet.
          await expect(h1(page)).not.toHaveText(tab);
          await expect(h1(page)).not.toContainText('No variant has a run');
          await expect(h1(page)).toContainText(says);
          await expect(page.getByRole('alert')).toHaveCount(0);
        }
      },
    );
    await step(6, ['*board map*', '*camera survey*'], async () => {
      await open(page, 'Slot lid on Thistle 4T');
      await station(page, 'Look');
      await page.getByRole('link', { name: /board map/i }).click();
      await expect(page.locator('#sheet')).toContainText('slot lid');
      await station(page, 'Look');
      await page.getByRole('link', { name: /camera survey/i }).click();
      await expect(h1(page)).toContainText('What did the camera see');
      await expect(page.locator('#sheet')).toContainText('76.1 °C');
    });
    await step(7, ['**Equip**', '*How good is a reading?*'], async () => {
      await station(page, 'Equip');
      await expect(page.getByText('How good is a reading?')).toBeVisible();
    });
    await step(8, ['*Six pastes on Wren 8*', 'Mount the card from one paste to the next'], async () => {
      await open(page, 'Six pastes on Wren 8');
      await station(page, 'Plan');
      await page.getByRole('link', { name: 'Parts and fit' }).click();
      await expect(page.getByRole('row', { name: /In all/ })).toContainText('EUR');
      await station(page, 'Mount');
      await expect(page.getByRole('list', { name: 'Steps' })).toContainText('Wipe');
    });
    await step(
      9,
      ['*One long session with Wren 8*', '*How many watts*, once it is mounted', '*Sinks for the hot Thistle 4T*', 'plant a fault'],
      async () => {
        for (const title of ['One long session with Wren 8 in the small case', 'Sinks for the hot Thistle 4T']) {
          await open(page, title);
          await station(page, 'Run');
          await expect(page.getByRole('button', { name: 'Look at the bench' })).toBeVisible();
        }
        await expect(page.getByText(/fault/i).first()).toBeVisible();
        await open(page, 'How many watts does Ferry B2 carry');
        await station(page, 'Run');
        await expect(page.getByRole('link', { name: 'To Mount' })).toBeVisible();
      },
    );
    await step(10, ['*Practice*', 'thirteen'], async () => {
      await page.getByRole('link', { name: 'Practice', exact: true }).click();
      await expect(page.getByRole('button', { name: /Begin|Draw|Start/ })).toHaveCount(13);
    });
    await step(11, ['*Five boards, one processor*', '`?` lists the keys'], async () => {
      await page.goto('/');
      // A key that is pressed before the page is there is pressed for nobody.
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.keyboard.press('?');
      await expect(page.getByRole('dialog')).toContainText('Keys');
      await page.keyboard.press('Escape');
      await expect(page.getByRole('button', { name: 'Copy Five boards, one processor' })).toBeVisible();
    });
  });
});
