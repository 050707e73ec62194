import { afterAll, beforeAll, expect, it } from 'vitest';
import type { LogStudy, StagedLog, TwinReading } from '@red-ember/contract';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

/** A drive whose own sensor says so much of what its hottest part comes to over the room. */
function log(says: (hottestC: number) => number): string {
  const rows = Array.from({ length: 3600 }, (_, s) => {
    const warm = s < 600 ? 0 : -Math.expm1(-(s - 600) / 200);
    const controller = 30 + 52 * warm + 0.1 * Math.sin(s);
    const flash = 29 + 30 * warm;
    return [s, controller, flash, says(controller), 22, s < 600 ? 0 : 3000].map((value) => value.toFixed(2)).join(',');
  });
  return ['time s,Controller C,Flash top C,Drive says C,Room C,MB/s', ...rows].join('\n');
}

async function agreements(name: string, content: string): Promise<TwinReading[]> {
  const form = new FormData();
  form.append('log', new Blob([content]), name);
  const staged = (await bench.call('POST', '/api/v1/logs', form)).json as StagedLog;
  const made = await bench.call('POST', '/api/v1/logs/study', { logs: [{ id: staged.id }] });
  expect(made.status, made.text).toBe(201);
  const { study } = made.json as LogStudy;
  expect(study.spots.every(({ twinOf }) => twinOf === null)).toBe(true);
  return (await bench.call('GET', `/api/v1/studies/${study.id}/agreements`)).json as TwinReading[];
}

it('holds the drive’s own sensor against the hottest part that something is attached to, with nobody having paired them', async () => {
  const [twin, ...others] = await agreements(
    'Thistle 4T bare.csv',
    log((hottestC) => 8 + 0.72 * hottestC),
  );
  expect(others).toEqual([]);
  // Reads 0.72 of it: near its limit the gap is wider than in the middle.
  expect(twin!.biasAtLimitK).toBeGreaterThan(twin!.agreement.bias.value);
  expect(twin!.flag).toMatch(
    /^Drive says reads about \d+\.\d K less near its limit than Controller, the hottest attached to a part of its kind/,
  );
});

it('says nothing where it lies higher', async () => {
  const [twin] = await agreements(
    'Thistle 4T lid.csv',
    log((hottestC) => hottestC + 4),
  );
  expect(twin!.flag).toBeNull();
});
