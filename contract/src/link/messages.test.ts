import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MAX_SAMPLES_PER_MESSAGE, parseRigMessage } from './messages.ts';

const hello = { type: 'hello', version: 1, rig: { id: 'a', name: 'A' }, channels: [{ key: 'tc1', unit: '°C' }], setups: [], run: null };
const samples = { type: 'samples', runId: 'r', seq: 1, tMs: [1000, 2000], values: { tc1: [40, null] } };
const reasonOf = (message: unknown) => {
  const parsed = parseRigMessage(typeof message === 'string' ? message : JSON.stringify(message));
  return parsed.ok ? null : parsed.reason;
};

describe('a message of a rig', () => {
  it('is taken as it is where it is sound', () => {
    expect(parseRigMessage(JSON.stringify(samples))).toEqual({ ok: true, message: samples });
    expect(reasonOf(hello)).toBeNull();
    expect(
      reasonOf({ ...hello, controls: [{ key: 'vent', label: 'Vent', unit: '', usual: 'open', choices: ['open', 'shut'] }] }),
    ).toBeNull();
    expect(reasonOf({ type: 'look', lookId: 'l', tMs: [1], values: { tc1: [40] } })).toBeNull();
  });

  it.each([
    ['a control without bounds', { ...hello, controls: [{ key: 'fan', label: 'Fan', unit: '%' }] }, 'needs choices, or least below most'],
    [
      'bounds the wrong way round',
      { ...hello, controls: [{ key: 'fan', label: 'Fan', unit: '%', least: 9, most: 1 }] },
      'least below most',
    ],
    ['a control without a name', { ...hello, controls: [{ key: 'fan', unit: '%', least: 0, most: 1 }] }, 'key and label'],
    ['controls that are none', { ...hello, controls: 'all' }, 'up to 32 controls'],
    ['faults that are none', { ...hello, faults: [7] }, 'key and label'],
    ['a look without its id', { type: 'look', tMs: [1], values: {} }, 'without its id'],
    ['a look of ragged columns', { type: 'look', lookId: 'l', tMs: [1, 2], values: { a: [1] } }, 'another number of values'],
    ['a million samples at once', { ...samples, tMs: Array.from({ length: 20_000 }, (_, i) => i) }, `up to ${MAX_SAMPLES_PER_MESSAGE}`],
    ['a value that is text', { ...samples, values: { tc1: [40, 'hot'] } }, 'neither a number nor null'],
    ['a time between milliseconds', { ...samples, tMs: [1000.5, 2000] }, 'whole number of milliseconds'],
    ['a time beyond what a record holds', { ...samples, tMs: [1000, 2 ** 32 + 1000] }, 'whole number of milliseconds up to'],
    ['a column of the program', '{"type":"samples","runId":"r","seq":1,"tMs":[1],"values":{"__proto__":[1]}}', 'no name for a channel'],
    ['a channel of the program', { ...hello, channels: [{ key: 'constructor', unit: '°C' }] }, 'no name for a channel'],
    ['two channels of one name', { ...hello, channels: [hello.channels[0], hello.channels[0]] }, 'two channels of one name'],
    ['a family that nobody knows', { ...hello, rig: { ...hello.rig, family: 'toaster' } }, 'family of parts that is not known'],
    ['a speed that is none', { ...hello, rig: { ...hello.rig, fastestMs: 0 } }, 'fastestMs'],
    ['a hello of a megabyte', { ...hello, setups: [{ key: 'a', label: 'x'.repeat(1e6) }] }, 'more than 64 KiB'],
    ['a set-up without a name', { ...hello, setups: [{ key: 'a' }] }, 'key and label'],
    ['a run of no number', { ...hello, run: { runId: 'r', lastSeq: 1.5, loadPercent: 0 } }, 'lacks runId, lastSeq or loadPercent'],
    ['a latch that says nothing', { ...hello, run: { runId: 'r', lastSeq: 1, loadPercent: 0, latched: {} } }, 'lacks runId'],
    ['an event of another kind', { type: 'event', runId: 'r', tMs: 1, kind: 'x', text: 'x' }, 'kind that is not known'],
    ['an event beyond time', { type: 'event', runId: 'r', tMs: 2 ** 40, kind: 'note', text: 'x' }, 'event needs'],
    ['a load of 300 %', { type: 'state', runId: 'r', loadPercent: 300 }, 'from 0 to 100'],
    ['a sequence number of nought', { ...samples, seq: 0 }, 'sequence number from 1'],
  ])('%s is refused with a sentence', (_what, message, reason) => {
    expect(reasonOf(message)).toContain(reason);
  });

  it('never throws, whatever comes', () => {
    const parses = (text: string) => {
      expect(typeof parseRigMessage(text).ok).toBe('boolean');
    };
    fc.assert(fc.property(fc.string(), parses), { numRuns: 500, seed: 7 });
    fc.assert(fc.property(fc.json(), parses), { numRuns: 500, seed: 7 });
  });

  it('never takes one with a part replaced by something else that the server would stumble over', () => {
    const anything = fc.oneof(fc.anything({ maxDepth: 2 }), fc.constantFrom(null, NaN, -1, 1e308, '', [], {}));
    const path = fc.constantFrom('runId', 'seq', 'tMs', 'values', 'type');
    fc.assert(
      fc.property(path, anything, (key, value) => {
        let text: string | undefined;
        try {
          text = JSON.stringify({ ...samples, [key]: value });
        } catch {
          return; // what JSON cannot hold cannot be sent
        }
        const parsed = parseRigMessage(text);
        if (!parsed.ok) {
          expect(parsed.reason.length).toBeGreaterThan(5);
          return;
        }
        const message = parsed.message as typeof samples;
        expect(typeof message.runId).toBe('string');
        expect(Number.isSafeInteger(message.seq) && message.seq >= 1).toBe(true);
        expect(message.tMs.every((t, i) => Number.isSafeInteger(t) && (i === 0 || t > message.tMs[i - 1]!))).toBe(true);
        for (const column of Object.values(message.values)) expect(column).toHaveLength(message.tMs.length);
      }),
      { numRuns: 800, seed: 11 },
    );
  });
});
