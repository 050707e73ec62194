import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { phasesOf } from '@red-ember/core';
import { check, StudyBody } from '@red-ember/contract';
import { DriveBench, SIMULATED } from '@red-ember/rig';
import { createServices, openDatabase, type Services } from '@red-ember/server';
import { seedDemo } from './index.ts';
import * as scenario from './scenario/index.ts';

let folder: string;
let services: Services;
let close: () => void;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-demo-'));
  const db = openDatabase(folder);
  services = createServices(db, folder, () => {});
  close = () => {
    services.close();
    db.close();
    rmSync(folder, { recursive: true, force: true });
  };
  seedDemo(services);
}, 120_000);
afterAll(() => close());

const BODIES = Object.values(scenario).filter((value): value is StudyBody => typeof value === 'object' && 'recipe' in value);

/** What the simulator knows and the verdict must find: settled rise of the true temperatures, without sensors or noise. */
function trueRise(setup: string, node: string): number {
  const bench = new DriveBench({ setup, seed: 1, mountSeed: 1, room: { startC: 22.4, driftKPerH: 0, wanderK: 0 } });
  for (let s = 0; s < 7200; s++) bench.step(1, 100);
  return bench.truth[node]! - bench.truth.room!;
}

describe('the demo', () => {
  it("is written in the contract's own terms", () => {
    for (const body of BODIES) expect(check(StudyBody, body)).toMatchObject({ ok: true });
  });

  it('can run what it has set up: every set-up, channel and control is on a simulated bench', () => {
    const keysOf = (entries: readonly { key: string }[]) => entries.map((entry) => entry.key);
    for (const body of BODIES) {
      const family = SIMULATED[body.family];
      for (const { setup, name } of body.variants)
        if (setup !== '') expect(keysOf(family.setups), `${body.title}, ${name}`).toContain(setup);
      if (body.variants.every(({ setup }) => setup === '')) continue;
      const channels = keysOf(family.channels);
      for (const spot of body.spots) expect(channels, `${body.title}, ${spot.name}`).toContain(spot.channel);
      for (const lock of body.locks) if (lock.channel !== '') expect(channels, `${body.title}, ${lock.name}`).toContain(lock.channel);
      for (const phase of phasesOf(body.recipe))
        for (const { control } of phase.set ?? []) expect(keysOf(family.controls), `${body.title}, ${phase.name}`).toContain(control);
    }
    expect(BODIES.filter((body) => body.variants.every(({ setup }) => setup !== '')).length).toBeGreaterThan(8);
  });

  it('knows from its own runs how well the bench repeats, refitted worse than untouched', () => {
    const scatter = services.verdicts.scatter('demo-slot-lid');
    const flash = scatter.find((entry) => entry.componentClass === 'flash')!;
    expect(flash.remounted!.dof).toBeGreaterThan(flash.untouched!.dof);
    expect(flash.remounted!.sd).toBeGreaterThan(flash.untouched!.sd);
    expect(services.verdicts.scatter('demo-armour').every((entry) => entry.untouched === null)).toBe(true);
  });

  it('knows how long like parts took to settle, and nothing of families that never ran', () => {
    expect(services.runs.settledLoads('demo-slot-lid')).toHaveLength(5);
    expect(Math.min(...services.runs.settledLoads('demo-slot-lid'))).toBeGreaterThan(900);
    expect(services.runs.settledLoads('demo-armour')).toEqual([]);
  });

  it('is not added twice, also while it is in the trash', () => {
    expect(seedDemo(services)).toEqual([]);
    services.studies.trash('demo-repeatability');
    expect(seedDemo(services)).toEqual([]);
    services.studies.bringBack('demo-repeatability');
  });

  it('catches the planted problem: the run during which the room warmed is left out', () => {
    const { judgement } = services.verdicts.pair('demo-slot-lid');
    expect(judgement.leftOut.map((entry) => entry.label)).toEqual(['slot lid, run 6']);
    expect(judgement.leftOut[0]!.reason).toContain('room rose');
    const { review } = services.readings.readings(judgement.leftOut[0]!.runId);
    const others = judgement.b.runIds.map((id) => services.readings.readings(id).review.spots[2]!.load!.rise!.mean.value);
    // Left in, it would have made the lid look more than two kelvin better than it is.
    expect(Math.min(...others) - review.spots[2]!.load!.rise!.mean.value).toBeGreaterThan(2);
  });

  it('agrees with the truth of the simulator: intervals hold it, the right side is named', () => {
    const { judgement, claims, predictions } = services.verdicts.pair('demo-slot-lid');
    for (const [spotId, node, verdict] of [
      ['lid-controller', 'controller', 'a-cooler'],
      ['lid-flash-top', 'flashTop', 'b-cooler'],
      ['lid-flash-under', 'flashUnder', 'a-cooler'],
    ] as const) {
      const truth = trueRise('slot-lid', node) - trueRise('bare', node);
      const { interval, verdict: named } = judgement.spots.find((spot) => spot.spotId === spotId)!.comparison!;
      expect(named, spotId).toBe(verdict);
      expect(interval[0], spotId).toBeLessThan(truth);
      expect(interval[1], spotId).toBeGreaterThan(truth);
    }
    expect(claims.map((claim) => claim.outcome)).toEqual(['contradicted', 'not-shown']);
    expect(predictions.map((prediction) => prediction.outcome)).toEqual(['missed', 'right']);
  });

  it('makes a report that stands alone, and a table with a line for every run and spot', () => {
    const page = services.reports.page('demo-slot-lid').text;
    expect(page).toMatch(/^<!doctype html>/);
    expect(page.match(/<svg/g)!.length).toBeGreaterThanOrEqual(9);
    expect(page).toContain('Left out: slot lid, run 6.');
    expect(page).not.toMatch(/<script|https?:\/\//);
    expect(services.reports.csv('demo-slot-lid').text.trim().split('\r\n')).toHaveLength(1 + 6 * 4);
  });
});
