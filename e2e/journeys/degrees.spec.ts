import { expect, reading as test } from '../support/bench.ts';

const STUDY = '/studies/demo-slot-lid';
const GROUPS = {
  'of the bench': [
    '/',
    '/runs',
    '/runs/mounts',
    '/runs/parts',
    '/limits',
    '/scratch',
    '/practice',
    '/bench',
    '/instruments',
    '/studies/demo-five-boards/look/map',
  ],
  'that write down': ['ask', 'look', 'look/map', 'equip', 'hold', 'plan', 'plan/order', 'mount', 'run'].map((page) => `${STUDY}/${page}`),
  'that answer': ['read', 'read/normal', 'judge', 'judge/all', 'judge/steps', 'judge/held', 'judge/what-if', 'judge/odd', 'report'].map(
    (page) => `${STUDY}/${page}`,
  ),
};
/** Typed by a tester, or the wording of a source: it stays as it was written. */
const AS_TYPED = ['soften above 90 °C', 'burns on touch from 60 °C'];

/** Texts with a figure in °C or K that are in sight, element by element. */
const inKelvin = (asTyped: string[]) => {
  const said: string[] = [];
  const bodies = [document.body, ...[...document.querySelectorAll('iframe')].flatMap((frame) => frame.contentDocument?.body ?? [])];
  for (const element of bodies.flatMap((body) => [...body.querySelectorAll('*')])) {
    if (element.getClientRects().length === 0 || element.closest('style, script, select, code')) continue;
    const own = [...element.childNodes]
      .flatMap((node) => (node.nodeType === Node.TEXT_NODE ? [node.textContent ?? ''] : []))
      .join('')
      .replaceAll('\u00a0', ' ');
    if (/\d\s?(°C|K)(?![\w/])/.test(own) && !asTyped.some((text) => own.includes(text))) said.push(own.trim().slice(0, 120));
  }
  return said;
};

for (const [group, pages] of Object.entries(GROUPS))
  test(`pages ${group} in °F say nothing in °C or K`, async ({ page }) => {
    test.setTimeout(240_000);
    await page.goto('/');
    await page.getByRole('button', { name: 'Show results in °F' }).click();
    for (const at of pages) {
      await page.goto(at);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForLoadState('networkidle');
      if (at.endsWith('report')) await expect(page.frameLocator('iframe').getByText(/°F/).first()).toBeVisible();
      expect(await page.evaluate(inKelvin, AS_TYPED), at).toEqual([]);
    }
  });
