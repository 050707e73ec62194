// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { type MountBody, type Study } from '@red-ember/contract';
import { blankPart, blankStep, startMap } from '@red-ember/study';
import { loadCards, storeCards } from '../mount/cardSlice.ts';
import { MountPage } from '../mount/MountPage.tsx';
import { PadsPage } from '../mount/PadsPage.tsx';
import { PaperPage } from '../mount/paper/PaperPage.tsx';
import { inRanges } from '../parts/partWords.ts';
import { StepsPage } from '../mount/StepsPage.tsx';
import { PartsPage } from '../plan/PartsPage.tsx';
import { PlanPage } from '../plan/PlanPage.tsx';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
const margin = () => screen.getByLabelText('What qualifies this page');
afterEach(() => localStorage.clear());

const level = (factor: string, name: string) => ({ level: { factor, level: name } });
/** A cooler over a paste: two variants that differ in the paste alone. */
function pastes(change: Partial<Study> = {}): Study {
  const [bare, lid] = made.study().variants;
  const at = (paste: string) => [
    { factor: 'Cooler', level: 'low' },
    { factor: 'Paste', level: paste },
  ];
  return made.study({
    family: 'card',
    variants: [
      { ...bare!, name: 'paste K', levels: at('K'), repeats: 1 },
      { ...lid!, name: 'paste L', levels: at('L'), repeats: 1 },
    ],
    factors: [
      { name: 'Cooler', levels: ['low', 'tall'], changeMin: 20 },
      { name: 'Paste', levels: ['K', 'L'], changeMin: 12, under: 'Cooler', renew: true },
    ],
    plan: { ...made.study().plan, firstVariantId: 'bare' },
    parts: [
      {
        ...blankPart('k', 'tube K'),
        ...level('Paste', 'K'),
        kind: 'paste',
        reusable: false,
        price: 2,
        paste: { areaMm2: 500, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3, heatW: 22 },
      },
      {
        ...blankPart('l', 'tube L'),
        ...level('Paste', 'L'),
        kind: 'paste',
        reusable: false,
        price: 4,
        conductive: true,
        paste: { areaMm2: 500, bondLineMm: 0.02, densityGPerCm3: 6, remover: 'isopropanol', dryMin: 3 },
      },
      { ...blankPart('c', 'low cooler'), ...level('Cooler', 'low'), kind: 'cooler', price: 30, weightG: 400, noiseDb: 25 },
    ],
    steps: [
      { ...blankStep('lift', 'off', 'Lift the cooler'), ...level('Cooler', 'low'), caution: 'springs' },
      { ...blankStep('wipe', 'off', 'Wipe K off'), ...level('Paste', 'K'), waitMin: 3 },
      { ...blankStep('spread', 'on', 'Spread L'), ...level('Paste', 'L') },
      { ...blankStep('set', 'on', 'Set the cooler'), ...level('Cooler', 'low'), header: 'FAN 1', follows: 'chip' },
    ],
    ...change,
  });
}

describe('A mount card', () => {
  const shown = async () => {
    const server = new FakeServer(pastes()).on('GET /studies/s1/mounts', [made.mount('m1', 'bare')]).on('GET /studies/s1/runs', []);
    renderAt('/studies/s1/mount', <MountPage />, server);
    const list = await screen.findByRole('list', { name: 'Steps' });
    return { server, list, tick: (name: string) => within(list).getByRole('checkbox', { name }) as HTMLInputElement };
  };

  it('shows what differs, blocks a step until its caution is confirmed, and sends what was done', async () => {
    const { server, list, tick } = await shown();
    expect(screen.getByText(/Changes: Paste, K to L\. Cooler comes off to reach it, and back on\./)).toBeTruthy();
    expect(
      within(list)
        .getAllByRole('listitem')
        .filter((item) => item.textContent!.includes('leave out')),
    ).toHaveLength(4);
    expect(screen.getByText(/tube L, 20 mm³ \(0\.12 g\) on 500 mm²/)).toBeTruthy();
    expect(textOf(list)).toContain('FAN 1');
    expect(tick('Lift the cooler').disabled).toBe(true);
    for (const box of screen.getAllByRole('checkbox')) if (!(box as HTMLInputElement).disabled) await user.click(box);
    expect(tick('Lift the cooler').checked).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Leave out: Set the cooler' }));
    const mounted = screen.getByRole('button', { name: 'paste L is mounted' }) as HTMLButtonElement;
    server.on('POST /studies/s1/mounts', problem(422, 'One step is neither done nor left out.'));
    expect(mounted.disabled).toBe(false);
    await user.type(screen.getByLabelText(/Your initials/), 'j.d');
    await user.click(mounted);
    expect(textOf(await screen.findByRole('alert'))).toContain('One step is neither');
    const body = server.last('POST', '/studies/s1/mounts')!.body as MountBody;
    expect(body).toMatchObject({ variantId: 'lid', skipped: ['set'], by: 'JD' });
    expect([...body.done!].sort()).toEqual(['lift', 'spread', 'wipe']);
    // What conducts is checked at the last step, where no step said so itself.
    expect(body.confirmed).toEqual(expect.arrayContaining(['power', 'springs', 'conductive']));
    expect(Date.parse(body.startedAt!)).toBeLessThanOrEqual(Date.now());
  });

  it('starts the clock of a waiting step with its tick', async () => {
    const { list, tick } = await shown();
    expect(within(list).getByText(/Then wait 3 min/)).toBeTruthy();
    await user.click(tick('Wipe K off'));
    expect(textOf(within(list).getByRole('timer'))).toMatch(/^(3:00|2:5\d) to wait$/);
  });

  it('keeps its ticks in the browser, and takes broken ones for none', async () => {
    const { tick } = await shown();
    await user.click(tick('Wipe K off'));
    await waitFor(() => expect(Object.keys(loadCards(localStorage).s1!.done)).toEqual(['wipe']));
    expect(loadCards({ getItem: () => '{"s1":{"note":"x"}}' }).s1).toMatchObject({ note: 'x', confirmed: [], done: {} });
    expect(loadCards({ getItem: () => 'no json' })).toEqual({});
    let kept = '';
    storeCards({ setItem: (_key, value) => void (kept = value) }, {});
    expect(kept).toBe('{}');
  });

  it('of another variant may be looked at without being chosen, and without losing a tick', async () => {
    const { tick } = await shown();
    await user.click(tick('Wipe K off'));
    const kept = () => loadCards(localStorage).s1!;
    await waitFor(() => expect(Object.keys(kept().done)).toEqual(['wipe']));
    const chosen = kept().toId;
    const [other, own] = (screen.getAllByRole('radio') as HTMLInputElement[]).sort((p, q) => Number(p.checked) - Number(q.checked));
    await user.click(other!);
    expect(kept()).toMatchObject({ toId: chosen });
    expect(Object.keys(kept().done)).toEqual(['wipe']);
    await user.click(own!);
    expect(
      (within(await screen.findByRole('list', { name: 'Steps' })).getByRole('checkbox', { name: 'Wipe K off' }) as HTMLInputElement)
        .checked,
    ).toBe(true);
  });

  it('says why there is none where two factors lie under each other', async () => {
    const study = pastes();
    const round = study.factors.map((factor) => ({ ...factor, under: factor.name === 'Paste' ? 'Cooler' : 'Paste' }));
    renderAt('/studies/s1/mount', <MountPage />, new FakeServer({ ...study, factors: round }));
    expect(textOf(await screen.findByRole('alert'))).toContain('lies under');
  });
});

describe('The seat', () => {
  it('names the spot that is off, by how much, and the likely causes', async () => {
    const spot = { gainK: 39, expectedK: 30, differenceK: 9, doubtK: 3.4, verdict: 'hotter' as const };
    const check = {
      earlier: 3,
      equalPower: true,
      verdict: 'hotter' as const,
      spots: [{ ...spot, spotId: 'top' }],
      worst: { ...spot, spotId: 'top' },
      causes: ['contact' as const, 'fan' as const],
    };
    const server = new FakeServer().on('GET /mounts/m-lid/seat', { mountId: 'm-lid', runId: 'r', atMin: 3, check, sentence: '' });
    renderAt('/studies/s1/mount', <MountPage />, server);
    expect(await screen.findByText('Flash, top face: 9.0 K above expected at equal power.')).toBeTruthy();
    expect(textOf(within(screen.getByRole('list', { name: 'Likely causes' })).getAllByRole('listitem')[0]!)).toContain('film');
    server.on('POST /studies/s1/runs', problem(409, 'The rig is busy with another run.'));
    await user.click(screen.getByRole('button', { name: /Check the seat/ }));
    await waitFor(() => expect(server.last('POST', '/studies/s1/runs')!.body).toMatchObject({ mountId: 'm-lid', purpose: 'seat-check' }));
  });

  it('is checked with a fault that is planted, on a simulated bench', async () => {
    const server = new FakeServer().on('POST /studies/s1/runs', problem(409, 'The rig is busy with another run.'));
    renderAt('/studies/s1/mount', <MountPage />, server);
    await user.click(await screen.findByRole('button', { name: 'Plant a fault to learn on' }));
    const fault = (await screen.findAllByRole('checkbox', { name: /film/ })).at(-1)!;
    await user.click(fault);
    await user.click(screen.getByRole('button', { name: 'Done' }));
    await user.click(screen.getByRole('button', { name: /Check the seat/ }));
    await waitFor(() => expect(server.last('POST', '/studies/s1/runs')!.body).toMatchObject({ faults: [expect.stringContaining('film')] }));
  });
});

describe('Photographs', () => {
  it('are attached, shown, and removed for good only after asking', async () => {
    const photo = { id: 'p1', mountId: 'm-lid', name: 'pads.jpg', widthPx: 800, heightPx: 600, madeAt: '2026-03-02T09:00:00Z' };
    const server = new FakeServer().on('GET /studies/s1/mounts', [
      made.mount('m-bare', 'bare'),
      { ...made.mount('m-lid', 'lid'), photos: [photo] },
    ]);
    renderAt('/studies/s1/mount', <MountPage />, server);
    await user.click(await screen.findByRole('button', { name: 'Show pads.jpg' }));
    server.on('DELETE /mount-photos/p1', null);
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Remove for good' }));
    await waitFor(() => expect(server.last('DELETE', '/mount-photos/p1')).toBeTruthy());
    server.on('POST /mounts/m-lid/photos', problem(422, 'This is no photograph, or it is broken: PNG, JPEG and WebP can be attached.'));
    await user.upload(screen.getByLabelText('Photograph of this mount'), new File(['x'], 'x.png', { type: 'image/png' }));
    expect(textOf(await screen.findByText(/This is no photograph/))).toBeTruthy();
  });
});

describe('Steps, parts and pads', () => {
  const saved = async (server: FakeServer): Promise<Study> => {
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    return server.last('PUT', '/studies/s1')!.body as Study;
  };
  const saving = (study: Study) =>
    new FakeServer(study).on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...study, ...body, version: 5 }));

  it('are written, moved and given to a level', async () => {
    const server = saving(pastes());
    renderAt('/studies/s1/mount/steps', <StepsPage />, server);
    await user.click((await screen.findAllByRole('button', { name: 'Add a step' }))[0]!);
    const text = screen.getByLabelText('Step 5');
    await user.clear(text);
    await user.type(text, 'Wipe L off');
    await user.selectOptions(screen.getByLabelText('Step 5 belongs to'), 'Paste: L');
    await user.selectOptions(screen.getByLabelText('Caution at step 5'), 'solvent');
    await user.click(screen.getByRole('button', { name: 'Move step 5 up' }));
    const { steps } = await saved(server);
    expect(steps.map((step) => step.text)).toEqual(['Lift the cooler', 'Wipe L off', 'Wipe K off', 'Spread L', 'Set the cooler']);
    expect(steps[1]).toMatchObject({ when: 'off', caution: 'solvent', level: { factor: 'Paste', level: 'L' } });
  });

  it('say what the plan needs, what it costs, and stay alive while a price is half typed', async () => {
    const server = saving(pastes());
    renderAt('/studies/s1/plan/parts', <PartsPage />, server);
    const needs = (await screen.findByText('What the plan needs')).closest('section')!;
    const row = (name: string) => within(needs).getByRole('row', { name: new RegExp(name) }).textContent!;
    // One mount and one spare of each paste: 2 × 0.1 g at 2 a gram, 2 × 0.12 g at 4 a gram.
    expect(row('tube K')).toContain('0.40 EUR');
    expect(row('tube L')).toContain('0.96 EUR');
    expect(row('In all')).toContain('31.36 EUR');
    const price = screen.getByLabelText('Price of low cooler');
    await user.clear(price);
    await user.type(price, '-');
    expect(textOf(within(needs).getByRole('alert'))).toContain('must be a finite number');
    await user.clear(price);
    await user.type(price, '50');
    expect(row('In all')).toContain('51.36 EUR');
    await user.click(screen.getByRole('button', { name: /20 mm³/ }));
    const heat = screen.getByLabelText('Heat through it');
    await user.type(heat, '-');
    expect(row('In all')).toContain('51.36 EUR');
    await user.clear(heat);
    const line = screen.getByLabelText('Bond line');
    await user.clear(line);
    expect(textOf(margin())).toContain('paste L: 50.00');
    await user.type(line, '0.02');
    expect(textOf(margin())).toContain('paste L: 50.48');
    await user.selectOptions(screen.getByLabelText('Kind of low cooler'), 'pad');
    expect((await saved(server)).parts[2]).toMatchObject({ kind: 'pad', reusable: false, price: 50, pad: { thickMm: 1 } });
  });

  it('names what does not fit before anything is opened', async () => {
    const map = {
      ...startMap('card'),
      covers: [
        {
          id: 'sink',
          name: 'low cooler',
          face: 'top' as const,
          xMm: 60,
          yMm: 5,
          widthMm: 200,
          heightMm: 60,
          undersideMm: 5,
          gapToleranceMm: 0,
          topMm: 30,
        },
      ],
    };
    const zones = [{ id: 'z', name: 'next card', face: 'top' as const, xMm: 0, yMm: 0, widthMm: 240, heightMm: 105, clearMm: 25 }];
    const study = pastes({ subjects: [{ id: 'part-1', name: 'Card', details: '', drive: null, map: { ...map, zones } }] });
    renderAt(
      '/studies/s1/plan/parts',
      <PartsPage />,
      new FakeServer({
        ...study,
        parts: study.parts.map((part) => (part.id === 'c' ? { ...part, coverId: 'sink', weightG: 1100 } : part)),
      }),
    );
    const fit = (await screen.findByText('Does it fit?')).closest('section')!;
    expect(within(fit).getAllByText(/does not fit/)).toHaveLength(2);
    expect(textOf(fit)).toContain('low cooler stands 5.0 mm too high for next card.');
    expect(textOf(fit)).toContain('reaches 20.0 mm over the edge');
    expect(textOf(fit)).toContain('weighs 1100 g: support it');
  });

  it('finds the pad that serves all under a sink, and says how well the part tells pastes apart', async () => {
    const map = {
      ...startMap('regulator'),
      covers: [
        {
          id: 'side',
          name: 'side sink',
          face: 'top' as const,
          xMm: 8,
          yMm: 24,
          widthMm: 14,
          heightMm: 88,
          undersideMm: 2.2,
          gapToleranceMm: 0.1,
        },
      ],
    };
    renderAt(
      '/studies/s1/mount/pads',
      <PadsPage />,
      new FakeServer(pastes({ subjects: [{ id: 'part-1', name: 'Board', details: '', drive: null, map }] })),
    );
    expect(await screen.findByText(/1\.5 mm serves every part under it/)).toBeTruthy();
    expect(screen.getByRole('img', { name: 'Cross-section under side sink with pads of 1.5 mm' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: /^1\smm$/ }));
    expect(textOf(screen.getByRole('img', { name: 'Cross-section under side sink with pads of 1 mm' }))).toContain('no touch');
    expect(screen.getByText(/22 W through 500 mm²/)).toBeTruthy();
  });

  it('draws names that count on together', () => {
    expect(inRanges(['Memory 1', 'Memory 2', 'Memory 3', 'Hub', 'Stage 4', 'Stage 6'])).toBe('Memory 1 to 3, Hub, Stage 4, Stage 6');
  });
});

describe('The card on paper', () => {
  const printed = () => screen.findByRole('region', { name: 'Mount card' });
  it('has every caution, part and step of the card, boxes for a pen, and no control', async () => {
    renderAt('/studies/s1/mount', <MountPage />, new FakeServer(pastes()));
    const steps = within(await screen.findByRole('list', { name: 'Steps' }));
    const onScreen = steps.getAllByRole('listitem').length;
    const cautions = screen.getAllByRole('checkbox').length;
    cleanup();
    renderAt('/studies/s1/mount/paper', <PaperPage />, new FakeServer(pastes()));
    const paper = within(await printed());
    expect(within(paper.getByRole('list', { name: 'Steps' })).getAllByRole('listitem')).toHaveLength(onScreen);
    expect(onScreen).toBeGreaterThan(1);
    // One box a caution and one a step on the screen; on paper one a part as well.
    expect(cautions).toBeGreaterThan(0);
    expect(paper.queryByRole('checkbox')).toBeNull();
    expect(paper.getByText(/tube K/)).toBeTruthy();
    const labels = within(screen.getByRole('region', { name: 'Labels' }));
    expect(labels.getAllByRole('listitem').map((label) => label.querySelector('p')!.textContent)).toEqual(['tube K', 'low cooler']);
    // Nothing reaches this bench in a test: no code is printed that opens nothing.
    expect(screen.queryByTitle(/Code of/)).toBeNull();
    expect(screen.getByText(/no phone reaches this bench/)).toBeTruthy();
  });

  it('is that of the variant that is chosen, which the address keeps, and marks what conducts', async () => {
    renderAt('/studies/s1/mount/paper', <PaperPage />, new FakeServer(pastes()));
    await printed();
    await user.selectOptions(screen.getByLabelText('Variant'), 'paste L');
    expect(textOf(screen.getByRole('heading', { level: 1 }))).toBe('Mount card: paste L');
    expect(screen.getByText('Conducts electricity')).toBeTruthy();
  });

  it('carries codes where a phone reaches the bench: of the card, and on each label of the parts', async () => {
    renderAt('/studies/s1/mount/paper', <PaperPage />, new FakeServer(pastes()).on('GET /network-hosts', { hosts: ['192.0.2.17'] }));
    await printed();
    const codes = screen.getAllByTitle(/^Code of/).map((title) => title.textContent!);
    expect(codes).toHaveLength(3);
    expect(codes[0]).toMatch(/192\.0\.2\.17.*\/studies\/s1\/mount$/);
    expect(codes[1]).toMatch(/\/studies\/s1\/plan\/parts$/);
  });

  it('says what to do where there is nothing to mount', async () => {
    renderAt('/studies/s1/mount/paper', <PaperPage />, new FakeServer(pastes({ variants: [], factors: [], parts: [] })));
    expect(await screen.findByText('There is no variant to mount yet.')).toBeTruthy();
    expect((screen.getByRole('button', { name: 'Print' }) as HTMLButtonElement).disabled).toBe(true);
  });
});

describe('The time line of a run', () => {
  it('is moved by keys and by dragging, never past what a phase may last', async () => {
    const server = new FakeServer();
    renderAt('/studies/s1/plan', <PlanPage />, server);
    const soak = await screen.findByRole('slider', { name: 'Idle soak lasts' });
    expect(soak.getAttribute('aria-valuenow')).toBe('8');
    fireEvent.keyDown(soak, { key: 'ArrowRight', shiftKey: true });
    expect(screen.getByRole('slider', { name: 'Idle soak lasts' }).getAttribute('aria-valuenow')).toBe('13');
    const cap = () => screen.getByRole('slider', { name: 'Sustained write at most' });
    for (let i = 0; i < 20; i++) fireEvent.keyDown(cap(), { key: 'ArrowLeft', shiftKey: true });
    expect(cap().getAttribute('aria-valuenow')).toBe('11');
  });

  it('takes a sweep, a change and marks, and says how a run of several loads is read', async () => {
    renderAt('/studies/s1/plan', <PlanPage />);
    await screen.findByRole('slider', { name: 'Idle soak lasts' });
    await user.selectOptions(screen.getAllByLabelText('Kind')[1]!, 'Sweep');
    expect((screen.getByLabelText('In steps') as HTMLInputElement).value).toBe('4');
    expect(screen.getByText(/A run is read from its last load/)).toBeTruthy();
    await user.selectOptions(screen.getAllByLabelText('Kind')[1]!, 'Change');
    expect(screen.getByLabelText('What is done when it starts')).toBeTruthy();
    const marks = screen.getByLabelText('Read by hand at minute');
    await user.type(marks, '5, ten');
    expect(screen.getByText('Marks are minutes, separated by commas.')).toBeTruthy();
  });
});
