// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { MountOfBench, PartOfBench } from '@red-ember/contract';
import { blankPart, partByItself, type FittedPartEntry } from '@red-ember/study';
import * as given from '@red-ember/testing';
import { PartsPage } from '../plan/PartsPage.tsx';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { AllMountsPage } from './AllMountsPage.tsx';
import { AllPartsPage } from '../parts/AllPartsPage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
const headed = (name: string) => screen.findByRole('heading', { level: 1, name });
const mount = (number: number, change: Partial<MountOfBench> = {}): MountOfBench => ({
  id: `m${number}`,
  studyId: 's1',
  studyTitle: 'What does a slot lid do?',
  family: 'drive',
  variantId: 'v-bare',
  variant: 'bare',
  part: 'Plover 2',
  number,
  madeAt: `2026-03-0${number}T08:00:00Z`,
  note: '',
  handsMin: 12,
  serial: '',
  by: '',
  from: '',
  skipped: 0,
  photos: 0,
  runs: 1,
  ...change,
});
const part = (name: string, change: Partial<FittedPartEntry> = {}, currency = 'EUR'): PartOfBench => ({
  part: partByItself({ ...blankPart(`p-${name}`, name), ...change }),
  currency,
  studies: [{ id: 's2', title: 'Six pastes' }],
  kept: null,
});

describe('the mounts of the bench', () => {
  it('stand in one table, the newest first, with what was noted and what was never run', async () => {
    const mounts = [mount(1), mount(2, { runs: 0, from: 'lid', handsMin: null, note: 'pads of the second box', photos: 2, skipped: 1 })];
    renderAt('/', <AllMountsPage />, new FakeServer().on('GET /mounts', mounts));
    expect(await headed('2 mounts in one study')).toBeTruthy();
    const [, first, second] = within(await screen.findByRole('table')).getAllByRole('row');
    expect(textOf(first!)).toContain('pads of the second box, 1 step left out, 2 photographs');
    expect(textOf(first!)).toContain('not taken');
    expect(textOf(second!)).toContain('nothing');
    expect(screen.getByText('1 mount without a run.')).toBeTruthy();
  });
  it('that are none say where they come from, and a fault is said', async () => {
    renderAt('/', <AllMountsPage />, new FakeServer().on('GET /mounts', []));
    expect(await headed('Nothing was mounted on this bench yet.')).toBeTruthy();
    renderAt('/', <AllMountsPage />, new FakeServer().on('GET /mounts', problem(500, 'The disk is full.')));
    expect(await screen.findByText('The disk is full.')).toBeTruthy();
  });
});

describe('the parts of the bench', () => {
  const parts = [
    part('Paste K', { kind: 'paste', price: 4, note: 'opened in May' }),
    part('Pad M', { kind: 'pad', pad: { widthMm: 68, heightMm: 20, thickMm: 1 }, price: 3 }, 'USD'),
  ];
  it('stand in one table with their studies', async () => {
    renderAt('/', <AllPartsPage />, new FakeServer().on('GET /parts', parts));
    expect(await headed('2 parts to put on')).toBeTruthy();
    const [, first, second] = within(await screen.findByRole('table')).getAllByRole('row');
    expect(textOf(first!)).toContain('cut to 68 × 20 mm, 1 mm thick');
    expect(textOf(first!)).toContain('3.00 USD');
    expect(textOf(second!)).toContain('opened in May');
    expect(screen.getAllByRole('link', { name: 'Six pastes' })[0]!.getAttribute('href')).toBe('/studies/s2/plan/parts');
  });
  it('are narrowed down to a tag, which the address keeps', async () => {
    const tagged = [part('Paste K', { tags: 'loud rig, Spare' }), part('Paste L', { tags: ' spare ,Spare' }), part('Fan')];
    renderAt('/?tag=nobody', <AllPartsPage />, new FakeServer().on('GET /parts', tagged));
    expect(await headed('3 parts to put on')).toBeTruthy();
    const tags = screen.getByLabelText<HTMLSelectElement>('Tag');
    expect([...tags.options].map(({ text }) => text)).toEqual(['any', 'loud rig', 'Spare']);
    await user.selectOptions(tags, 'loud rig');
    expect(await headed('1 part to put on, tagged loud rig')).toBeTruthy();
    await user.selectOptions(tags, 'Spare');
    expect(await headed('2 parts to put on, tagged Spare')).toBeTruthy();
    await user.selectOptions(tags, 'any');
    expect(await headed('3 parts to put on')).toBeTruthy();
  });
  it('are kept on the bench: written down, opened by the address, and asked about twice before they go', async () => {
    const server = new FakeServer().on('GET /parts', [{ ...parts[1]!, kept: { id: 'k1', version: 3, photos: [] } }]);
    renderAt('/', <AllPartsPage />, server);
    await user.click(await screen.findByRole('button', { name: 'Write a part down' }));
    const keep = await screen.findByRole('button', { name: 'Keep it on the bench' });
    await user.click(keep);
    expect(await screen.findByText('Name the part, such as comb sink.')).toBeTruthy();
    expect(server.last('POST', '/parts')).toBeUndefined();
    await user.type(screen.getByLabelText('Name'), 'Spare fan');
    // Left by Escape, it is there again.
    await user.keyboard('{Escape}');
    await user.click(await screen.findByRole('button', { name: 'Write a part down' }));
    expect((await screen.findByLabelText<HTMLInputElement>('Name')).value).toBe('Spare fan');
    server.on('POST /parts', { id: 'k2', version: 1, photos: [] });
    await user.click(screen.getByRole('button', { name: 'Keep it on the bench' }));
    await waitFor(() =>
      expect(server.last('POST', '/parts')?.body).toMatchObject({ part: { name: 'Spare fan', kind: 'cooler' }, currency: 'EUR' }),
    );
    await user.click(await screen.findByRole('link', { name: 'Pad M' }));
    expect(await screen.findByText(/None yet. Place, camera and owner/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Keep it no longer' }));
    expect(screen.getByText('The part stays in 1 study; on the bench itself what is written here is lost.')).toBeTruthy();
    server.on('DELETE /parts/k1', null);
    await user.click(screen.getByRole('button', { name: 'Remove for good' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });
  it('are opened each by itself, also where a copied study calls another size by the same id', async () => {
    const pad = (thickMm: number, study: string): PartOfBench => ({
      ...part('Pad M', { kind: 'pad', pad: { widthMm: 68, heightMm: 20, thickMm } }),
      studies: [{ id: study, title: study }],
    });
    renderAt('/', <AllPartsPage />, new FakeServer().on('GET /parts', [pad(1, 's2'), pad(2, 's3')]));
    const [, second] = await screen.findAllByRole('link', { name: 'Pad M' });
    await user.click(second!);
    expect((await screen.findByLabelText<HTMLInputElement>('Thickness')).value).toBe('2');
  });
  it('are taken into a study, without a price in another currency', async () => {
    const study = given.study();
    renderAt('/studies/s1/plan/parts', <PartsPage />, new FakeServer(study).on('GET /parts', parts).on('PUT /studies/s1', study));
    await user.click(await screen.findByRole('button', { name: 'From the bench' }));
    await user.click(await screen.findByRole('button', { name: 'Take Pad M' }));
    expect(textOf(await screen.findByText(/Pad M is taken/))).toContain('Without its price, which is in USD: this study counts in EUR.');
    // What is there already is not offered again.
    expect(screen.queryByRole('button', { name: 'Take Pad M' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Take Paste K' }));
    expect(await screen.findByText('The bench has no part that this study has not.')).toBeTruthy();
    await user.keyboard('{Escape}');
    expect((await screen.findByLabelText<HTMLInputElement>('Price of Pad M')).value).toBe('0');
    expect(screen.getByLabelText<HTMLInputElement>('Price of Paste K').value).toBe('4');
  });
});
