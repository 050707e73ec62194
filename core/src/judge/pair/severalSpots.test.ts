import { describe, expect, it } from 'vitest';
import { adviceWords, callWords, judgePair, likelyWords, verdictSentence, type Evidence, type JudgedSpot } from '../../index.ts';
import { reading } from '@red-ember/testing';
import { pair, rules, run, spots, throttledFrom } from '@red-ember/testing/judged';

/** Two sides of three mounts read at twelve spots, of which `off` says how far each differs. */
function twelve(off: (spot: number) => number, evidence?: Evidence) {
  const many: JudgedSpot[] = Array.from({ length: 12 }, (_, i) => ({ ...spots[0]!, id: `s${i}`, name: `Spot ${i}` }));
  const made = (side: 0 | 1) =>
    [0, 1, 2].map((k) =>
      run(40, 40, {
        sensors: {},
        review: {
          spots: many.map(({ id }, i) => ({
            spotId: id,
            idle: null,
            load: reading(40 + side * off(i) + 0.2 * (k - 1)),
            heatPath: null,
          })),
        },
      }),
    );
  const judged = judgePair({
    a: { variantId: 'a', name: 'bare', runs: made(0) },
    b: { variantId: 'b', name: 'lid', runs: made(1) },
    spots: many,
    rules: { ...rules, practicalK: 0.1, ...(evidence ? { evidence } : {}) },
    history: {},
  });
  return { judged, said: verdictSentence(judged, many, null).map(({ text }) => text).join('') }; // prettier-ignore
}

describe('several spots in one sentence', () => {
  it('marks what is called by one spot alone, and leaves it out of the sentence', () => {
    const { judged, said } = twelve((i) => (i === 3 ? -0.62 : 0));
    expect(judged.spots[3]!.call).toMatchObject({ kind: 'cooler', byItself: true });
    expect(callWords(judged.spots[3]!.call, 'lid').words).toBe('lid cooler by itself');
    expect(said).toContain('cannot be told from bare with these runs: spot 3 reads cooler by itself, which among 12 spots may be chance');
    expect(judged.cooling.rows[0]!.better).toBeNull();
  });
  it('lets every spot speak by itself where that is what is usually asked', () => {
    const { judged, said } = twelve((i) => (i === 3 ? -0.62 : 0), 'usual');
    expect(judged.spots[3]!.call).toMatchObject({ kind: 'cooler', byItself: false });
    expect(said).toContain('Lid cools spot 3');
    // The figures are the same ones.
    expect(judged.spots[3]!.comparison).toEqual(twelve((i) => (i === 3 ? -0.62 : 0)).judged.spots[3]!.comparison);
  });
  it('says what holds over all of them', () => {
    const { judged, said } = twelve((i) => (i === 3 ? -6 : 0));
    expect(judged.spots[3]!.call).toMatchObject({ kind: 'cooler', byItself: false });
    expect(said).toBe('Lid cools spot 3 by 6.0 K.');
  });
});

describe('what to do about no call', () => {
  const noCall = pair([run(40, 40), run(40.9, 41)], [run(40.3, 40), run(41.2, 41)]).spots[0]!;
  it('says how likely it is, and what mounts would bring, whichever is the nearer', () => {
    expect(noCall.call.kind).toBe('no-call');
    expect(likelyWords(noCall.call, 1)).toMatch(/^\d+ % likely warmer by more than 1 K$/);
    expect(adviceWords(noCall.comparison!)).toMatch(
      /^About \d+ mounts a side would show that they are equivalent; \d+ would tell a difference/,
    );
    expect(likelyWords({ likely: null }, 1)).toBe('');
    expect(likelyWords({ likely: { cooler: 1, coolerByThreshold: 0.999, warmerByThreshold: 0 } }, 1)).toBe(
      'over 99 % likely cooler by more than 1 K',
    );
  });
});

describe('a part that throttled', () => {
  it('is not said to be comparable later', () => {
    const hot = () => run(45, 44, { review: { throttle: throttledFrom(300) } });
    const said = (a: ReturnType<typeof run>[], b: ReturnType<typeof run>[]) =>
      verdictSentence(pair(a, b, { signedOffOnly: false }), spots, null).map(({ text }) => text).join(''); // prettier-ignore
    expect(said([hot(), hot()], [])).toBe('Bare and lid cannot be compared by temperature: bare throttled, and held its own.');
    expect(said([], [])).toBe('bare and lid cannot be compared yet.');
  });
});
