import type { Request } from '@playwright/test';
import { expect, reading, test } from '../support/bench.ts';

test.use({ measured: true });

reading('a trace is looked at closer and moved along, by buttons, keys, wheel and a drag', async ({ page }) => {
  const asked: { from: number; to: number }[] = [];
  page.on('request', (request: Request) => {
    const url = new URL(request.url());
    if (url.pathname.endsWith('/trace'))
      asked.push({ from: Number(url.searchParams.get('from') ?? 0), to: Number(url.searchParams.get('to') ?? Infinity) });
  });
  await page.goto('/studies/demo-slot-lid/read');
  const trace = page.getByRole('group', { name: /^Temperatures of run .*: arrows move it/ });
  await expect(trace).toBeVisible();
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  await expect(button('Earlier')).toBeDisabled();
  await expect(button('Whole run')).toBeDisabled();
  const last = () => asked.at(-1)!;
  const wide = () => last().to - last().from;

  await button('Closer').click();
  await expect.poll(() => Number.isFinite(last().to)).toBe(true);
  const [half, start] = [wide(), last().from];
  await button('Later').click();
  await expect.poll(() => last().from).toBeCloseTo(start + half / 4, 3);
  expect(wide()).toBeCloseTo(half, 3);

  await trace.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(button('Later')).toBeEnabled();
  await page.keyboard.press('+');
  await expect.poll(wide).toBeCloseTo(half / 2, 3);

  // With Shift a drag moves what is seen.
  const box = (await trace.boundingBox())!;
  const before = { ...last() };
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.keyboard.down('Shift');
  await page.mouse.down();
  for (let step = 1; step <= 8; step++) await page.mouse.move(box.x + box.width / 2 + 10 * step, box.y + box.height / 2);
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect.poll(() => last().from).toBeLessThan(before.from);
  expect(wide()).toBeCloseTo(half / 2, 3);

  // Without Ctrl a wheel is the page's; with it, it looks closer around the pointer.
  await page.mouse.wheel(0, 200);
  await trace.hover();
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -400);
  await page.keyboard.up('Control');
  await expect.poll(wide).toBeLessThan(half / 2.5);

  await trace.focus();
  await page.keyboard.press('0');
  await expect(button('Whole run')).toBeDisabled();
  await expect(page.getByText('Drag over the trace to look closer.')).toBeVisible();
});
