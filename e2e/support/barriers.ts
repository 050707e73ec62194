import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What axe finds serious or worse on what is shown, with the places where it stands. */
export async function barriers(page: Page, forced = false): Promise<string[]> {
  const axe = new AxeBuilder({ page }).exclude('iframe');
  // Where the browser forces its colours it keeps text and ground apart itself; what is read of them then are those of the page.
  if (forced) axe.disableRules('color-contrast');
  const { violations } = await axe.analyze();
  const placesOf = (nodes: (typeof violations)[number]['nodes']) => nodes.map(({ target }) => target.join(' ')).slice(0, 3);
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id} at ${placesOf(nodes).join('; ')}`);
}
