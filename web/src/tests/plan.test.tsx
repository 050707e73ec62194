// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { orderRuns, type OrderInput } from '@red-ember/core';
import { type BenchScatter, type FactorBody, type Study } from '@red-ember/contract';
import { blankPlan } from '@red-ember/study';
import { FactorsPage } from '../plan/FactorsPage.tsx';
import { MountPage } from '../mount/MountPage.tsx';
import { OrderPage } from '../plan/OrderPage.tsx';
import { PlanPage } from '../plan/PlanPage.tsx';
import { RunsPage } from '../run/record/RunsPage.tsx';
import * as made from '@red-ember/testing';
import { FakeServer, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
const margin = () => screen.getByLabelText('What qualifies this page');
const saving = (server: FakeServer) =>
  server.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
const saved = async (server: FakeServer): Promise<Study> => {
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
  return server.last('PUT', '/studies/s1')!.body as Study;
};
const FACTORS: FactorBody[] = [
  { name: 'Pad', levels: ['P6', 'P12'], changeMin: 15 },
  { name: 'Fan', levels: ['off', 'on'], changeMin: 2 },
];

describe('Factors', () => {
  it('grow into variants, without what cannot be had', async () => {
    const server = saving(new FakeServer(made.study({ variants: [], factors: FACTORS, rules: { ...made.study().rules, ladder: 'full' } })));
    renderAt('/studies/s1/plan/factors', <FactorsPage />, server);
    await user.click(await screen.findByRole('button', { name: 'Strike out a combination' }));
    await user.selectOptions(screen.getByLabelText('Second level of rule 1'), 'Fan: off');
    await user.type(screen.getByLabelText('Reason of rule 1'), 'too thin without air');
    const list = screen.getByRole('list', { name: 'Combinations' });
    expect(within(list).getByText('too thin without air')).toBeTruthy();
    await user.click(within(list).getByRole('checkbox', { name: 'P12, on' }));
    await user.click(screen.getByRole('button', { name: 'Make 2 variants' }));
    expect(screen.getByRole('button', { name: 'Nothing to add' })).toBeTruthy();
    const body = await saved(server);
    expect(body.variants.map((variant) => [variant.name, variant.isReference])).toEqual([
      ['P6, on', true],
      ['P12, off', false],
    ]);
    expect(body.impossible).toHaveLength(1);
  });
  it('say what always changes together', async () => {
    const at = (levels: [string, string]) => FACTORS.map((factor, i) => ({ factor: factor.name, level: levels[i]! }));
    const [bare, lid] = made.study().variants;
    const variants = [
      { ...bare!, levels: at(['P6', 'off']) },
      { ...lid!, levels: at(['P12', 'on']) },
    ];
    renderAt('/studies/s1/plan/factors', <FactorsPage />, new FakeServer(made.study({ factors: FACTORS, variants })));
    expect(await screen.findByText(/always change together/)).toBeTruthy();
    expect(textOf(margin())).toContain('Pad and Fan');
  });
  it('take levels when the field is left, and refuse one alone in words', async () => {
    renderAt('/studies/s1/plan/factors', <FactorsPage />);
    await user.click(await screen.findByRole('button', { name: 'Add a factor' }));
    const levels = screen.getByLabelText('Levels of Cooler');
    await user.clear(levels);
    await user.type(levels, 'stock, tower , , duct');
    await user.tab();
    expect((levels as HTMLInputElement).value).toBe('stock, tower, duct');
    await user.clear(levels);
    await user.type(levels, 'stock');
    await user.tab();
    expect(screen.getByText('With fewer than two levels nothing changes.')).toBeTruthy();
    expect(screen.queryByRole('list', { name: 'Combinations' })).toBeNull();
  });
});

describe('A factor’s name', () => {
  const named = (name: string) => screen.getByLabelText(name) as HTMLInputElement;
  const withLevels = () => {
    const at = (pad: string, fan: string) => [
      { factor: 'Pad', level: pad },
      { factor: 'Fan', level: fan },
    ];
    const [bare, lid] = made.study().variants;
    return made.study({
      factors: FACTORS,
      variants: [
        { ...bare!, levels: at('P6', 'off') },
        { ...lid!, levels: at('P12', 'on') },
      ],
    });
  };
  it('that is another one’s for a moment, while it is typed, mixes nothing up', async () => {
    const server = saving(new FakeServer(withLevels()));
    renderAt('/studies/s1/plan/factors', <FactorsPage />, server);
    await screen.findByLabelText('Factor 1');
    await user.clear(named('Factor 1'));
    await user.type(named('Factor 1'), 'Fans in front');
    await user.tab();
    const body = await saved(server);
    expect(body.variants.map((variant) => variant.levels)).toEqual([
      [
        { factor: 'Fans in front', level: 'P6' },
        { factor: 'Fan', level: 'off' },
      ],
      [
        { factor: 'Fans in front', level: 'P12' },
        { factor: 'Fan', level: 'on' },
      ],
    ]);
  });
  it('is saved with the keys also while its field is still in hand', async () => {
    const server = saving(new FakeServer(withLevels()));
    renderAt('/studies/s1/plan/factors', <FactorsPage />, server);
    await screen.findByLabelText('Factor 1');
    await user.type(named('Factor 1'), ' kind');
    await user.keyboard('{Control>}s{/Control}');
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect((server.last('PUT', '/studies/s1')!.body as Study).factors[0]!.name).toBe('Pad kind');
    expect(document.activeElement).toBe(named('Factor 1'));
  });
  it('that stays another one’s is not taken, and says so', async () => {
    renderAt('/studies/s1/plan/factors', <FactorsPage />, new FakeServer(withLevels()));
    await screen.findByLabelText('Factor 1');
    await user.clear(named('Factor 1'));
    await user.type(named('Factor 1'), 'Fan');
    await user.tab();
    expect(screen.getByText('Another factor has this name, so it is not taken.')).toBeTruthy();
    expect(named('Factor 1').value).toBe('Fan');
    expect(screen.getByLabelText('Levels of Pad')).toBeTruthy();
    await user.type(named('Factor 1'), ' duct');
    await user.tab();
    expect(screen.getByLabelText('Levels of Fan duct')).toBeTruthy();
  });
  it('is not asked for twice in a rule', async () => {
    renderAt('/studies/s1/plan/factors', <FactorsPage />, new FakeServer(withLevels()));
    await user.click(await screen.findByRole('button', { name: 'Strike out a combination' }));
    const options = within(screen.getByLabelText('Second level of rule 1')).getAllByRole('option');
    expect(options.map((option) => option.textContent)).toEqual(['Fan: off', 'Fan: on']);
  });
});

/** Answers as the worker would, in the page itself: happy-dom has none. */
class WorkerHere {
  onmessage: ((message: { data: unknown }) => void) | null = null;
  onerror: unknown = null;
  postMessage(input: OrderInput) {
    queueMicrotask(() => this.onmessage?.({ data: { order: orderRuns(input) } }));
  }
  terminate() {
    this.onmessage = null;
  }
}

describe('Order', () => {
  beforeEach(() => {
    vi.stubGlobal('Worker', WorkerHere);
  });
  it('prices repeats by what the bench itself scatters', async () => {
    const from = ['Cold lid', 'Warm lid', 'Old lid', 'New lid'].map((title, i) => ({
      studyId: `s${i + 2}`,
      title,
      runs: 4 - i,
      variants: 1,
    }));
    const scatter: BenchScatter[] = [{ componentClass: 'flash', untouched: { sd: 0.2, dof: 6 }, remounted: { sd: 0.5, dof: 4 }, from }];
    renderAt('/studies/s1/plan/order', <OrderPage />, new FakeServer().on('GET /studies/s1/scatter', scatter));
    const row = (await screen.findByText(/flash, from this bench, 4 degrees of freedom/)).closest('tr')!;
    expect(textOf(row)).toContain('0.50 K');
    const other = screen.getByText(/flash, from this bench, 6 degrees of freedom/).closest('tr')!;
    // Less scatter, fewer runs.
    // And who says so.
    expect(screen.getByRole('link', { name: '“Cold lid”' }).getAttribute('href')).toBe('/studies/s2/read/normal');
    expect(textOf(screen.getByText(/Refitting as/))).toBe(
      'Refitting as “Cold lid” (4 runs), “Warm lid” (3 runs), “Old lid” (2 runs) and 1 more show it.',
    );
    const runs = (line: Element) => Number(line.querySelectorAll('td')[2]!.textContent);
    expect(runs(other)).toBeLessThan(runs(row));
  });
  it('shows neither a history nor an hour before the bench has told them', async () => {
    const never = new Promise<never>(() => undefined);
    const server = new FakeServer().on('GET /studies/s1/scatter', () => never).on('GET /studies/s1/settled-loads', () => never);
    renderAt('/studies/s1/plan/order', <OrderPage />, server);
    expect(textOf(await screen.findByRole('heading', { level: 1 }))).toMatch(/runs?\.$/);
    expect(textOf(document.body)).not.toContain('no history yet');
    expect(textOf(document.body)).not.toContain('at the bench.');
    expect(screen.queryByRole('button', { name: /calendar/i })).toBeNull();
    expect(await screen.findAllByText(/Looking/)).not.toEqual([]);
  });
  it('says that a scatter is assumed where there is no history', async () => {
    renderAt('/studies/s1/plan/order', <OrderPage />);
    expect(await screen.findAllByText('assumed: this bench has no history yet')).toHaveLength(2);
  });
  it('takes an order over, and says when it no longer holds', async () => {
    const server = saving(new FakeServer());
    renderAt('/studies/s1/plan/order', <OrderPage />, server);
    await screen.findByText('Saves nothing here: the balanced order refits no more.');
    await user.click(screen.getAllByRole('button', { name: 'Take this order' })[0]!);
    expect(screen.getByRole('button', { name: 'Taken' })).toBeTruthy();
    await user.clear(screen.getByLabelText('slot lid'));
    await user.type(screen.getByLabelText('slot lid'), '3');
    expect(screen.getByText(/number of runs has changed since an order was taken/)).toBeTruthy();
    const body = await saved(server);
    expect([...body.plan.order].sort()).toEqual(['bare', 'bare', 'lid', 'lid']);
    expect(body.variants[1]!.repeats).toBe(3);
  });
  it('lays the runs into days, and says what is too long for a day', async () => {
    const plan = { ...blankPlan(), startOn: '2026-03-07', weekdays: [1, 2, 3, 4, 5] };
    renderAt('/studies/s1/plan/order', <OrderPage />, new FakeServer(made.study({ plan })));
    const days = await screen.findByRole('list', { name: 'Days of the plan' });
    // The seventh is a Saturday.
    expect(within(days).getByText('Monday 9 March')).toBeTruthy();
    await user.clear(screen.getByLabelText('Cure or bed-in'));
    // Half-typed numbers leave the calendar standing.
    expect(within(days).getByText('Monday 9 March')).toBeTruthy();
    const mounting = screen.getByLabelText('To mount anything');
    await user.clear(mounting);
    await user.type(mounting, '300');
    expect(await screen.findByText('A refit takes 300 min, longer than any stretch of the working day (255 min).')).toBeTruthy();
  });
  it('says when an order breaks what comes first, and starts anew when that is chosen', async () => {
    const plan = { ...blankPlan(), school: 'own' as const, order: ['lid', 'bare', 'bare', 'lid'], firstVariantId: 'bare' };
    renderAt('/studies/s1/plan/order', <OrderPage />, new FakeServer(made.study({ plan })));
    expect(await screen.findByText('This order breaks what always comes first or last.')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Always last'), 'slot lid');
    expect(screen.queryByText('This order breaks what always comes first or last.')).toBeNull();
    const rows = within(screen.getByRole('list', { name: 'Order of runs' })).getAllByRole('listitem');
    expect(rows.map((row) => row.textContent!.match(/bare|slot lid/)![0])).toEqual(['bare', 'bare', 'slot lid', 'slot lid']);
  });
  it('lets nobody leave a run whose readings are typed in', async () => {
    const [top, under] = made.study().spots;
    const plan = { ...blankPlan(), unattended: true };
    const study = made.study({ plan, spots: [{ ...top!, byHand: true }, under!] });
    renderAt('/studies/s1/plan/order', <OrderPage />, new FakeServer(study));
    const box = (await screen.findByLabelText('Somebody stays with every run: some spots are read by hand')) as HTMLInputElement;
    expect([box.checked, box.disabled]).toEqual([false, true]);
  });
  it('asks for variants first', async () => {
    renderAt('/studies/s1/plan/order', <OrderPage />, new FakeServer(made.study({ variants: [] })));
    expect(await screen.findByText(/Write down what is compared first/)).toBeTruthy();
  });
});

describe('a variant with runs', () => {
  it('is retired, not removed; nothing more is mounted or started of it, until it is taken up again', async () => {
    const study = { ...made.study(), variantsWithRuns: ['lid'] };
    const server = saving(new FakeServer(study));
    renderAt('/studies/s1/plan', <PlanPage />, server);
    expect(await screen.findByRole('button', { name: 'Remove bare' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Remove slot lid' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Retire slot lid' }));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect((server.last('PUT', '/studies/s1')!.body as Study).variants).toMatchObject([{}, { id: 'lid', retired: true }]);
    const retired = { ...study, variants: study.variants.map((variant) => ({ ...variant, retired: variant.id === 'lid' })) };
    renderAt('/studies/s1/plan', <PlanPage />, new FakeServer(retired));
    expect(await screen.findByRole('button', { name: 'Take up again slot lid' })).toBeTruthy();
    renderAt('/studies/s1/mount', <MountPage />, new FakeServer(retired));
    expect(await screen.findByRole('radio', { name: /^bare/ })).toBeTruthy();
    expect(screen.queryByRole('radio', { name: /^slot lid/ })).toBeNull();
    const none = { ...study, variants: study.variants.map((variant) => ({ ...variant, retired: true })) };
    renderAt('/studies/s1/mount', <MountPage />, new FakeServer(none));
    expect(await screen.findByText(/Every variant is retired/)).toBeTruthy();
    renderAt('/studies/s1/run', <RunsPage />, new FakeServer(none));
    expect(await screen.findByText(/Every variant that was mounted is retired/)).toBeTruthy();
  });
});
