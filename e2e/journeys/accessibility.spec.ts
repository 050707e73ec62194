import type { Page } from '@playwright/test';
import { barriers } from '../support/barriers.ts';
import { expect, reading as test } from '../support/bench.ts';

const STUDY = '/studies/demo-slot-lid';
/** In groups, so that no test is long. */
const GROUPS = {
  'what is written down': ['/', '/logs', `${STUDY}/ask`, `${STUDY}/look`, `${STUDY}/equip`, `${STUDY}/hold`],
  'map, camera and bench': [
    `${STUDY}/look/map`,
    `${STUDY}/look/camera`,
    '/studies/demo-five-boards/look/map',
    '/runs',
    '/runs/mounts',
    '/runs/parts',
    '/scratch',
    '/practice',
    '/words',
    '/search?q=thistle',
    '/bench',
    '/instruments',
    '/limits',
  ],
  plan: [`${STUDY}/plan`, '/studies/demo-armour/plan/factors', '/studies/demo-armour/plan/parts', '/studies/demo-armour/plan/order'],
  mount: [
    '/studies/demo-fixes/mount',
    '/studies/demo-fixes/mount/steps',
    '/studies/demo-fixes/mount/pads',
    '/studies/demo-fixes/mount/paper',
  ],
  judging: ['all', 'steps', 'factors', 'choice', 'carry', 'held', 'what-if', 'odd'].map((page) => `${STUDY}/judge/${page}`),
  'runs and results': ['mount', 'run', 'run/import', 'read', 'read/normal', 'judge', 'report'].map((station) => `${STUDY}/${station}`),
};
const VIEWS = Object.values(GROUPS).flat();

/** What is wider than the window, pixels. */
const overflowOf = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

for (const scheme of ['light', 'dark'] as const) {
  for (const [group, views] of Object.entries(GROUPS)) {
    test(`no serious barrier, ${group}, ${scheme}`, async ({ page }) => {
      // Eight pages are walked node by node: a busy machine takes ten seconds and more for each.
      test.setTimeout(240_000);
      await page.emulateMedia({ colorScheme: scheme });
      for (const view of views) {
        await page.goto(view);
        await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
        await page.waitForLoadState('networkidle');
        expect(await barriers(page), view).toEqual([]);
      }
    });
  }
}

test('no serious barrier on the record of a run, nor where nothing is, and neither wider than a phone', async ({ page, shelf }) => {
  const [run] = await shelf.get<{ id: string }[]>('/studies/demo-slot-lid/runs');
  for (const view of [`${STUDY}/run/${run!.id}`, '/nowhere'])
    for (const width of [1280, 390]) {
      await page.setViewportSize({ width, height: 800 });
      await page.goto(view);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForLoadState('networkidle');
      expect(await barriers(page), view).toEqual([]);
      expect(await overflowOf(page), `${view} at ${width}`).toBeLessThanOrEqual(0);
    }
});

test('nothing on any main view is wider than the window, from desk to phone', async ({ page }) => {
  test.setTimeout(240_000);
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 800 });
    for (const view of VIEWS) {
      await page.goto(view);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      expect(await overflowOf(page), `${view} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
});

/** By what dialogues are opened, on which page. */
const DIALOGUES: [view: string, button: string | RegExp][] = [
  ['/', 'Keys'],
  ['/logs', 'Paste or type a table'],
  ['/runs/parts', 'Write a part down'],
  ['/instruments', /^Calibrate /],
  [`${STUDY}/look`, /^(Add )?[Ss]everal/],
  [`${STUDY}/plan/parts`, 'From the bench'],
  [`${STUDY}/mount`, 'On a phone'],
  [`${STUDY}/read`, /^How was .* worked out/],
];

test('no serious barrier in a dialogue, in light, dark and forced colours, and none wider than a phone', async ({ page }) => {
  test.setTimeout(240_000);
  for (const [view, button] of DIALOGUES) {
    await page.emulateMedia({ colorScheme: 'light', forcedColors: 'none' });
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(view);
    await page.getByRole('button', { name: button }).first().click();
    const dialogue = page.getByRole('dialog');
    await expect(dialogue.getByRole('heading').first()).toBeVisible();
    for (const media of [{ colorScheme: 'light' }, { colorScheme: 'dark' }, { forcedColors: 'active' }] as const) {
      await page.emulateMedia(media);
      expect(await barriers(page, 'forcedColors' in media), `${view}, ${String(button)}, ${JSON.stringify(media)}`).toEqual([]);
    }
    for (const width of [820, 390]) {
      await page.setViewportSize({ width, height: 800 });
      const box = dialogue.locator('[data-headlessui-state]').last();
      const right = async () => {
        const { x, width: wide } = (await box.boundingBox()) ?? { x: 0, width: 0 };
        return x + wide;
      };
      // A chart behind it is drawn anew a moment after the window has changed.
      await expect.poll(() => overflowOf(page), `${view}, ${String(button)} at ${width}`).toBeLessThanOrEqual(0);
      await expect.poll(right, `${view}, ${String(button)} at ${width}`).toBeLessThanOrEqual(width);
    }
    await page.keyboard.press('Escape');
    await expect(dialogue).toBeHidden();
  }
});
