// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import { lineUp, judgePair, verdictSentence, type JudgedRun, type JudgedSide, type RunReview } from '@red-ember/core';
import { type PairVerdict, type RunHeldBack, type Study, type StudyLineUp } from '@red-ember/contract';
import { blankPart, judgedSpots } from '@red-ember/study';
import { HeldPage } from '../judge/held/HeldPage.tsx';
import { AllPage } from '../judge/lineUp/AllPage.tsx';
import { CarryPage } from '../judge/lineUp/CarryPage.tsx';
import { ChoicePage } from '../judge/lineUp/ChoicePage.tsx';
import { FactorsPage } from '../judge/lineUp/FactorsPage.tsx';
import { JudgePage } from '../judge/pair/JudgePage.tsx';
import { OddPage } from '../judge/lineUp/OddPage.tsx';
import { StepsPage } from '../judge/lineUp/StepsPage.tsx';
import { ReadPage } from '../read/ReadPage.tsx';
import { degreesChosen } from '../data/settings.ts';
import { store } from '../data/store.ts';
import * as made from '@red-ember/testing';
import { run as judgedRun } from '@red-ember/testing/judged';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
beforeEach(() => localStorage.clear());

const rules = { basis: 'rise', figure: 'settled-mean', practicalK: 1, coverage: 0.95, roomBand: null, throughputUnit: 'frames/s' } as const;
const spots = judgedSpots(made.study());
const known = (value: number) => ({ value, u: 0.1, dof: 40 });

let count = 0;
function judged(top: number, change: Partial<RunReview> = {}, settings: Record<string, string> = {}): JudgedRun {
  return judgedRun(top, top - 4, { id: `x${++count}`, sensors: {}, settings, review: change });
}

interface Given {
  id: string;
  tops: number[];
  change?: Partial<RunReview>;
  levels?: Record<string, string>;
  settings?: Record<string, string>;
}

const side = ({ id, tops, change, levels = {}, settings = {} }: Given): JudgedSide => ({
  variantId: id,
  name: id.replace('-', ' '),
  subject: 'part',
  levels,
  runs: tops.map((top) => judged(top, change, settings)),
});

function fieldOf(given: Given[], change: Partial<StudyLineUp> = {}): StudyLineUp {
  const field = lineUp(given.map(side), spots, rules, { top: { sd: 0.3, dof: 20 }, under: { sd: 0.3, dof: 20 } });
  return { field, several: [], loads: [], refusal: null, ...change };
}

const studyOf = (given: Given[], change: Partial<Study> = {}): Study =>
  made.study({
    variants: given.map(({ id, levels }, i) => ({
      id,
      name: id.replace('-', ' '),
      subjectId: 'part-1',
      isReference: i === 0,
      setup: '',
      notes: '',
      levels: Object.entries(levels ?? {}).map(([factor, level]) => ({ factor, level })),
    })),
    ...change,
  });

function serverOf(given: Given[], change: Partial<Study> = {}, field: Partial<StudyLineUp> = {}): FakeServer {
  const study = studyOf(given, change);
  return new FakeServer(study)
    .on('GET /studies/s1/field', fieldOf(given, field))
    .on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...study, ...body, version: 5 }));
}

const PASTES: Given[] = [
  { id: 'paste-K', tops: [44.1, 44.5], change: { noise: known(43) } },
  { id: 'paste-L', tops: [44.3, 44.4], change: { noise: known(43) } },
  { id: 'paste-Z', tops: [61, 61.4], change: { noise: known(43) } },
];
const heading = () => screen.findByRole('heading', { level: 1 });

const throttle = (minutes: number | null): Partial<RunReview> => ({
  throttle: {
    reference: 60,
    episodes:
      minutes === null ? [] : [{ startS: 60 * minutes, endS: 2100, depth: 0.4, limiter: 'thermal', temperatureAtOnsetC: 110, duty: 1 }],
    timeToFirstS: minutes === null ? null : 60 * minutes,
    fractionOfTime: 0.2,
    performanceLost: 0.1,
    heldBack: [],
    limitC: 110,
    of: 'performance',
  },
});

describe('runs that are still to be read', () => {
  it('are counted while a page waits for them', async () => {
    let answer: (verdict: PairVerdict) => void = () => {};
    const server = new FakeServer()
      .on('GET /studies/s1/verdict', () => new Promise((done) => (answer = done)))
      .on('GET /studies/s1/being-read', { runs: 200, read: 57 });
    renderAt('/studies/s1/judge', <JudgePage />, server);
    expect(await screen.findByText('Reading the runs and weighing them…')).toBeTruthy();
    expect(await screen.findByText(/^57 of 200 runs read/, {}, { timeout: 5000 })).toBeTruthy();
    expect(screen.getByRole('progressbar', { name: 'Reading the runs' }).getAttribute('value')).toBe(String(57 / 200));
    answer(made.verdict(made.study()));
    await waitFor(() => expect(screen.queryByRole('progressbar')).toBeNull());
  });
});

describe('held back', () => {
  const heldBack = (runNumber: number, variantId: string, cloudOf: RunHeldBack['cloudOf']) =>
    made.runHeldBack(variantId, { runId: `r${runNumber}`, runNumber, cloudOf, cloud: [{ x: 60, y: cloudOf === 'clock' ? 2400 : 100 }] });
  const shown = (...runs: RunHeldBack[]) =>
    renderAt('/studies/s1/judge/held', <HeldPage />, new FakeServer().on('GET /studies/s1/held-back', { runs, best: null }));

  it('draws the clouds that can stand on one scale, and says which runs recorded no clock', async () => {
    shown(heldBack(1, 'bare', 'clock'), heldBack(2, 'lid', 'performance'), heldBack(3, 'lid', 'performance'));
    expect(await screen.findByRole('heading', { name: /^Clock against temperature/ })).toBeTruthy();
    expect(screen.getByText('Runs 2 and 3 recorded no clock and are not drawn here.')).toBeTruthy();
  });
  it('draws work where no run recorded a clock', async () => {
    shown(heldBack(1, 'bare', 'performance'), heldBack(2, 'lid', 'performance'));
    expect(await screen.findByRole('heading', { name: /^Work against temperature/ })).toBeTruthy();
    expect(screen.queryByText(/recorded no clock/)).toBeNull();
  });
});

describe('all at once', () => {
  it('ranks with groups, and says who cannot be told apart', async () => {
    renderAt('/studies/s1/judge/all', <AllPage />, serverOf(PASTES));
    expect(textOf(await screen.findByRole('img', { name: /^paste Z: 61\.20 ± / }))).toBe('');
    expect(textOf(await heading())).toBe('paste K and paste L lead by flash, top face and cannot be told apart.');
    const figure = within(screen.getByRole('figure', { name: /Variants by/ }));
    expect(figure.getAllByText('2 runs, group a')).toHaveLength(2);
    expect(figure.getByText('2 runs, group b')).toBeTruthy();
    expect(screen.getByText(/3 pairs, of which 2 differ/)).toBeTruthy();
  });
  it('asks for signed-off runs, and for another figure, by the address', async () => {
    const server = serverOf(PASTES);
    renderAt('/studies/s1/judge/all', <AllPage />, server);
    await user.click(await screen.findByLabelText('signed-off runs only'));
    await waitFor(() => expect(server.last('GET', '/studies/s1/field')!.search).toContain('signedOff=1'));
    await user.selectOptions(screen.getByLabelText('Evidence'), 'usual');
    await waitFor(() => expect(server.last('GET', '/studies/s1/field')!.search).toContain('evidence=usual'));
    await user.selectOptions(screen.getByLabelText('By'), 'outcome:noise');
    expect(textOf(await heading())).toBe('No two of these 3 can be told apart by noise.');
  });
  it('ranks by time to throttle those that did, and says who never did', async () => {
    const server = serverOf([
      { id: 'bare', tops: [80, 80.2], change: throttle(2) },
      { id: 'comb', tops: [80, 80.2], change: throttle(9) },
      { id: 'slab', tops: [60, 60.2], change: throttle(null) },
    ]);
    renderAt('/studies/s1/judge/all?by=outcome:time-to-throttle', <AllPage />, server);
    expect(await screen.findByText(/slab never throttled while watched: ahead of all that did/)).toBeTruthy();
  });
  it('shows beside the ranking only what one of the ranked has to say', async () => {
    const server = serverOf([
      { id: 'bare', tops: [80, 80.2], change: throttle(2) },
      { id: 'comb', tops: [62, 62.2], change: throttle(null) },
      { id: 'slab', tops: [60, 60.2], change: throttle(null) },
    ]);
    renderAt('/studies/s1/judge/all', <AllPage />, server);
    const table = await screen.findByRole('table', { name: 'Beside the ranking' });
    expect(within(table).getByRole('row', { name: /slab/ })).toBeTruthy();
    const heads = within(table)
      .getAllByRole('columnheader')
      .map(({ textContent }) => textContent);
    const cells = within(table).getAllByRole('row').slice(1).map((row) => within(row).getAllByRole('cell').map(({ textContent }) => textContent)); // prettier-ignore
    for (const [at, head] of heads.entries())
      expect(
        cells.some((row) => row[at] !== '' && row[at] !== 'as all others'),
        head!,
      ).toBe(true);
  });
  it('teaches what is missing, and passes on what the server says', async () => {
    renderAt('/studies/s1/judge/all', <AllPage />, serverOf(PASTES, {}, { refusal: 'No variant has a run yet that can be used.' }));
    expect(textOf(await heading())).toBe('All at once');
    expect(await screen.findByRole('link', { name: 'To Run' })).toBeTruthy();
    renderAt('/studies/s1/judge/all', <AllPage />, serverOf(PASTES).on('GET /studies/s1/field', problem(500, 'The disk is full.')));
    expect(await screen.findByText('The disk is full.')).toBeTruthy();
  });
});

describe('steps', () => {
  it('tells what ends throttling from what only delays it', async () => {
    renderAt(
      '/studies/s1/judge/steps',
      <StepsPage />,
      serverOf([
        { id: 'stock', tops: [80], change: throttle(6) },
        { id: 'tower', tops: [80], change: throttle(11) },
        { id: 'loop', tops: [50], change: throttle(null) },
      ]),
    );
    expect(textOf((await screen.findByText('no more: ended')).closest('tr')!)).toContain('loop');
    expect(textOf(await heading())).toBe('loop ends the throttling; tower only put it off.');
    expect(screen.getByRole('row', { name: /2\. tower.*not free.*11\.0 min later, but still: only delayed/ })).toBeTruthy();
  });
  it('says that the fan moved where nothing tells what it took up, and not where it kept its speed', async () => {
    const at = (rpm: number) => ({ fan: known(rpm) });
    const shown = async (second: number) => {
      const loads = fieldOf([
        { id: 'vent open', tops: [45], change: at(2138) },
        { id: 'vent taped', tops: [48], change: at(second) },
      ]);
      const server = serverOf([{ id: 'card', tops: [40] }]).on('GET /studies/s1/field', loads);
      renderAt('/studies/s1/judge/steps', <StepsPage />, server);
      await screen.findByRole('row', { name: /2\. vent taped/ });
      const said = screen.queryByText('The fan moved with the steps.');
      cleanup();
      return said !== null;
    };
    expect(await shown(2309)).toBe(true);
    expect(await shown(2150)).toBe(false);
  });
  it('takes the loads of a lone variant', async () => {
    const server = serverOf([{ id: 'card', tops: [40] }]);
    renderAt('/studies/s1/judge/steps', <StepsPage />, server);
    await heading();
    await waitFor(() => expect(server.last('GET', '/studies/s1/field')!.search).toBe('?loadsOf=card'));
  });
});

describe('factors', () => {
  const factors = [
    { name: 'Plate', levels: ['off', 'on'], changeMin: 5 },
    { name: 'Fan', levels: ['off', 'on'], changeMin: 5 },
  ];
  const cell = (plate: string, fan: string, tops: number[]): Given => ({ id: `${plate}${fan}`, tops, levels: { Plate: plate, Fan: fan } });
  it('shows effects with their doubt, and the interaction', async () => {
    const given = [
      cell('off', 'off', [50, 50.4]),
      cell('on', 'off', [58, 58.4]),
      cell('off', 'on', [44, 44.4]),
      cell('on', 'on', [40, 40.4]),
    ];
    renderAt('/studies/s1/judge/factors', <FactorsPage />, serverOf(given, { factors }));
    expect(await screen.findByRole('img', { name: /^Fan: −12\.00 ± \d/ })).toBeTruthy();
    expect(textOf(await heading())).toMatch(/^Fan moves flash, top face most: −12\.0\d? ± /);
    expect(screen.getByText(/Plate × Fan matters/)).toBeTruthy();
    expect(screen.getByRole('figure', { name: 'Means over Plate, a line for each level of Fan' })).toBeTruthy();
  });
  it('refuses what always changed together, and teaches where there are no factors', async () => {
    renderAt(
      '/studies/s1/judge/factors',
      <FactorsPage />,
      serverOf([cell('off', 'off', [50, 50.2]), cell('on', 'on', [40, 40.2])], { factors }),
    );
    expect(await screen.findByText(/Plate and Fan always changed together/)).toBeTruthy();
    expect(textOf(await heading())).toBe('No effect can be credited to one factor alone.');
    renderAt('/studies/s1/judge/factors', <FactorsPage />, serverOf(PASTES));
    expect(await screen.findByRole('link', { name: 'To Factors at Plan' })).toBeTruthy();
  });
});

describe('choice', () => {
  const parts = PASTES.map(({ id }, i) => ({ ...blankPart(`p${i}`, id), variantId: id, price: [4, 1, 0.2][i]! }));
  it('picks otherwise for other readers, and keeps a reader’s weights with the study', async () => {
    const server = serverOf([PASTES[0]!, { ...PASTES[1]!, tops: [40, 40.2] }, { ...PASTES[2]!, tops: [61, 61.2] }], {
      parts,
      factors: [{ name: 'Paste', levels: ['paste K', 'paste L', 'paste Z'], changeMin: 20 }],
    });
    renderAt('/studies/s1/judge/choice', <ChoicePage />, server);
    expect(textOf(await heading())).toBeTruthy();
    const takes = await screen.findByText('Who takes what');
    expect(textOf(takes.closest('section')!)).toContain('Wants it coolestpaste L');
    await user.click(screen.getByRole('button', { name: 'Add a reader' }));
    await user.clear(screen.getByLabelText('Name of reader 3'));
    await user.type(screen.getByLabelText('Name of reader 3'), 'Pays');
    await user.clear(screen.getByLabelText('temperature for Pays'));
    await user.type(screen.getByLabelText('temperature for Pays'), '0');
    await user.clear(screen.getByLabelText('cost for Pays'));
    await user.type(screen.getByLabelText('cost for Pays'), '2');
    await waitFor(() => expect(textOf(takes.closest('section')!)).toContain('Payspaste Z'));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect(server.last('PUT', '/studies/s1')!.body).toMatchObject({
      judging: { profiles: [{}, {}, { name: 'Pays', weights: [{ criterion: 'cost', weight: 2 }] }] },
    });
  });
  it('does not speak for a reader who has nothing to choose by, and says why', async () => {
    // All as warm as each other: what is left is money.
    const alike = PASTES.map((given) => ({ ...given, tops: [50, 50.2] }));
    renderAt('/studies/s1/judge/choice', <ChoicePage />, serverOf(alike, { parts }));
    const takes = (await screen.findByText('Who takes what')).closest('section')!;
    expect(textOf(await heading())).toBe('Fits hundreds: paste Z.');
    expect(textOf(takes)).toContain('Wants it coolestNothing to choose by.');
    expect(textOf(takes)).toMatch(/counts? for this reader and decides? nothing here: no two choices differ in it by what matters/);
  });
});

describe('carry', () => {
  it('names what binds, and judges loads as they are typed', async () => {
    const given: Given[] = [{ id: 'still air', tops: [40], change: { power: known(100) } }];
    renderAt('/studies/s1/judge/carry', <CarryPage />, serverOf(given, { judging: { marginK: 5, loads: [], profiles: [] } }));
    // 85 less 5 less 31.5 is 48.5 K; at 0.4 K/W that is 121 W.
    await waitFor(async () => expect(textOf(await heading())).toMatch(/flash, top face binds: still air carries 121 ± \d+ W/));
    await user.click(screen.getByRole('button', { name: 'Add a load' }));
    const power = screen.getByLabelText('Power of Load 1');
    await user.clear(power);
    await user.type(power, '62');
    expect(within(power.closest('tr')!).getAllByText('carries')).toHaveLength(2);
    await user.clear(power);
    await user.type(power, '150');
    expect(within(power.closest('tr')!).getAllByText('with a cap').length).toBeGreaterThan(0);
    await user.clear(power);
    await user.type(power, '400');
    expect(within(power.closest('tr')!).getAllByText('does not')).toHaveLength(2);
  });
});

describe('carry, of another variant', () => {
  it('is asked for by the address, and stays with it', async () => {
    const given: Given[] = [
      { id: 'still', tops: [40], change: { power: known(100) } },
      { id: 'fan', tops: [20], change: { power: known(100) } },
    ];
    const server = serverOf(given);
    renderAt('/studies/s1/judge/carry', <CarryPage />, server);
    await user.selectOptions(await screen.findByLabelText('Of'), 'fan');
    await waitFor(async () => expect(textOf(await heading())).toMatch(/binds: fan carries 24\d ± /));
    expect(server.last('GET', '/studies/s1/field')!.search).not.toContain('loadsOf');
  });
});

describe('the odd one out', () => {
  const boards: Given[] = [
    { id: 'B4', tops: [49, 49.2], settings: { Firmware: '1.2' } },
    { id: 'C1', tops: [50.6, 50.9], settings: { Firmware: '1.2' } },
    { id: 'D1', tops: [51.2, 51.4], settings: { Firmware: '1.2' } },
    { id: 'C3, one', tops: [50, 50.2], settings: { Firmware: '1.2' } },
    { id: 'C3, two', tops: [66, 66.4], settings: { Firmware: '1.3' } },
  ];
  it('names it, suspects what differs from its twin, and plans a retest of one change', async () => {
    const server = serverOf(boards);
    renderAt('/studies/s1/judge/odd', <OddPage />, server);
    await waitFor(async () => expect(textOf(await heading())).toBe('C3, two departs from all others.'));
    const row = screen.getByText('Firmware').closest('tr')!;
    expect(textOf(row)).toContain('1.31.2');
    // What nobody recorded clears nothing.
    expect(screen.getByText(/^Recorded of neither, and so no suspect: .*noise/)).toBeTruthy();
    await user.click(within(row).getByRole('button', { name: 'Plan a retest' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    const { variants, steps } = server.last('PUT', '/studies/s1')!.body as Study;
    expect(variants.at(-1)).toMatchObject({ retest: { variantId: 'C3, two', suspect: 'Firmware' }, repeats: 2, isReference: false });
    // Its card says what is changed.
    expect(steps.at(-1)).toMatchObject({
      when: 'on',
      variantId: variants.at(-1)!.id,
      text: 'Firmware: bring it to 1.2, and nothing else.',
    });
    expect(await screen.findByText(/is in the plan, two runs/)).toBeTruthy();
  });
  it('says afterwards what it was and what it was not', async () => {
    const given: Given[] = [...boards, { id: 'fan held', tops: [50.4, 50.6] }, { id: 'old firmware', tops: [66.1, 66.3] }];
    const study = studyOf(given);
    const variants = study.variants.map((variant) =>
      variant.id === 'fan held' || variant.id === 'old firmware'
        ? { ...variant, retest: { variantId: 'C3, two', suspect: variant.id } }
        : variant,
    );
    renderAt('/studies/s1/judge/odd', <OddPage />, serverOf(given, { variants }));
    await waitFor(async () => expect(textOf(await heading())).toBe('fan held: it was this, and not old firmware.'));
  });
});

describe('two sides', () => {
  const verdictOf = (b: Partial<RunReview>, change: Partial<PairVerdict> = {}): PairVerdict => {
    const judgement = judgePair({
      a: side({ id: 'bare', tops: [44, 44.2] }),
      b: side({ id: 'lid', tops: [38, 38.2], change: b }),
      spots,
      rules,
      history: {},
    });
    return { ...made.verdict(), judgement, sentence: verdictSentence(judgement, spots, null), ...change };
  };
  it('asks for equal power and equal noise by the address, and says that figures are restated', async () => {
    const server = new FakeServer().on(
      'GET /studies/s1/verdict',
      verdictOf({}, { commonNoise: { leastDb: 31, mostDb: 40 }, loads: ['Quiet', 'Loud'] }),
    );
    renderAt('/studies/s1/judge', <JudgePage />, server);
    await user.selectOptions(await screen.findByLabelText('Temperatures'), 'power');
    await waitFor(() => expect(server.last('GET', '/studies/s1/verdict')!.search).toContain('restate=power%3A7.5%3A0.8'));
    expect(await screen.findByText(/restated to 7.5 W \(rise as power to the 0.8\), not measured there/)).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Temperatures'), 'noise');
    await waitFor(() => expect(server.last('GET', '/studies/s1/verdict')!.search).toContain('restate=noise%3A35.5'));
    await user.selectOptions(screen.getByLabelText('At load'), 'Quiet');
    await waitFor(() => expect(server.last('GET', '/studies/s1/verdict')!.search).toContain('load=Quiet'));
  });
  it('shows where the cooling went, and struck out what the part held', async () => {
    const server = new FakeServer().on('GET /studies/s1/verdict', verdictOf({ noise: known(30) }));
    renderAt('/studies/s1/judge', <JudgePage />, server);
    const section = (await screen.findByText('Where did the cooling go?')).closest('section')!;
    expect(textOf(section)).toContain('Lid is cooler by 6.0');
  });
  it('blocks a starved side, and puts the run that would unblock it into the plan', async () => {
    const server = new FakeServer().on('GET /studies/s1/verdict', verdictOf({ utilisationPercent: 60 }));
    server.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
    renderAt('/studies/s1/judge', <JudgePage />, server);
    expect(textOf(await heading())).toMatch(/^Lid against bare is blocked\. /);
    expect(screen.getAllByText('blocked, not called').length).toBeGreaterThan(0);
    expect(screen.queryByText('lid cooler')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Add one run of each to the plan' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect((server.last('PUT', '/studies/s1')!.body as Study).variants.map((variant) => variant.repeats)).toEqual([3, 3]);
    expect(await screen.findByRole('link', { name: 'To the plan' })).toBeTruthy();
  });
});

describe('two single runs', () => {
  it('may be blocked too, but are nothing that a plan could repeat', async () => {
    const judgement = judgePair({
      a: { ...side({ id: 'bare', tops: [44] }), variantId: 'run:r1', name: 'bare, run 1' },
      b: { ...side({ id: 'lid', tops: [38], change: { utilisationPercent: 60 } }), variantId: 'run:r2', name: 'lid, run 2' },
      spots,
      rules,
      history: {},
    });
    const verdict = { ...made.verdict(), judgement, sentence: verdictSentence(judgement, spots, null) };
    const server = new FakeServer().on('GET /studies/s1/verdict', verdict);
    renderAt('/studies/s1/judge?a=run:r1&b=run:r2', <JudgePage />, server);
    expect(textOf(await heading())).toMatch(/^Lid, run 2 against bare, run 1 is blocked/);
    expect(screen.queryByRole('button', { name: 'Add one run of each to the plan' })).toBeNull();
    expect((screen.getByLabelText('Reference') as HTMLSelectElement).value).toBe('run:r1');
  });
});

describe('reading at a window of one’s own', () => {
  it('takes minutes typed, shows what the server refuses, and loses nothing', async () => {
    const server = new FakeServer();
    renderAt('/studies/s1/read?run=r1', <ReadPage />, server);
    const from = await screen.findByLabelText('Window of Load, from, minutes');
    expect((from as HTMLInputElement).value).toBe('30');
    await user.clear(from);
    await user.type(from, '12');
    server.on('PUT /runs/r1/windows/1', problem(422, 'The window lies outside Load.'));
    await user.click(screen.getByRole('button', { name: 'Read here' }));
    expect(await screen.findByText('The window lies outside Load.')).toBeTruthy();
    expect((from as HTMLInputElement).value).toBe('12');
    expect(server.last('PUT', '/runs/r1/windows/1')!.body).toEqual({ phase: 1, startS: 720, endS: 2100 });
  });
  it('reads what was typed when the row is left or Enter is pressed, and forgets it at Escape', async () => {
    const server = new FakeServer().on('PUT /runs/r1/windows/1', made.run('r1', 1, 'bare'));
    renderAt('/studies/s1/read?run=r1', <ReadPage />, server);
    const from = await screen.findByLabelText('Window of Load, from, minutes');
    await user.clear(from);
    await user.type(from, '14{Escape}');
    expect((from as HTMLInputElement).value).toBe('30');
    expect(server.last('PUT', '/runs/r1/windows/1')).toBeUndefined();
    await user.clear(from);
    await user.type(from, '13');
    // From one field of the row to the other nothing is read yet.
    await user.tab();
    expect(server.last('PUT', '/runs/r1/windows/1')).toBeUndefined();
    await user.click(screen.getByRole('heading', { level: 1 }));
    await waitFor(() => expect(server.last('PUT', '/runs/r1/windows/1')!.body).toEqual({ phase: 1, startS: 780, endS: 2100 }));
    await user.clear(from);
    await user.type(from, '15{Enter}');
    await waitFor(() => expect(server.last('PUT', '/runs/r1/windows/1')!.body).toMatchObject({ startS: 900 }));
  });
  it('shows the way of the heat and what was done over the same window', async () => {
    const path = {
      toRoomKPerW: { value: 0.412, u: 0.002, dof: 40 },
      toIntakeKPerW: null,
      slowTauS: 240,
      carryWPerK: 2.43,
      delayJPerK: 583,
    };
    const review = made.readings('r1').review;
    const spotsWithPath = review.spots.map((spot) => ({ ...spot, heatPath: path }));
    const air = { intakeC: 31, exhaustC: 44, recirculation: { fraction: 0.38, raw: 0.38 } };
    const server = new FakeServer().on('GET /runs/r1/readings', {
      ...made.readings('r1'),
      review: { ...review, spots: spotsWithPath, air },
    });
    renderAt('/studies/s1/read?run=r1', <ReadPage />, server);
    const heat = (await screen.findByText('Way of the heat')).closest('section')!;
    expect(textOf(heat)).toContain('0.412 ± 0.004');
    expect(textOf(heat)).toContain('38 % of what it breathed was its own exhaust');
    expect(screen.getByText('Over the same window')).toBeTruthy();
  });
});

describe('in other degrees', () => {
  it('shows every figure of a page in °F, and the verdict and its margin with it, and back', async () => {
    localStorage.clear();
    store.dispatch(degreesChosen('F'));
    renderAt('/studies/s1/judge/all', <AllPage />, serverOf(PASTES));
    // 61.2 K above the room is 110.2 °F above it.
    expect(await screen.findByRole('img', { name: /^paste Z: 110\.16 ± \d\.\d+ °F/ })).toBeTruthy();
    renderAt('/studies/s1/judge', <JudgePage />);
    expect(textOf(await heading())).toMatch(/heats flash, underside by 8\.1 °F/);
    expect(textOf(screen.getByLabelText('What qualifies this page'))).toContain('°F');
    expect(screen.getAllByText(/limit 185 °F/).length).toBeGreaterThan(0);
    renderAt('/studies/s1/read?run=r1', <ReadPage />);
    expect(await screen.findByText(/72 to 73 °F|71\.8 to 72\.9 °F/)).toBeTruthy();
    store.dispatch(degreesChosen('C'));
    expect(await screen.findByText(/22\.1 to 22\.7 °C/)).toBeTruthy();
  });

  it('leaves names as they were typed: a grease that is called 705 K is not 1269 °F', async () => {
    localStorage.clear();
    store.dispatch(degreesChosen('F'));
    const renamed = <T,>(value: T) => JSON.parse(JSON.stringify(value).replace(/slot lid/gi, 'Grease 705 K')) as T;
    const study = renamed(made.study());
    renderAt('/studies/s1/judge', <JudgePage />, new FakeServer(study).on('GET /studies/s1/verdict', renamed(made.verdict(study))));
    const said = textOf(await heading());
    expect(said).toMatch(/Grease 705 K.* by \d+\.\d °F/);
    expect(textOf(document.body)).not.toContain('1269');
    store.dispatch(degreesChosen('C'));
  });
});
