import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { linesSource } from './lines.ts';
import { flattened, polled, POLLED_LINES } from './polled.ts';

let folder: string;
let feed: Readable | null = null;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-poll-'));
});
afterEach(() => {
  feed?.destroy();
  rmSync(folder, { recursive: true, force: true });
});
const until = async (done: () => boolean) => {
  for (let i = 0; i < 500 && !done(); i++) await new Promise((next) => setTimeout(next, 10));
  expect(done()).toBe(true);
};
const COMMAND = { setup: '', seed: 1, mountSeed: 1 };
const DOCUMENT = {
  'board-isa-0290': { Adapter: 'bus', 'fan1': { fan1_input: 1180 }, 'SYSTIN': { temp1_input: 31.5, temp1_type: 'diode' }, 'in0': { in0_input: 1.2 } }, // prettier-ignore
  card: [{ power: '61.5', clock_mhz: 2400 }],
};

describe('a document that is asked for', () => {
  it('gives its numbers by their way into it', () => {
    expect(flattened(DOCUMENT)).toEqual({
      'board-isa-0290/fan1/fan1_input': 1180,
      'board-isa-0290/SYSTIN/temp1_input': 31.5,
      'board-isa-0290/in0/in0_input': 1.2,
      'card/0/power': 61.5,
      'card/0/clock_mhz': 2400,
    });
    expect(flattened({ a: null, b: '', c: true, d: [] })).toEqual({});
  });
  it('is no temperature where its names say otherwise', () => {
    const unit = (way: string) => POLLED_LINES.kindOf(way)?.unit ?? null;
    expect(Object.keys(flattened(DOCUMENT)).map(unit)).toEqual(['rpm', '°C', 'V', 'W', 'MHz']);
    expect(unit('lid')).toBeNull();
  });
  it('is read from a file as it changes; one that cannot be read is said once, and old values are not kept', async () => {
    const file = join(folder, 'now.json');
    const said: string[] = [];
    let clock = 0;
    writeFileSync(file, '{"lid": 41}');
    feed = polled({ file }, 20, (text) => said.push(text));
    const source = await linesSource(feed, { reader: POLLED_LINES, now: () => clock });
    const readings = source.begin(COMMAND);
    writeFileSync(file, '{"lid": 42}');
    await until(() => readings.read(1, 0).lid === 42);
    writeFileSync(file, '{"lid": 4');
    await until(() => said.length > 0);
    await new Promise((next) => setTimeout(next, 100));
    expect(said.length).toBe(1);
    clock = 5001;
    expect(readings.read(1, 0)).toEqual({ lid: null });
    writeFileSync(file, '{"lid": 43}');
    await until(() => readings.read(1, 0).lid === 43);
  });
  it('is what a command prints, one question at a time', async () => {
    const count = join(folder, 'count');
    writeFileSync(count, '');
    feed = polled({ command: `echo x >> "${count}"; echo '{"tc": '$(wc -l < "${count}")'}'` }, 30, () => {});
    const readings = (await linesSource(feed, { reader: POLLED_LINES })).begin(COMMAND);
    await until(() => (readings.read(1, 0).tc ?? 0) >= 3);
  });
  it('says why a command gave none', async () => {
    const said: string[] = [];
    feed = polled({ command: 'exit 3' }, 50, (text) => said.push(text));
    await until(() => said.length > 0);
    expect(said[0]).toContain('exit 3');
  });
});
