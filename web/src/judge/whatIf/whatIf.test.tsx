// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import * as made from '@red-ember/testing';
import type { SpotResponse } from '@red-ember/core';
import type { Study, VariantResponses } from '@red-ember/contract';
import { FakeServer, renderAt } from '../../tests/renderAt.tsx';
import { WhatIfPage } from './WhatIfPage.tsx';
import { textOf } from '../../tests/textOf.ts';

const user = userEvent.setup();

/** 4 K for each of 10 W, over 22 °C. */
const response = (change: Partial<SpotResponse> = {}): SpotResponse => ({
  lags: [
    { tauS: 20, gainKPerW: 1.5 },
    { tauS: 300, gainKPerW: 2.5 },
  ],
  gain: { value: 4, u: 0.02, dof: Infinity },
  rest: { value: 1, u: 0.1, dof: Infinity },
  covariance: 0,
  fan: { exponent: { value: 0.4, u: 0.23, dof: Infinity }, told: false, atRpm: 1500 },
  neighbour: null,
  power: { leastW: 1, mostW: 10, told: true },
  bend: { value: 0, u: 0, dof: Infinity },
  air: { leastC: 22, mostC: 22 },
  scatter: { sd: 0.4, dof: 10 },
  noiseK: 0.1,
  misfit: false,
  runs: 2,
  longestS: 3000,
  ...change,
});

const answer = (variantId: string, change: Partial<VariantResponses> = {}): VariantResponses => ({
  variantId,
  drivenBy: 'watts',
  standsOn: 'room',
  neighbour: false,
  airs: ['room'],
  runs: [
    { id: 'r1', number: 1 },
    { id: 'r4', number: 4 },
  ],
  leftOut: [],
  spots: [
    { spotId: 'top', response: response(), why: '', unseen: [{ id: 'r1', offK: 0.4, bandK: 1, within: 1 }, { id: 'r4', offK: -1.4, bandK: 1, within: 0.4 }] }, // prettier-ignore
    { spotId: 'under', response: response({ gain: { value: 3, u: 0.02, dof: Infinity } }), why: '', unseen: [] },
  ],
  ...change,
});

function shown(
  search = '',
  of: Partial<VariantResponses> = {},
  study: Study = made.study({ variantsWithRuns: ['bare', 'lid'] }),
): FakeServer {
  const server = new FakeServer(study);
  for (const id of ['bare', 'lid']) server.on(`GET /studies/s1/variants/${id}/responses`, answer(id, of));
  return renderAt(`/studies/s1/judge/what-if${search}`, <WhatIfPage />, server);
}
/** The sentence at the top, once it has come to say so. */
const heading = (words: string) => waitFor(() => expect(textOf(screen.getByRole('heading', { level: 1 }))).toContain(words));
const rowOf = (name: string) => screen.getByRole('button', { name }).closest('tr')!;

describe('the sheet of what-ifs', () => {
  it('begins as it ran, with what it rests on and how well it foretells', async () => {
    shown();
    await heading('As it ran, Flash, top face settles at 63.0 °C ± 1.2 K.');
    expect(screen.getByText(/1 of 2 within their 95 % band, at most 1.4 K off/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make it a variant' }).disabled).toBe(true);
  });

  it('moves every spot by a lever, says what it alone does, and goes back', async () => {
    shown();
    const air = await screen.findByLabelText('Air around it');
    fireEvent.change(air, { target: { value: '32' } });
    await heading('Flash, top face would settle at 73.0 °C');
    expect(textOf(rowOf('Flash, underside'))).toContain('63.0 °C');
    expect(textOf(rowOf('Flash, underside'))).toContain('+10.0 K');
    expect(screen.getByText('+10.0 K', { selector: 'b' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /as it ran.*Air around it/ }));
    await heading('As it ran');
  });

  it('marks a guess, and what lies beyond what was measured', async () => {
    shown('?fan=1.2&power=14');
    await heading('Beyond what was measured: ');
    expect(screen.getByText('far above any power that was measured')).toBeTruthy();
    expect(screen.getByText(/guessed/)).toBeTruthy();
    expect(textOf(rowOf('Flash, top face'))).toContain('beyond what was measured');
  });

  it('says when a limit is reached, and a layer is on the way of its own spot alone', async () => {
    shown('?power=18&at=top&layer=400,1,0.1,0.5,0.1,4');
    expect(await screen.findByText(/would reach its limit .* after the load comes on/)).toBeTruthy();
    // 0.1 mm over 400 mm² takes 0.5 K/W at 0.5 W/(m·K) and 0.0625 at 4: 18 W less of it.
    expect(screen.getByText('−7.9 K', { selector: 'b' })).toBeTruthy();
    expect(within(rowOf('Flash, underside')).queryByText('−7.9 K')).toBeNull();
  });

  it('does not say of a limit within the doubt that it is reached, nor how soon with another cooler', async () => {
    const limit = made.study({ variantsWithRuns: ['bare', 'lid'] });
    shown('', {}, { ...limit, spots: limit.spots.map((spot) => ({ ...spot, limitC: 63.5 })) });
    expect(
      await screen.findByText(/top face would probably not reach its limit; within the doubt it may, .* at the earliest/),
    ).toBeTruthy();
    cleanup();
    shown('?at=top&cooler=9,0.2', {}, limit);
    expect(await screen.findByText(/would reach its limit; how soon is not known/)).toBeTruthy();
  });

  it('stands on the air that is breathed where every run recorded it, and forgets what was asked of the other air', async () => {
    const server = shown('?air=30', { airs: ['room', 'intake'] });
    const over = await screen.findByLabelText('Rise over');
    server.on('GET /studies/s1/variants/bare/responses', answer('bare', { airs: ['room', 'intake'], standsOn: 'intake' }));
    await user.selectOptions(over, 'intake');
    expect(await screen.findByLabelText('Air that it breathes')).toBeTruthy();
    await heading('As it ran');
    expect(screen.queryByRole('button', { name: /^as it ran: Air/ })).toBeNull();
  });

  it('asks what the part beside it takes, where runs tell what its heat does, and says what would tell it where not', async () => {
    const neighbour: SpotResponse['neighbour'] = {
      tauS: 200,
      gain: { value: 0.05, u: 0.004, dof: 20 },
      covariance: { ofGain: 0, ofRest: 0 },
      leastW: 20,
      mostW: 120,
      usualW: 70,
    };
    const spots = answer('bare').spots.map((spot) => ({ ...spot, response: response({ neighbour }) }));
    shown('', { neighbour: true, spots });
    fireEvent.change(await screen.findByLabelText('Power of the part beside it'), { target: { value: '120' } });
    // 50 W more at 0.05 K/W.
    expect(await screen.findByText('+2.5 K', { selector: 'b' })).toBeTruthy();
    expect(screen.queryByText(/whose power nobody recorded/)).toBeNull();
    cleanup();
    shown('', { neighbour: true });
    expect(await screen.findByText(/A run with it at rest and one with it at work would tell/)).toBeTruthy();
    cleanup();
    shown();
    expect(await screen.findByText(/nor a part beside it whose power nobody recorded/)).toBeTruthy();
    expect(screen.queryByText(/Part beside it/)).toBeNull();
  });

  it('becomes a variant with what is expected of it, and no set-up or run of the old one', async () => {
    const server = shown('?at=top&layer=400,1,0.1,0.5,0.1,4');
    server.on('PUT /studies/s1', made.study({ version: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Make it a variant' }));
    expect(screen.getByText(/stands in the plan now/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    const sent = server.last('PUT', '/studies/s1')!.body as Study;
    const variant = sent.variants.at(-1)!;
    expect(variant).toMatchObject({ name: 'bare, layer of 0.1 mm, 4 W/(m·K)', isReference: false, setup: '' });
    expect(sent.predictions.slice(1)).toMatchObject([
      { variantId: variant.id, spotId: 'top', expectedK: -4.4 },
      { variantId: variant.id, spotId: 'under', expectedK: 0 },
    ]);
    expect(sent.predictions[1]!.plusMinusK).toBeGreaterThan(2);
  });

  it('says of a variant that cannot be fitted why, and which runs were left out', async () => {
    shown('', {
      runs: [],
      leftOut: [{ number: 3, why: 'A fault was planted in it.' }],
      spots: [{ spotId: 'top', response: null, why: 'No run of it can be used.', unseen: [] }],
    });
    expect(await screen.findByText(/Nothing of bare could be fitted: No run of it can be used\./)).toBeTruthy();
    expect(screen.getByText('A fault was planted in it.')).toBeTruthy();
  });

  it('waits for runs', async () => {
    shown('', {}, made.study({ variantsWithRuns: [] }));
    expect(await screen.findByText(/fills itself as soon as a run has ended/)).toBeTruthy();
  });
});
