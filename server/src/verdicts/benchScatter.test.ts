import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BenchScatter, Study } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { madeRun } from '../tests/madeRun.ts';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

let day = 0;
/** A study of its own, set up on a simulated bench or not, with so many runs of its first variant that scatter by a kelvin. */
async function studyWith(title: string, runs: number, { real, setUp = !real }: { real: boolean; setUp?: boolean }): Promise<string> {
  const first = (await bench.call('GET', '/api/v1/studies')).json[0] as { id: string } | undefined;
  const made = first
    ? await bench.call('POST', `/api/v1/studies/${first.id}/copy`, { title })
    : await bench.call('POST', '/api/v1/studies', studyBody({ title }));
  const study = made.json as Study;
  const { id, version, createdAt: _c, updatedAt: _u, predictionLockedAt: _p, predictionStamps: _s, variantsWithRuns: _w, ...body } = study;
  const variants = body.variants.map((variant) => ({ ...variant, setup: setUp ? 'bare' : '' }));
  await bench.call('PUT', `/api/v1/studies/${id}`, { ...body, variants }, { 'if-match': `"${version}"` });
  for (let i = 0; i < runs; i++)
    madeRun(bench, id, study.variants[0]!.id, new Date(Date.UTC(2026, 2, ++day, 8)).toISOString(), { top: [30 + (i % 3), 40 + (i % 3)], real }); // prettier-ignore
  return id;
}
const scatterAt = async (id: string) => (await bench.call('GET', `/api/v1/studies/${id}/scatter`)).json as BenchScatter[];
const scatterOf = async (id: string) => (await scatterAt(id)).some(({ remounted }) => remounted !== null);
const sourcesOf = async (id: string) => (await scatterAt(id))[0]!.from.map(({ title, runs, variants }) => ({ title, runs, variants }));

describe('the scatter that studies lend each other', () => {
  it('stays among simulated benches, and among real ones', async () => {
    await studyWith('The demo', 4, { real: false });
    const practised = await studyWith('One more of the simulated bench', 0, { real: false });
    const planned = await studyWith('To be measured in earnest', 0, { real: true });
    const measured = await studyWith('Measured in earnest', 1, { real: true });
    expect(await scatterOf(practised)).toBe(true);
    expect(await scatterOf(planned)).toBe(false);
    expect(await scatterOf(measured)).toBe(false);
    await studyWith('The real bench', 4, { real: true });
    expect(await scatterOf(planned)).toBe(true);
    expect(await scatterOf(measured)).toBe(true);
    // Who shows it is named, and can be opened.
    expect(await sourcesOf(measured)).toEqual([{ title: 'The real bench', runs: 4, variants: 1 }]);
    expect(await sourcesOf(practised)).toEqual([{ title: 'The demo', runs: 4, variants: 1 }]);
    // Runs say more than what was meant: set up for the simulated bench, and measured on a real one.
    expect(await scatterOf(await studyWith('Set up, and then measured', 1, { real: true, setUp: true }))).toBe(true);
  });
});
