import type { Page } from '@playwright/test';
import type { Run, RunLoad, Trace } from '@red-ember/contract';
import { expect, test, type Bench } from '../support/bench.ts';
import { startRun } from '../support/benchDay.ts';

/** A run under load; returns its id. */
async function underLoad(page: Page, scale: string): Promise<string> {
  await startRun(page, 'demo-repeatability', { scale });
  await expect(page.getByTestId('binding')).toBeVisible();
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Sustained write', { timeout: 60_000 });
  return page.url().split('/').at(-1)!;
}

const away = (page: Page) => page.getByText('The server does not answer.', { exact: true });

async function everySampleOnce(bench: Bench, run: Run): Promise<void> {
  const trace = await bench.get<Trace>(`/runs/${run.id}/trace?points=4000`);
  const { t, y } = trace.series.find((series) => series.key === 'tc1')!;
  expect(y).not.toContain(null); // null marks a gap
  // A longer run comes thinned, and cannot be counted this way.
  if (run.lengthS <= 4000) expect(t).toHaveLength(Math.round(run.lengthS)); // one sample a second, each exactly once
  expect(new Set(t).size).toBe(t.length);
}

test('the server is killed under load: the rig lets the load fall, nothing is lost, and it comes back only by hand', async ({
  page,
  bench,
}) => {
  const runId = await underLoad(page, '60×');
  await bench.killServer();
  await expect(away(page)).toBeVisible();
  // Longer than a lease of the load lasts.
  await new Promise((done) => setTimeout(done, 6500));
  await bench.startServer();
  await expect(away(page)).toBeHidden({ timeout: 20_000 });
  const off = page.getByRole('form', { name: 'The load is off' });
  await expect(off).toContainText(/The load went off at .*It stays off until you go on/, { timeout: 20_000 });
  expect((await bench.get<RunLoad>(`/runs/${runId}/load`)).reportedPercent).toBe(0);
  await page.reload();
  await off.getByLabel('What was it?').fill('the server was killed');
  await off.getByRole('button', { name: 'Go on' }).click();
  const phase = page.getByLabel('Phases').locator('[aria-current=step]');
  await expect(phase).toContainText('Sustained write, again');
  await expect.poll(async () => (await bench.get<RunLoad>(`/runs/${runId}/load`)).reportedPercent).toBe(100);
  // It waits until settled, up to two hours: what is looked at here was seen long before.
  await page.getByRole('button', { name: 'End this phase' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('finished', { timeout: 90_000 });

  const run = await bench.get<Run>(`/runs/${runId}`);
  expect(run.phases.map((phase) => phase.endedBy)).toEqual(['time', 'interrupted', 'resumed', 'by-hand', 'time']);
  expect(run.events.map((event) => event.text)).toContainEqual(
    expect.stringMatching(/^The load was off from .* Gone on by hand: the server was killed\.$/),
  );
  await everySampleOnce(bench, run);
});

test('a Stop that is pressed while the server is away is said loudly, and carried out when it is back', async ({ page, bench }) => {
  const runId = await underLoad(page, '60×');
  await bench.killServer();
  await expect(away(page)).toBeVisible();
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  const notYet = page.getByText('Not stopped yet: switch the machine off by hand.');
  await expect(notYet).toBeVisible({ timeout: 10_000 });
  // The watch answers before the rest of the server does, and what it says stands for some seconds only: it is looked for from the start.
  await Promise.all([
    bench.startServer(),
    expect(page.getByText('The rig confirms that its load is off')).toBeVisible({ timeout: 60_000 }),
  ]);
  await expect(notYet).toBeHidden();
  expect((await bench.get<Run>(`/runs/${runId}`)).state).toBe('stopped');
  expect(await bench.get<RunLoad>(`/runs/${runId}/load`)).toMatchObject({ off: true, reportedPercent: 0 });
});

test('a Stop that does not get through is kept over a reload', async ({ page, bench }) => {
  const runId = await underLoad(page, '60×');
  await page.route('**/stop', (route) => route.abort());
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  const notYet = page.getByText('Not stopped yet: switch the machine off by hand.');
  await expect(notYet).toBeVisible({ timeout: 10_000 });
  await page.reload();
  await expect(notYet).toBeVisible({ timeout: 10_000 });
  await page.unroute('**/stop');
  await expect(page.getByText('The rig confirms that its load is off')).toBeVisible({ timeout: 30_000 });
  expect((await bench.get<Run>(`/runs/${runId}`)).state).toBe('stopped');
});

test('a rig that dies in mid-run is missed; what was measured before is kept, and the run says that it was interrupted', async ({
  page,
  bench,
}) => {
  const runId = await underLoad(page, '60×');
  await bench.killRig();
  await expect(page.getByLabel('What qualifies this page')).toContainText('The rig is silent.', { timeout: 20_000 });
  bench.startRig();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('interrupted', { timeout: 30_000 });
  await expect(page.getByLabel('What qualifies this page')).toContainText('no longer knew the run');
  const run = await bench.get<Run>(`/runs/${runId}`);
  expect(run.phases[0]).toMatchObject({ kind: 'idle-soak', endedBy: 'time' });
  expect(run.lengthS).toBeGreaterThan(run.phases[0]!.endS!);
});

test('a bench shows that its load goes off, is copied, and brought back to what it was, from its own page', async ({ page, bench }) => {
  test.setTimeout(240_000);
  await page.goto('/bench');
  const drive = page.getByRole('region', { name: 'Simulated drive bench' });
  await expect(drive).toContainText('It never showed that its load goes off');
  await drive.getByRole('button', { name: 'Rehearse' }).click();
  await expect(drive.getByRole('button', { name: 'Break it off' })).toBeVisible();
  await expect(drive.getByRole('status')).toContainText('its load goes off.', { timeout: 60_000 });
  await expect(drive.getByRole('row', { name: /Lost server/ })).toContainText(
    /Off [45]\.\d s after nobody said the load any more, and it stayed off/,
  );
  await expect(drive.getByRole('row', { name: /Cut-out/ })).toContainText('stood above a limit');
  // Before a run the list says when that was.
  await startRun(page, 'demo-repeatability', { scale: '60×' });
  expect((await bench.get<Run>(`/runs/${page.url().split('/').at(-1)!}`)).preflight?.checks).toContainEqual({
    key: 'rehearsal',
    ok: true,
    text: expect.stringMatching(/^rehearsed today: Stop /),
  });
  // Nothing is brought back under a load.
  await page.goto('/bench');
  await page.getByRole('button', { name: 'Copy now' }).click();
  const byHand = page.getByRole('row', { name: /made by hand/ });
  await byHand.getByRole('button').click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByText('A run goes on, or a rehearsal.')).toBeVisible();
  await page.goto('/studies/demo-repeatability/run');
  await page.getByRole('link', { name: 'Watch it' }).click();
  // The keys of a run work once its page is there.
  await expect(page.getByTestId('binding')).toBeVisible();
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the load' }).click();
  await expect(page.getByText('The rig confirms that its load is off')).toBeVisible({ timeout: 30_000 });
  await page.goto('/');
  await page.getByRole('textbox', { name: 'Start a study' }).fill('Typed after the copy');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page).toHaveURL(/\/ask$/);
  await page.goto('/bench');
  await byHand.getByRole('button').click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByText(/The bench holds \d+ studies now/)).toBeVisible({ timeout: 60_000 });
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 2 }).first()).toBeVisible();
  await expect(page.getByText('Typed after the copy')).toHaveCount(0);
});
