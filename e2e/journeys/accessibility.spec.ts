import AxeBuilder from '@axe-core/playwright';
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
        const { violations } = await new AxeBuilder({ page }).exclude('iframe').analyze();
        const serious = violations.filter((violation) => violation.impact === 'serious' || violation.impact === 'critical');
        expect(
          serious.map(
            (violation) =>
              `${view}: ${violation.id} at ${violation.nodes
                .map((node) => node.target.join(' '))
                .slice(0, 3)
                .join('; ')}`,
          ),
        ).toEqual([]);
      }
    });
  }
}

test('nothing on any main view is wider than the window, from desk to phone', async ({ page }) => {
  test.setTimeout(240_000);
  for (const width of [1280, 820, 390]) {
    await page.setViewportSize({ width, height: 800 });
    for (const view of VIEWS) {
      await page.goto(view);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      const overflow = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
      expect(overflow, `${view} at ${width}`).toBeLessThanOrEqual(0);
    }
  }
});
