import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BenchScatter, Study } from '@red-ember/contract';
import { studyBody } from '@red-ember/testing';
import { madeRun, type Shown } from '../tests/madeRun.ts';
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

describe('a run that is not clean lends nothing', () => {
  // Three that were equal, a kelvin apart, and a fourth that would make 7 K of it.
  const WILD: Shown = { top: [50, 60], real: true };
  /** How many of a study's runs lend another their scatter, and what it comes to. */
  const asked = async (dirty: Partial<Shown>, spoil: (runId: string) => unknown = () => {}) => {
    const lends = await studyWith(`Lends ${++day}`, 3, { real: true });
    const study = (await bench.call('GET', `/api/v1/studies/${lends}`)).json as Study;
    await spoil(madeRun(bench, lends, study.variants[0]!.id, new Date(Date.UTC(2026, 5, ++day, 8)).toISOString(), { ...WILD, ...dirty }));
    const [scatter] = await scatterAt(await studyWith(`Asks ${++day}`, 0, { real: true }));
    // Of what else stands on this bench nothing is lent to the next.
    await bench.call('DELETE', `/api/v1/studies/${lends}`);
    return { runs: scatter!.from.find(({ studyId }) => studyId === lends)?.runs ?? 0, sd: scatter!.remounted?.sd ?? 0 };
  };

  it('counts where nothing is against it', async () => {
    const { runs, sd } = await asked({});
    expect(runs).toBe(4);
    expect(sd).toBeGreaterThan(3);
  });
  it('that was rejected', async () => {
    const { runs, sd } = await asked({}, (id) => bench.call('PUT', `/api/v1/runs/${id}/sign-off`, { disposition: 'reject', reason: 'Film left on.' })); // prettier-ignore
    expect(runs).toBe(3);
    expect(sd).toBeLessThan(2);
  });
  it.each<[string, Partial<Shown>]>([
    ['that was stopped', { made: { ended: 'stopped' } }],
    ['with a planted fault', { made: { faults: ['fan-free'] } }],
    ['with other settings', { made: { settings: { Curve: 'silent' } } }],
    ['that checked a seat', { made: { purpose: 'seat-check' } }],
    ['at a tenth more power', { more: { power: [10, 110, 132] } }],
    ['with a fan that ran faster', { more: { fan: [900, 1400, 2400] } }],
    ['of a part that was kept less busy', { more: { utilisation: [1, 60, 60] } }],
  ])('%s', async (_what, dirty) => {
    const { runs, sd } = await asked(dirty);
    expect(runs).toBe(3);
    expect(sd).toBeLessThan(2);
  });
});
