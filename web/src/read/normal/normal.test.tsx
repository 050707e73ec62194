// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { controlChart, controlSentence } from '@red-ember/core';
import type { SpotControl, VariantNormal } from '@red-ember/contract';
import { FakeServer, problem, renderAt } from '../../tests/renderAt.tsx';
import { movedWords, rowsOfNormals } from './featureWords.ts';
import { NormalPage } from './NormalPage.tsx';
import { textOf } from '../../tests/textOf.ts';

const user = userEvent.setup();
beforeAll(() => vi.stubGlobal('ResizeObserver', class { observe() {} unobserve() {} disconnect() {} })); // prettier-ignore

function controlOf(spotId: string, name: string, values: readonly number[]): SpotControl {
  const chart = controlChart(values.map((value, i) => ({ id: `r${i}`, value, counts: true })));
  const { off, text } = chart ? controlSentence(chart) : { off: false, text: 'Not known yet.' };
  const runs = values.map((_, i) => ({ runId: `r${i}`, number: i + 1, at: new Date(Date.UTC(2026, 2, 1 + i)).toISOString(), mountNumber: 1, why: '' })); // prettier-ignore
  return { spotId, name, runs, chart, off, sentence: text };
}
const steady = [30, 30.2, 30.1, 30, 30.2, 30.1, 30, 30.2];
const normal = (change: Partial<VariantNormal> = {}): VariantNormal => ({
  variantId: 'bare',
  variants: [
    { id: 'bare', name: 'bare', runs: 8 },
    { id: 'lid', name: 'slot lid', runs: 2 },
  ],
  of: [1, 2, 3],
  kept: null,
  why: '',
  versions: [],
  normals: [
    { key: 'power', id: '', mean: 6.5, sd: 0.1, dof: 12, runs: 3, limit: 0.4 },
    { key: 'perWatt', id: 'top', mean: 7.154, sd: 0.1, dof: 12, runs: 3, limit: 0.55 },
  ],
  control: [controlOf('top', 'Top', steady), controlOf('under', 'Under', [...steady, 34])],
  ...change,
});
const path = '/studies/s1/read/normal';

describe('what is kept of it on the bench', () => {
  const study = { id: 'other', title: 'In spring' };
  const versions: VariantNormal['versions'] = [
    { version: 2, madeAt: '2026-05-01T10:00:00Z', study: { id: 's1', title: 'Now' }, of: [1, 2, 3], loadS: 1200, moved: [{ key: 'perWatt', of: 'Top', from: 7.1, to: 9.5 }] }, // prettier-ignore
    { version: 1, madeAt: '2026-04-01T10:00:00Z', study, of: [4, 6], loadS: 1200, moved: [] },
  ];
  it('stands in versions, each against the one before', async () => {
    renderAt(path, <NormalPage />, new FakeServer().on('GET /studies/s1/normal', normal({ versions })));
    const table = await screen.findByRole('table', { name: 'Versions of what is normal' });
    expect(within(table).getByText('Top: rise of the load, each watt 9.500 K/W, 7.100 K/W before.')).toBeTruthy();
    expect(within(table).getByText('this study')).toBeTruthy();
    expect(within(table).getByRole('link', { name: 'In spring' }).getAttribute('href')).toBe('/studies/other/read/normal');
    expect(within(table).getByText('the first')).toBeTruthy();
  });
  it('is lent to a study that has too few clean runs of its own, and said', async () => {
    const kept = { version: 1, madeAt: '2026-04-01T10:00:00Z', study };
    renderAt(path, <NormalPage />, new FakeServer().on('GET /studies/s1/normal', normal({ kept, of: [4, 6], control: [], versions: versions.slice(1) }))); // prettier-ignore
    expect(await screen.findByText(/^This study has too few clean runs of its own yet: learnt in “In spring”, of the same part and set-up. Clean runs 4 and 6/)).toBeTruthy(); // prettier-ignore
  });
  it('calls what moved by what was recorded', () => {
    const nameOf = (id: string) => id;
    expect(movedWords([{ key: 'turns', of: 'fan', from: 1, to: 0 }, { key: 'early', of: 'Top', from: 0.4, to: 0.5 }], [], nameOf)).toEqual([
      'fan: shows no speed now.',
      'Top: share of the ten-minute rise after one minute 50 %, 40 % before.',
    ]); // prettier-ignore
  });
});

describe('what is normal of a variant', () => {
  it('says what is off first, in words and as a table', async () => {
    const server = renderAt(path, <NormalPage />, new FakeServer().on('GET /studies/s1/normal', normal()));
    expect(await screen.findByRole('heading', { level: 1, name: 'bare no longer comes to what it did, at Under.' })).toBeTruthy();
    expect(screen.getByLabelText('Spot')).toHaveProperty('value', 'under');
    expect(screen.getByText(/beyond what the bench scatters by, higher/)).toBeTruthy();
    const table = screen.getByRole('table', { name: 'Repeats at Under' });
    expect(within(table).getByText(/^beyond the limits/)).toBeTruthy();
    expect(within(table).getByRole('link', { name: 'run 9' }).getAttribute('href')).toBe('/studies/s1/read?run=r8');
    await user.selectOptions(screen.getByLabelText('Spot'), 'top');
    expect(await screen.findByText('The bench is still the bench it was.')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Variant'), 'lid');
    await waitFor(() => expect(server.last('GET', '/studies/s1/normal')!.search).toBe('?variant=lid'));
  });

  it('says what is not known yet, and what went wrong', async () => {
    const none = normal({ of: [], why: 'Not known yet: it takes 2 clean runs.', normals: [], control: [] });
    renderAt(path, <NormalPage />, new FakeServer().on('GET /studies/s1/normal', none));
    expect(await screen.findByRole('heading', { level: 1, name: 'It is not known yet what is normal of bare.' })).toBeTruthy();
    expect(screen.getByText('No clean run yet.')).toBeTruthy();
    renderAt(path, <NormalPage />, new FakeServer().on('GET /studies/s1/normal', problem(500, 'Something went wrong.')));
    expect(textOf(await screen.findByRole('alert'))).toContain('Something went wrong.');
  });

  it('names a figure by what was recorded', () => {
    const nameOf = () => 'Top';
    expect(rowsOfNormals(normal().normals, nameOf)).toEqual([
      { of: 'Part', label: 'Power under load', normal: '6.5 W', within: '± 0.4', runs: 3 },
      { of: 'Top', label: 'Rise of the load, each watt', normal: '7.154 K/W', within: '± 0.550', runs: 3 },
    ]);
    const [, rise] = normal().normals;
    expect(rowsOfNormals([{ ...rise!, mean: 40 }], nameOf)[0]).toMatchObject({ label: 'Rise of the load', normal: '40.0 K' });
    expect(rowsOfNormals([{ ...rise!, key: 'turns' }], nameOf)).toEqual([]);
  });
});
