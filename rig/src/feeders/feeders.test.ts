import { once } from 'node:events';
import { boundedLines } from './boundedLines.ts';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import * as fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { findSensors, kernelSource, readSensor } from './kernelSensors.ts';
import { linesSource, parseLine } from './lines.ts';
import { runOnLoad } from './runOnLoad.ts';

let tree: string;
beforeEach(() => {
  tree = mkdtempSync(join(tmpdir(), 'red-ember-hwmon-'));
});
afterEach(() => rmSync(tree, { recursive: true, force: true }));

/** A chip as the kernel shows it: files with one number each. */
function chip(folder: string, name: string, files: Record<string, string>): void {
  mkdirSync(join(tree, folder));
  writeFileSync(join(tree, folder, 'name'), `${name}\n`);
  for (const [file, text] of Object.entries(files)) writeFileSync(join(tree, folder, file), `${text}\n`);
}
const until = async (done: () => boolean) => {
  for (let i = 0; i < 400 && !done(); i++) await new Promise((next) => setTimeout(next, 10));
  expect(done()).toBe(true);
};
const COMMAND = { setup: '', seed: 1, mountSeed: 1 };

describe('the sensors of a kernel', () => {
  const machine = () => {
    chip('hwmon0', 'nvme', { temp1_input: '41850', temp1_label: 'Composite', temp1_crit: '84850', temp2_input: '-5000' });
    chip('hwmon1', 'nvme', { temp1_input: '39850' });
    chip('hwmon10', 'board', {
      temp10_input: '30000',
      temp2_input: '29000',
      fan1_input: '1180',
      power1_average: '61500000',
      power1_input: '99000000',
      in0_input: '1200',
    });
  };

  it('are found with their labels, scaled to the units of the link, twins told apart', () => {
    machine();
    const sensors = findSensors(tree);
    expect(sensors.map(({ key, label, unit }) => [key, label, unit])).toEqual([
      ['nvme/temp1', 'nvme, Composite', '°C'],
      ['nvme/temp2', 'nvme, temp 2', '°C'],
      ['nvme-2/temp1', 'nvme-2, temp 1', '°C'],
      ['board/temp2', 'board, temp 2', '°C'],
      ['board/temp10', 'board, temp 10', '°C'],
      ['board/fan1', 'board, fan 1', 'rpm'],
      ['board/power1', 'board, power 1', 'W'],
    ]);
    expect(sensors.map(readSensor)).toEqual([41.85, -5, 39.85, 29, 30, 1180, 61.5]);
  });

  it('read as missing where a chip does not answer, and are offered as the room where asked', () => {
    machine();
    const source = kernelSource(tree, { room: 'board/temp2' });
    expect(source.channels.at(-1)).toEqual({ key: 'room', label: 'Room, by board, temp 2', quantity: 'temperature', unit: '°C' });
    const readings = source.begin(COMMAND);
    expect(readings.read(1, 0)).toMatchObject({ room: 29, 'nvme/temp1': 41.85 });
    writeFileSync(join(tree, 'hwmon0', 'temp1_input'), 'nonsense\n');
    rmSync(join(tree, 'hwmon1'), { recursive: true });
    expect(readings.read(1, 0)).toMatchObject({ room: 29, 'nvme/temp1': null, 'nvme-2/temp1': null });
  });

  it('say what is missing', () => {
    expect(() => kernelSource(join(tree, 'nowhere'))).toThrow('No sensors under');
    machine();
    expect(() => kernelSource(tree, { room: 'board/temp9' })).toThrow('there are nvme/temp1,');
  });
});

describe('readings by lines', () => {
  const say = (stream: PassThrough, ...lines: unknown[]) => {
    for (const line of lines) stream.write(`${typeof line === 'string' ? line : JSON.stringify(line)}\n`);
  };

  it('take their channels from the first line; what a later one leaves out is missing', async () => {
    const stream = new PassThrough();
    const said: string[] = [];
    const opening = linesSource(stream, { log: (text) => said.push(text) });
    say(stream, '# logger v2', '', { at: '2026-03-01T10:00:00Z', tc1: 41.2, room: 22, power: 61 });
    const source = await opening;
    expect(said).toEqual(['Line 1 is left out: not JSON.']);
    expect(source.channels.map(({ key, quantity, unit }) => [key, quantity, unit])).toEqual([
      ['tc1', 'temperature', '°C'],
      ['room', 'temperature', '°C'],
      ['power', 'power', 'W'],
    ]);
    const readings = source.begin(COMMAND);
    expect(readings.read(1, 0)).toEqual({ tc1: 41.2, room: 22, power: 61 });
    say(stream, { tc1: 42, tc9: 5 });
    await until(() => readings.read(1, 0).tc1 === 42);
    expect(readings.read(1, 0)).toEqual({ tc1: 42, room: null, power: null });
  });

  it('never repeat an old value', async () => {
    const stream = new PassThrough();
    let now = 1000;
    const opening = linesSource(stream, { now: () => now });
    say(stream, { tc1: 40 });
    const readings = (await opening).begin(COMMAND);
    now += 5000;
    expect(readings.read(1, 0)).toEqual({ tc1: 40 });
    now += 1;
    expect(readings.read(1, 0)).toEqual({ tc1: null });
  });

  it('refuse an input that ends at once, and one with more channels than can be recorded', async () => {
    const empty = new PassThrough();
    const opening = linesSource(empty);
    empty.end();
    await expect(opening).rejects.toThrow('ended before the first reading');
    const wide = new PassThrough();
    const tooMany = linesSource(wide);
    say(wide, Object.fromEntries(Array.from({ length: 65 }, (_, i) => [`c${i}`, i])));
    await expect(tooMany).rejects.toThrow('65 readings');
  });

  it('survive any line: numbers and nulls, or a sentence', () => {
    expect(parseLine('[1]')).toBe('not a JSON object');
    expect(parseLine('{"t":"late"}')).toBe('without a number');
    expect(parseLine('{"a":1e999}')).toBe('without a number');
    expect(parseLine(`{"a":${'1'.repeat(70_000)}}`)).toBe('longer than 64 KiB');
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
        const line = parseLine(text);
        if (typeof line === 'string') expect(line.length).toBeGreaterThan(5);
        else for (const value of Object.values(line)) expect(value === null || Number.isFinite(value)).toBe(true);
      }),
    );
  });
});

describe('lines that are bounded', () => {
  const linesOf = async (parts: (string | Buffer)[], most = 10) => {
    const heard: [string, boolean][] = [];
    const input = new PassThrough();
    const ended = new Promise<void>((done) => boundedLines(input, most, (text, whole) => heard.push([text, whole]), done));
    for (const part of parts) if (!input.write(part)) await once(input, 'drain');
    input.end();
    await ended;
    return heard;
  };

  it('come whole from any pieces, with either end, the last without one', async () => {
    const euro = Buffer.from('€');
    expect(await linesOf(['a', 'b\r\nc\n\nd', euro.subarray(0, 1), euro.subarray(1)])).toEqual([
      ['ab', true],
      ['c', true],
      ['', true],
      ['d€', true],
    ]);
  });

  it('keep no more of one that does not end than may be, and go on with the next', async () => {
    const parts = Array.from({ length: 300 }, () => 'x'.repeat(65_536));
    const heard = await linesOf([...parts, '\n{"a":1}\n'], 100);
    expect(heard).toEqual([
      ['x'.repeat(100), false],
      ['{"a":1}', true],
    ]);
  });
});

describe('a load by a command', () => {
  it('is told in order, the newest where several wait, and a failing command is said', async () => {
    const file = join(tree, 'loads');
    writeFileSync(file, '');
    const said: string[] = [];
    const load = runOnLoad(`sleep 0.1; echo $RED_EMBER_LOAD >> ${file}; test $RED_EMBER_LOAD != 0`, (text) => said.push(text));
    load(40);
    load(60);
    load(0);
    await until(() => said.length === 1);
    expect(readFileSync(file, 'utf8').trim().split('\n')).toEqual(['40', '0']);
    expect(said[0]).toBe('The load command ended with 1 at 0 %.');
  });
});
