import type { Run } from '@red-ember/contract';
import { expect, reading as test } from '../support/bench.ts';

/** One moment that is another day in each: ten hours behind, and thirteen ahead. */
const MOMENT = '2026-03-07T11:30:00Z';
for (const { timezoneId, firstDay, now } of [
  { timezoneId: 'Pacific/Honolulu', firstDay: '2026-03-06', now: '2026-03-07T07:30:00Z' },
  { timezoneId: 'Pacific/Tongatapu', firstDay: '2026-03-08', now: MOMENT },
]) {
  test.describe(timezoneId, () => {
    test.use({ timezoneId });

    test('a plan begins on the tester’s own day, and a run is dated by the tester’s clock', async ({ page, shelf }) => {
      await page.clock.setFixedTime(now);
      await page.goto('/studies/demo-pastes/plan/order');
      await expect(page.getByLabel('First day')).toHaveValue(firstDay);
      await expect(page.getByRole('list', { name: 'Days of the plan' })).toBeVisible();

      const runs = await shelf.get<Run[]>('/studies/demo-slot-lid/runs');
      const { startedAt } = runs[0]!;
      const local = new Intl.DateTimeFormat('en-GB', { timeZone: timezoneId, hour: '2-digit', minute: '2-digit' }).format(
        new Date(startedAt),
      );
      const utc = startedAt.slice(11, 16);
      await page.goto('/studies/demo-slot-lid/run');
      await expect(page.getByRole('table').first()).toContainText(local);
      expect(utc).not.toBe(local);
    });
  });
}
