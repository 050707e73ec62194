import { describe, expect, it } from 'vitest';
import { preflight, type PreflightInput, type PreflightKey } from '../index.ts';

const flat = (value: number, n = 12, wobble = 0.1) => ({
  t: Float64Array.from({ length: n }, (_, i) => i),
  y: Float64Array.from({ length: n }, (_, i) => value + (i % 2) * wobble),
});
const rehearsed = (ageDays: number, wrong: string[] = []): PreflightInput['rehearsal'] => ({
  simulated: false,
  newest: {
    ageDays,
    steps: [
      { name: 'Stop', ok: true, offAfterS: 0.21, sentence: '' },
      { name: 'cut-out', ok: wrong.length === 0, offAfterS: 3.4, sentence: wrong.join(' ') },
    ],
  },
});
const sound: PreflightInput = {
  confirmed: [{ name: 'Firmware', done: true }],
  watched: [{ name: 'Fan duty', unit: '%', value: 60, tolerance: 2, series: flat(60, 12, 0) }],
  needsRoom: true,
  room: flat(22.1),
  roomBand: { minC: 20, maxC: 25 },
  spots: [{ name: 'Controller', series: flat(31.2), limitC: 85, cutOutC: 90, usualIdleRiseK: 9 }],
  fans: [{ name: 'Fan 1', rpm: flat(1900, 12, 10), dutyPercent: 60, usual: null }],
  seat: 'alike',
  rehearsal: rehearsed(3),
};
const check = (key: PreflightKey, change: Partial<PreflightInput>) =>
  preflight({ ...sound, ...change }).find((entry) => entry.key === key)!;
const spot = (series: PreflightInput['spots'][number]['series'], usualIdleRiseK: number | null = 9) => ({
  spots: [{ ...sound.spots[0]!, series, usualIdleRiseK }],
});

describe('preflight', () => {
  it('is content with a bench that is ready', () => {
    expect(preflight(sound).map(({ key, ok }) => [key, ok])).toEqual([
      ['locks', true],
      ['room', true],
      ['sensors', true],
      ['fans', true],
      ['cut-outs', true],
      ['rehearsal', true],
      ['seat', true],
      ['cold', true],
    ]);
  });

  it.each<[string, PreflightKey, Partial<PreflightInput>, boolean | null, string]>([
    ['a rehearsal', 'rehearsal', {}, true, 'rehearsed 3 days ago: Stop 0.2 s, cut-out 3.4 s'],
    ['a rehearsal of long ago', 'rehearsal', { rehearsal: rehearsed(200) }, null, 'time to do it again'],
    ['a rig that keeps its load', 'rehearsal', { rehearsal: rehearsed(0.5, ['It stayed on.']) }, false, 'rehearsed today: It stayed on.'],
    [
      'a rig that never rehearsed',
      'rehearsal',
      { rehearsal: { simulated: false, newest: null } },
      false,
      'never showed that its load goes off',
    ],
    ['a simulated one', 'rehearsal', { rehearsal: { simulated: true, newest: null } }, null, 'never rehearsed'],
    ['a lock nobody confirmed', 'locks', { confirmed: [{ name: 'Firmware', done: false }] }, false, 'not confirmed: Firmware'],
    [
      'a lock that stands elsewhere',
      'locks',
      { watched: [{ ...sound.watched[0]!, series: flat(54, 12, 0) }] },
      false,
      'stands at 54.0 %, not 60',
    ],
    ['no locks', 'locks', { confirmed: [], watched: [] }, true, 'nothing is held'],
    ['a dead room probe', 'room', { room: flat(NaN) }, false, 'shows nothing'],
    ['no room probe where none is needed', 'room', { room: null, needsRoom: false }, null, 'shows nothing'],
    ['a room outside its band', 'room', { room: flat(27) }, false, 'outside the band of 20 to 25 °C'],
    ['a silent sensor', 'sensors', spot(null), false, 'Controller shows nothing'],
    ['an impossible reading', 'sensors', spot(flat(400)), false, 'cannot be'],
    ['a part colder than the room', 'sensors', spot(flat(12)), false, 'colder than the room'],
    ['a fine sensor that stands still', 'sensors', spot(flat(31.2, 12, 0)), false, 'stands still at 31.2 °C'],
    ['a whole-degree sensor may', 'sensors', spot(flat(31, 12, 0)), true, 'plausible'],
    ['one sample says nothing of standing still', 'sensors', spot(flat(31.2, 1, 0)), true, 'plausible'],
    ['only hand readings', 'sensors', { spots: [] }, null, 'by hand'],
    [
      'a fan that stands',
      'fans',
      { fans: [{ name: 'Fan 1', rpm: flat(0, 12, 0), dutyPercent: 60, usual: null }] },
      false,
      'Fan 1 shows no speed',
    ],
    [
      'a fan that is told to stand',
      'fans',
      { fans: [{ name: 'Fan 1', rpm: flat(0, 12, 0), dutyPercent: 0, usual: null }] },
      true,
      'Fan 1 0',
    ],
    [
      'a fan on another header',
      'fans',
      { fans: [{ name: 'Fan 1', rpm: flat(1270, 12, 5), dutyPercent: 60, usual: { perDuty: 32, within: 0.1, dutyPercent: 60 } }] },
      false,
      'Fan 1 turns 34 % slower',
    ],
    [
      'a fan as fast as ever',
      'fans',
      { fans: [{ name: 'Fan 1', rpm: flat(1860, 12, 5), dutyPercent: 60, usual: { perDuty: 32, within: 0.1, dutyPercent: 60 } }] },
      true,
      'Fan 1 186',
    ],
    [
      'a fan at a duty that no run had',
      'fans',
      { fans: [{ name: 'Fan 1', rpm: flat(1270, 12, 5), dutyPercent: 30, usual: { perDuty: 32, within: 0.1, dutyPercent: 60 } }] },
      true,
      'Fan 1 127',
    ],
    ['no fan at all', 'fans', { fans: [] }, null, 'no fan'],
    ['nothing to arm', 'cut-outs', { spots: [] }, false, 'none can be armed'],
    ['a mount unlike the others', 'seat', { seat: 'off' }, false, 'unlike'],
    ['a part still warm', 'cold', spot(flat(36)), false, '4.9 K warmer than its usual idle'],
    ['a first run', 'cold', spot(flat(31), null), null, 'no earlier idle'],
  ])('%s', (_what, key, change, ok, text) => {
    const found = check(key, change);
    expect(found.ok).toBe(ok);
    expect(found.text).toContain(text);
  });
});
