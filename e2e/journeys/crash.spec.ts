import type { Run, Trace } from '@red-ember/contract';
import { expect, test } from '../support/bench.ts';
import { startRun } from '../support/benchDay.ts';

test('the server is killed in mid-run and started again: nothing is lost and the run goes on', async ({ page, bench }) => {
  await startRun(page, 'demo-repeatability', { scale: '60×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  const runId = page.url().split('/').at(-1)!;
  await expect(page.getByLabel('Phases').locator('[aria-current=step]')).toContainText('Sustained write', { timeout: 30_000 });

  await bench.killServer();
  await expect(page.getByText('The server does not answer.')).toBeVisible();
  await bench.startServer();
  await expect(page.getByText('The server does not answer.')).toBeHidden({ timeout: 20_000 });
  await page.reload();
  await expect(page.getByTestId('binding')).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('finished', { timeout: 90_000 });

  const run = await bench.get<Run>(`/runs/${runId}`);
  expect(run.phases.map((phase) => phase.endedBy)).toEqual(['time', 'settled', 'time']);
  // On a slow machine the server is away for longer than the rig waits: then it rightly removes the load, and gets it back.
  expect(run.events.map((event) => event.text)).toContainEqual(
    expect.stringMatching(/^The rig is back; (nothing was lost|the load had been removed and is applied again)\.$/),
  );
  const trace = await bench.get<Trace>(`/runs/${runId}/trace?points=4000`);
  const { t, y } = trace.series.find((series) => series.key === 'tc1')!;
  expect(y).not.toContain(null); // null marks a gap
  expect(t).toHaveLength(Math.round(run.lengthS)); // one sample a second, each exactly once
  expect(new Set(t).size).toBe(t.length);
});

test('a rig that dies in mid-run is missed, and says so', async ({ page, bench }) => {
  await startRun(page, 'demo-repeatability', { scale: '10×' });
  await expect(page.getByTestId('binding')).toBeVisible();
  await bench.killRig();
  await expect(page.getByLabel('What qualifies this page')).toContainText('The rig is silent.', { timeout: 20_000 });
  bench.startRig();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('failed', { timeout: 20_000 });
  await expect(page.getByLabel('What qualifies this page')).toContainText('no longer knew the run');
});
