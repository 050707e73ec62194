import { describe, expect, it } from 'vitest';
import {
  agreementFinding,
  HOTTEST_SPOT_ID,
  judgeClaim,
  movedFigures,
  type TwinAgreement,
  judgePrediction,
  pooledRepeatability,
  runFindings,
  verdictSentence,
  type Claim,
  type JudgedRun,
  type JudgeRules,
  type RunReview,
} from '../../index.ts';
import { reading } from '@red-ember/testing';
import { fair, pair, rules, run, spots, throttledFrom } from '@red-ember/testing/judged';

describe('judgePair', () => {
  it('names the cooler side per spot, with nothing against a fair comparison', () => {
    const judgement = pair(...fair());
    expect(judgement.spots.map((spot) => spot.comparison!.verdict)).toEqual(['b-cooler', 'a-cooler']);
    expect(judgement.findings.filter((finding) => finding.severity !== 'note')).toEqual([]);
    expect(judgement.findings.at(-1)!.evidence).toContain('Held alike: power within 0.1 %, throughput within 0.1 %');
    expect(judgement.a).toMatchObject({ mounts: 3, runIds: ['id-1', 'id-4', 'id-5'] });
    expect(judgement.spots[0]!.repeatability).toBeNull();
    const [top] = judgement.spots;
    expect(top!.a!.spotC).toBeCloseTo(judgement.roomC + 43.5, 9);
    expect(top!.a!.budget.shares.map((line) => line.name)).toEqual([
      'scatter between mounts',
      'sensor accuracy',
      'place and contact',
      'sensor resolution',
      'room probe',
    ]);
  });

  it('cancels accuracy in the difference by one sensor, and not by two', () => {
    const [a, b] = fair();
    const names = (judgement: ReturnType<typeof pair>) => judgement.spots[0]!.comparison!.budget.shares.map((line) => line.name);
    expect(names(pair(a, b)).some((name) => name.startsWith('sensor accuracy'))).toBe(false);
    const swapped = b.map((entry) => ({ ...entry, sensors: { ...entry.sensors, top: 'TC 9' } }));
    const judgement = pair(a, swapped);
    expect(names(judgement).filter((name) => name.startsWith('sensor accuracy'))).toHaveLength(2);
    expect(judgement.findings.find((finding) => finding.check === 'sensors')).toMatchObject({ severity: 'weakens', spotId: 'top' });
  });

  it('leaves out a run that something blocks, unless it was signed off, and always a rejected one', () => {
    const [a, b] = fair();
    const drifted = run(36, 45, { review: { room: { meanC: 27, minC: 26, maxC: 28.4, driftK: 2.2 } } });
    const judged = pair(a, [...b, drifted]);
    expect(judged.leftOut).toEqual([
      { runId: drifted.id, label: `lid, ${drifted.label}`, reason: 'The room rose 2.2 K during the reading, and the part follows late.' },
    ]);
    expect(pair(a, [...b, { ...drifted, disposition: 'use' }]).b.runIds).toContain(drifted.id);
    expect(pair(a, [...b, { ...b[0]!, id: 'x', disposition: 'reject' }]).leftOut[0]!.reason).toBe('Rejected at sign-off.');
    const why = { ...b[0]!, id: 'x', disposition: 'reject' as const, dispositionReason: 'The pad did not touch.' };
    expect(pair(a, [...b, why]).leftOut[0]!.reason).toBe('Rejected at sign-off: The pad did not touch.');
  });

  it('lets history stand in for a lone run, or a stated assumption with a warning', () => {
    const [a, b] = fair();
    const known = pair(a, b.slice(0, 1), {}, { sd: 0.2, dof: 20 });
    expect(known.spots[1]!.repeatability).toEqual({ sd: 0.2, dof: 20, assumed: false });
    expect(known.spots[1]!.comparison!.verdict).toBe('a-cooler');
    const assumed = pair(a, b.slice(0, 1));
    expect(assumed.spots[1]!.repeatability).toEqual({ sd: 0.6, dof: 4, assumed: true });
    expect(assumed.findings.find((finding) => finding.check === 'mounts')!.evidence).toContain('an assumed 0.6 K between mounts');
  });

  it('adds the doubt of an unknown room where none was recorded', () => {
    const [a, b] = fair();
    const found = pair(a, b, { basis: 'as-found' });
    expect(found.spots[1]!.comparison!.difference.u).toBeGreaterThan(1.6);
    expect(found.spots[1]!.comparison!.verdict).toBe('a-cooler');
  });

  it('says what is missing instead of comparing', () => {
    const [a] = fair();
    expect(pair(a, []).spots[0]).toMatchObject({ comparison: null, refusal: 'No usable reading of lid.' });
  });

  it('reads the peak where the house rules say so', () => {
    const judgement = pair(...fair(), { figure: 'peak' });
    expect(judgement.spots[0]!.a!.figure.value).toBeCloseTo(43.8, 9);
  });
});

describe('fairness, one row each', () => {
  const one = (change: Parameters<typeof run>[2], check: string) =>
    runFindings(run(40, 40, change), spots, rules).filter((finding) => finding.check === check);
  const settling = (bestK: number, doubtK: number) => ({
    bound: 'still-rising' as const,
    toGo: { likely: { value: bestK, u: doubtK / 2 }, lowK: bestK - doubtK, highK: bestK + doubtK },
    settling: { ...reading(1).settling, settled: false },
  });
  it.each([
    ['ended-early', { review: { loadEndedBy: 'cut-out' } }, 'blocks', 'the cut-out stopped the load'],
    ['settled', { load: settling(0.8, 0.1) }, 'note', 'was a lower bound when it was read: 0.8 K to go, at most 0.9 K; 2 of 2 spots'],
    ['settled', { load: settling(0.8, 1) }, 'weakens', '0.8 K to go, at most 1.8 K'],
    ['settled', { load: settling(3, 0.1) }, 'blocks', '3.0 K to go, at most 3.1 K'],
    ['spikes', { load: { spikeShare: 0.05 } }, 'weakens', '5.0 % of'],
    ['room', { review: { room: null } }, 'blocks', 'no room temperature was recorded'],
    ['room', { review: { room: { meanC: 23, minC: 22, maxC: 24, driftK: -1.4 } } }, 'weakens', 'the room fell 1.4 K'],
    ['room', { review: { room: { meanC: 23, minC: 22, maxC: 24, driftK: 2.4 } } }, 'blocks', 'the room rose 2.4 K'],
    ['room', { review: { room: { meanC: 26, minC: 25.5, maxC: 26.2, driftK: 0 } } }, 'weakens', 'outside the band of 20 to 25 °C'],
    ['work', { review: { utilisationPercent: 80 } }, 'weakens', 'busy only 80 %'],
  ] as const)('%s: %j', (check, change, severity, words) => {
    const [finding] = one(change as Parameters<typeof run>[2], check);
    expect(finding).toMatchObject({ severity });
    expect(finding!.evidence).toContain(words);
  });

  it('throttled: blocks where it reaches into the reading, weakens where it was over before', () => {
    const throttle = (endS: number) => ({ review: { throttle: throttledFrom(300, endS) } });
    expect(one(throttle(1800), 'throttled')[0]!.severity).toBe('blocks');
    expect(one(throttle(1400), 'throttled')[0]!.severity).toBe('blocks'); // it was still recovering
    expect(one(throttle(700), 'throttled')[0]!.severity).toBe('weakens');
  });

  it('has nothing against a good run', () => {
    expect(runFindings(run(40, 40), spots, rules)).toEqual([]);
  });

  const between = (change: (runs: [JudgedRun[], JudgedRun[]]) => void, check: string) => {
    const runs = fair();
    change(runs);
    return pair(...runs).findings.filter((finding) => finding.runId === null && finding.check === check && finding.severity !== 'note');
  };
  it('less work, by the clock where no work was recorded: a little weakens, much is not called, and not where heat is at one power', () => {
    const clocks = (mhz: number, workRecorded = false) =>
      between(([a, b]) => {
        for (const entry of [...a, ...b]) if (!workRecorded) entry.review.performance = null;
        a.forEach((entry) => (entry.review.clock = { value: 1800, u: 2, dof: 9 }));
        b.forEach((entry) => (entry.review.clock = { value: mhz, u: 2, dof: 9 }));
      }, 'work');
    expect(clocks(1740)).toEqual([]);
    expect(clocks(1690)).toMatchObject([
      { severity: 'weakens', evidence: 'Mean clock was 1800.0 MHz with bare and 1690.0 MHz with lid, 6.1 % apart.' },
    ]);
    expect(clocks(1500)).toMatchObject([{ severity: 'withholds', withheld: { why: 'lid ran at a clock 17 % lower' } }]);
    // What was done is recorded, and was the same: the clock is the part's own business.
    expect(clocks(1500, true)).toEqual([]);
    const less = ([, b]: [JudgedRun[], JudgedRun[]]) => b.forEach((entry) => (entry.review.performance = { value: 5000, u: 0, dof: 9 }));
    expect(between(less, 'work')).toMatchObject([{ severity: 'withholds', withheld: { why: 'lid did 18 % less work' } }]);
  });
  it('heat, work, settings, mounts, order and rooms apart', () => {
    expect(between(([, b]) => b.forEach((entry) => (entry.review.power = { value: 8.3, u: 0, dof: 9 })), 'heat')[0]!.evidence).toContain(
      '7.5 W with bare and 8.3 W with lid, 10.7 % apart',
    );
    expect(between(([, b]) => b.forEach((entry) => (entry.review.performance = { value: 5000, u: 0, dof: 9 })), 'work')).toHaveLength(1);
    expect(between(([, b]) => b.forEach((entry) => (entry.settings = { Firmware: '2' })), 'settings')[0]!.evidence).toBe(
      'Firmware differs: 1 and 2.',
    );
    expect(between(([a]) => a.forEach((entry) => (entry.mountNo = 1)), 'mounts')[0]!.evidence).toContain('bare: a single mount');
    expect(between(([, b]) => b.forEach((entry) => (entry.startedAtMs! += 1e6)), 'order')).toHaveLength(1);
    expect(
      between(([, b]) => b.forEach((entry) => (entry.review.room = { meanC: 27, minC: 26.8, maxC: 27.1, driftK: 0 })), 'room')[0]!.evidence,
    ).toContain('22.4 °C with bare and 27.0 °C with lid');
  });
});

describe('claim and prediction', () => {
  const judgement = pair(...fair());
  const claim = (change: Partial<Claim>): Claim => ({
    text: 'It cools',
    outcome: 'temperature',
    spotId: null,
    direction: 'cooler',
    leastEffect: 1,
    ...change,
  });
  it.each([
    [{}, 'contradicted'], // one face is warmer
    [{ spotId: 'top', leastEffect: 2 }, 'supported'],
    [{ spotId: 'top', leastEffect: 3.4 }, 'not-shown'], // the interval straddles the claimed effect
    [{ spotId: 'top', leastEffect: 9 }, 'contradicted'],
    [{ spotId: 'under', direction: 'warmer', leastEffect: 3 }, 'supported'],
    [{ spotId: 'top', direction: 'warmer' }, 'contradicted'],
    [{ spotId: 'under', direction: 'no-difference' }, 'contradicted'],
  ] as const)('%j is %s', (change, outcome) => {
    expect(judgeClaim(claim(change), judgement, spots, 1).outcome).toBe(outcome);
  });
  it('puts numbers into its sentence, and shows nothing without a comparison', () => {
    expect(judgeClaim(claim({}), judgement, spots, 1).sentence).toMatch(
      /^“It cools” is contradicted: it asks for at least 1 K cooler, and Flash, underside changed by \+4\.5 ± \d\.\d+ K\.$/,
    );
    expect(judgeClaim(claim({}), pair([], []), spots, 1).outcome).toBe('not-shown');
  });
  it('scores predictions', () => {
    const score = (expectedK: number, plusMinusK: number) => judgePrediction({ spotId: 'under', expectedK, plusMinusK }, judgement, spots);
    expect(score(4, 1)).toMatchObject({ outcome: 'right', missedByK: 0 });
    expect(score(0, 1).outcome).toBe('missed');
    expect(score(0, 1).errorK).toBeCloseTo(4.47, 1);
    expect(score(0, 1).missedByK).toBeCloseTo(3.47, 1);
    expect(score(3.3, 1).outcome).toBe('open');
    expect(judgePrediction({ spotId: 'under', expectedK: 0, plusMinusK: 1 }, pair([], []), spots).sentence).toContain('not measured yet');
  });
});

describe('verdictSentence', () => {
  const text = (...args: Parameters<typeof verdictSentence>) =>
    verdictSentence(...args)
      .map((segment) => segment.text)
      .join('');
  it('says the largest difference first, and the claim last', () => {
    expect(text(pair(...fair()), spots, { outcome: 'contradicted', text: 'It cools.' })).toBe(
      'Lid heats flash, underside by 4.5 K and cools flash, top face by 3.4 K. The claim “It cools” is contradicted.',
    );
  });
  it('has words for equivalence, for no call and for nothing to compare', () => {
    const [a] = fair();
    const same = a.map((entry, i) => ({ ...entry, id: `b${i}` }));
    expect(text(pair(a, same), spots, null)).toBe('Lid makes no difference that matters.');
    const noisy = [run(40, 40), run(47, 47)];
    expect(text(pair(noisy, [run(42, 42), run(48, 48)]), spots, null)).toBe('Lid cannot be told from bare with these runs.');
    expect(text(pair([], []), spots, null)).toContain('cannot be compared yet');
    const alone = pair([], []);
    expect(text({ ...alone, b: { ...alone.b, name: '' } }, spots, null)).toBe('There is nothing yet to hold bare against.');
  });
});

describe('pooledRepeatability', () => {
  it('pools by degrees of freedom and ignores lone runs', () => {
    expect(pooledRepeatability([[1, 3], [10, 10, 13], [5]])).toEqual({ sd: Math.sqrt((2 + 6) / 3), dof: 3 });
    expect(pooledRepeatability([[5]])).toBeNull();
  });
});

describe('claims about other outcomes', () => {
  const claim = (change: Partial<Claim>): Claim => ({
    text: 'It works',
    outcome: 'throughput',
    spotId: null,
    direction: 'more',
    leastEffect: 100,
    ...change,
  });
  const side = (review: (i: number) => Partial<RunReview>) =>
    [0, 1, 2].map((i) => ({ ...run(45, 44, { review: review(i) }), disposition: 'use' as const }));
  const judged = (a: JudgedRun[], b: JudgedRun[], change: Partial<Claim>) => judgeClaim(claim(change), pair(a, b), spots, 1);
  const work = (value: number) => (i: number) => ({ performance: { value: value + i, u: 1, dof: 40 } });

  it('judges throughput by its interval, in its own unit', () => {
    const result = judged(side(work(3000)), side(work(6000)), {});
    expect(result.outcome).toBe('supported');
    expect(result.sentence).toMatch(/at least 100 MB\/s more, and throughput changed by \+3000\.0 ± \d+\.\d+ MB\/s/);
    expect(judged(side(work(6000)), side(work(3000)), {}).outcome).toBe('contradicted');
    expect(judged(side(work(6000)), side(work(6002)), { direction: 'no-difference', leastEffect: 50 }).outcome).toBe('supported');
  });
  it('bears out no difference within nothing by what does not matter of the outcome', () => {
    const noise = (value: number) => (i: number) => ({ noise: { value: value + 0.05 * i, u: 0.01, dof: 40 } });
    const asked = { outcome: 'noise', direction: 'no-difference', leastEffect: 0 } as const;
    const same = judged(side(noise(33)), side(noise(33.1)), asked);
    expect(same.outcome).toBe('supported');
    expect(same.sentence).toContain('no difference beyond 1 dB');
    expect(judged(side(noise(33)), side(noise(36)), asked).outcome).toBe('contradicted');
  });
  it('judges time to throttle in minutes, and a side that never did as longer than any', () => {
    const about = { outcome: 'time-to-throttle', leastEffect: 2 } as const;
    const at = (s: number | null) => side((i) => ({ throttle: throttledFrom(s === null ? null : s + 6 * i) }));
    expect(judged(at(300), at(900), about).sentence).toMatch(/time to throttle changed by \+10\.0/);
    expect(judged(at(300), at(900), about).outcome).toBe('supported');
    const never = judged(at(300), at(null), about);
    expect(never).toMatchObject({ outcome: 'supported' });
    expect(never.sentence).toContain('bare throttled in 3 of 3 runs, lid never throttled in 22 min of load');
    expect(judged(at(null), at(300), about).outcome).toBe('contradicted');
    expect(judged(at(null), at(null), about).outcome).toBe('not-shown');
  });
  it('shows nothing of what no run recorded', () => {
    for (const outcome of ['noise', 'clock', 'watts-carried'] as const)
      expect(
        judged(
          side(() => ({})),
          side(() => ({})),
          { outcome },
        ).sentence,
      ).toContain('is not shown: no ');
    expect(
      judged(
        side(() => ({ performance: null })),
        side(work(1)),
        {},
      ).outcome,
    ).toBe('not-shown');
  });
});

describe('the hottest of several sensors', () => {
  it('has a row of its own before the spots, read off whichever was hottest', () => {
    const judgement = pair([run(45, 40), run(45.2, 40.1)], [run(43, 46), run(43.1, 46.2)], { figure: 'hottest' });
    const [row] = judgement.spots;
    expect(judgement.spots.map((spot) => spot.spotId)).toEqual([HOTTEST_SPOT_ID, 'top', 'under']);
    expect(row!.comparison!.difference.value).toBeCloseTo(1, 6);
    // Another sensor was hottest on the other side, so their accuracy does not cancel.
    const line = (spotId: string) =>
      judgement.spots.find((spot) => spot.spotId === spotId)!.comparison!.budget.shares.map((share) => share.name);
    expect(line(HOTTEST_SPOT_ID)).toContain('sensor accuracy, bare');
    expect(line('top')).not.toContain('sensor accuracy, bare');
  });
});

describe('what was held, calibrated and agreed', () => {
  it('notes a setting that is held part by part on purpose, and weakens by one that is not', () => {
    const of = (heldByPart: string[]) =>
      pair(
        [run(45, 44, { heldByPart, settings: { 'Load-line level': '4' } })],
        [run(45, 44, { heldByPart, settings: { 'Load-line level': '5' } })],
        {},
        { sd: 0.3, dof: 9 },
      ).findings.find((finding) => finding.check === 'settings')!;
    expect(of(['Load-line level'])).toMatchObject({
      severity: 'note',
      evidence: 'Load-line level is held part by part, as written down: 4 and 5.',
    });
    expect(of([]).severity).toBe('weakens');
  });
  const lone = (change: Parameters<typeof run>[2]) => runFindings(run(45, 44, change), spots, rules);
  const watch = { held: false, leftAtS: 760, largestOff: 6, mean: 63, shareOutside: 0.4 };
  it('names a lock that moved, with when and how far', () => {
    const [finding] = lone({ review: { locks: [{ name: 'Fan duty', unit: '%', lock: { value: 60, tolerance: 2 }, watch }] } });
    expect(finding).toMatchObject({ check: 'held', severity: 'weakens' });
    expect(finding!.evidence).toContain('Fan duty was to be held at 60 % and was off it by up to 6.0 %, from 12:40 on');
    expect(
      lone({ review: { locks: [{ name: 'Fan duty', unit: '%', lock: { value: 60, tolerance: 2 }, watch: { ...watch, held: true } }] } }),
    ).toEqual([]);
  });
  it('notes what nobody confirmed, and weakens by an overdue calibration', () => {
    expect(lone({ unconfirmed: ['Firmware'] })).toMatchObject([{ check: 'held', severity: 'note' }]);
    expect(lone({ overdue: [{ spotId: 'top', sensor: 'TC 1', dueOn: '2026-01-31' }] })[0]).toMatchObject({
      check: 'calibration',
      severity: 'weakens',
      spotId: 'top',
    });
  });
  it('flags a sensor that reads low near its limit, and lets agreement be', () => {
    const twin = (bias: number, trend = 0, samePlace = true): TwinAgreement => ({
      samePlace,
      a: { id: 'top', name: 'Flash' },
      b: { id: 'own', name: 'Own sensor', limitC: 85 },
      runLabel: 'run 3',
      levelC: 65,
      agreement: { bias: { value: bias, u: 0.1, dof: 50 }, lower: 0, upper: 0, trendPerK: { value: trend, u: 0.01, dof: 50 }, n: 900 },
    });
    expect(agreementFinding(twin(0.4))).toBeNull();
    expect(agreementFinding(twin(3))).toMatchObject({ check: 'agreement', severity: 'weakens', spotId: 'own' });
    expect(agreementFinding(twin(-3))).toMatchObject({ severity: 'note' });
    // A bias that grows with the level is carried to the limit, one lost in doubt is not.
    expect(agreementFinding(twin(0.4, 0.1))!.evidence).toContain('2.4 K low');
    expect(agreementFinding(twin(0.4, 0.015))).toBeNull();
    // On another place of the part: said where it lies lower, and not where it lies higher.
    expect(agreementFinding(twin(3, 0, false))).toMatchObject({ severity: 'note', evidence: expect.stringContaining('3.0 K less near its limit than') }); // prettier-ignore
    expect(agreementFinding(twin(-3, 0, false))).toBeNull();
  });
  it('says which figures a change moved', () => {
    const before = pair([run(45, 40), run(45.2, 40.1)], [run(43, 46), run(43.1, 46.2)]);
    const limitsC = { top: 85, under: 85 };
    expect(movedFigures({ judgement: before, limitsC }, { judgement: before, limitsC })).toEqual([]);
    const after = pair([run(45, 40), run(45.2, 40.1)], [run(43, 46), run(43.1, 46.2)], { practicalK: 9 });
    const verdicts = movedFigures({ judgement: before, limitsC }, { judgement: after, limitsC });
    expect(verdicts.map((figure) => [figure.spotId, figure.after.split(', ')[1]])).toEqual([
      ['top', 'equivalent'],
      ['under', 'equivalent'],
    ]);
    // A changed limit moves no difference, but what is left.
    const [limit] = movedFigures({ judgement: before, limitsC }, { judgement: before, limitsC: { ...limitsC, top: 80 } });
    expect(limit).toMatchObject({
      spotId: 'top',
      before: expect.stringContaining('17.5 K left'),
      after: expect.stringContaining('12.5 K left'),
    });
  });
});

describe('headroom', () => {
  const open = (likely: number) => ({ bound: likely > 0 ? 'still-rising' : 'still-falling', toGo: { likely: { value: likely, u: 0.3 }, lowK: likely - 1, highK: likely + 1 } }) as const; // prettier-ignore
  const spotC = (likely: number | null) =>
    pair([run(43, 44, likely === null ? {} : { load: open(likely) })], [run(40, 41)]).spots.find(({ spotId }) => spotId === 'top')!.a!
      .spotC;

  it('is held against where a spot settles: one that was stopped early has less of it, one that still cools no more', () => {
    const settled = spotC(null);
    expect(spotC(2)).toBeCloseTo(settled + 2, 9);
    expect(spotC(-2)).toBeCloseTo(settled, 9);
  });
});

describe('what readings that count as settled still lacked', () => {
  const lacks = (likely: number) => ({ load: { bound: 'settled', toGo: { likely: { value: likely, u: 0.1 }, lowK: 0, highK: 0.5 } } as const }); // prettier-ignore
  const sides = (a: number, b: number) =>
    [
      [run(44, 40, lacks(a)), run(44.2, 40.2, lacks(a))],
      [run(42, 40, lacks(b)), run(42.2, 40.2, lacks(b))],
    ] as const;
  const top = (a: number, b: number, change: Partial<JudgeRules> = {}) => pair(...(sides(a, b) as unknown as [JudgedRun[], JudgedRun[]]), change).spots[0]!; // prettier-ignore

  it('is taken on top where two are compared, with the doubt of that alone: a heavier sink is no cooler for being read farther from its end', () => {
    expect(top(0.1, 0.4).comparison!.difference.value).toBeCloseTo(-2 + 0.3, 6);
    const line = ({ comparison }: ReturnType<typeof top>) =>
      comparison!.budget.shares.find(({ name }) => name === 'what still remained, lid')!;
    // Two runs err alike in 0.4 of what is not known of them: the rest of it averages.
    expect(Math.sqrt(line(top(0.1, 0.4)).share) * top(0.1, 0.4).comparison!.difference.u).toBeCloseTo(0.1 * Math.sqrt(0.7), 6);
    // What was read stands as it was read.
    expect(top(0.1, 0.4).b!.figure.value).toBeCloseTo(42.1, 6);
  });
  it('is left alone beside a reading that was not settled', () => {
    const rising = { load: { bound: 'still-rising', toGo: { likely: { value: 0.9, u: 0.2 }, lowK: 0, highK: 1.3 } } as const };
    const [top] = pair([run(44, 40, lacks(0.1)), run(44.2, 40.2, lacks(0.1))], [run(42, 40, rising), run(42.2, 40.2, lacks(0.4))]).spots;
    expect(top!.comparison!.difference.value).toBeCloseTo(-2, 6);
  });
  it('is not taken twice where the settled value is the figure, nor on top of a peak', () => {
    expect(top(0.1, 0.4, { figure: 'settled-value' }).comparison!.difference.value).toBeCloseTo(-1.7, 6);
    expect(top(0.1, 0.4, { figure: 'peak' }).comparison!.difference.value).toBeCloseTo(-2, 6);
  });
});
