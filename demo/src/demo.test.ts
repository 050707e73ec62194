import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { callWords, carry, judgeRetest, ladderSteps, measured, phasesOf, rankLineUp, suspects } from '@red-ember/core';
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
}, 300_000);
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
    for (const body of BODIES) {
      expect(check(StudyBody, body)).toMatchObject({ ok: true });
      // What is said of a variant is said of one that is there; of three or more it has to be.
      const ids = body.variants.map((variant) => variant.id);
      for (const { variantId } of [...body.claims, ...body.predictions])
        expect([...ids, ...(ids.length > 2 ? [] : [undefined])], body.title).toContain(variantId);
    }
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

  it('knows from its own clean runs how well the bench repeats, untouched and refitted', () => {
    const scatter = services.verdicts.scatter('demo-slot-lid');
    const flash = scatter.find((entry) => entry.componentClass === 'flash')!;
    expect(Math.min(flash.remounted!.dof, flash.untouched!.dof)).toBeGreaterThan(3);
    // Run 6 of the lid, in a room that rose by six kelvin, would make it three times as much.
    for (const { sd } of [flash.remounted!, flash.untouched!]) expect(sd > 0.1 && sd < 0.5).toBe(true);
    // A verdict says which other studies lend it theirs.
    const { lentBy } = services.verdicts.pair('demo-slot-lid');
    expect(lentBy.map(({ studyId }) => studyId)).toContain('demo-repeatability');
    expect(lentBy.map(({ studyId }) => studyId)).not.toContain('demo-slot-lid');
    expect(lentBy.every(({ runs, variants }) => runs > variants)).toBe(true);
    expect(services.verdicts.scatter('demo-armour').every((entry) => entry.untouched === null)).toBe(true);
  });

  it('has a study that is decided at its first look, and one that is withheld', () => {
    const early = services.verdicts.pair('demo-salvaged').judgement;
    expect(early.findings.find(({ check }) => check === 'looks')!.evidence).toContain('Look 1 of 5');
    expect(early.spots[0]!.call.kind).toBe('cooler');
    expect(services.verdicts.next('demo-salvaged').acts.length).toBeGreaterThan(0);
    expect(services.verdicts.pair('demo-loop').judgement.spots.some(({ call }) => call.kind === 'withheld')).toBe(true);
  });

  it('knows how long like parts took to settle, a board far longer than a drive', () => {
    expect(services.runs.settledLoads('demo-slot-lid')).toHaveLength(5);
    expect(Math.min(...services.runs.settledLoads('demo-slot-lid'))).toBeGreaterThan(900);
    expect(Math.min(...services.runs.settledLoads('demo-armour'))).toBeGreaterThan(1800);
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

  it('leaves out the first mount of the retrofit, with the reason, and finds the pump on the wrong header', () => {
    const retrofit = services.verdicts.pair('demo-retrofit', 'ret-00', 'ret-10').judgement;
    expect(retrofit.leftOut.map((entry) => entry.reason)).toEqual([expect.stringMatching(/^Rejected at sign-off: One strip/)]);
    const [wrong, right] = ['ret-10', 'ret-11'].map((id) => services.runs.ofStudy('demo-retrofit').find((run) => run.variantId === id)!.id);
    const stages = (id: string) =>
      services.readings.readings(id).review.spots.find((spot) => spot.spotId === 'ret-stages')!.load!.rise!.mean.value;
    expect(stages(wrong!) - stages(right!)).toBeGreaterThan(10);
    const loop = services.verdicts.pair('demo-shared-loop', 'hyb-10', 'hyb-slow').judgement;
    const of = (spotId: string) => loop.spots.find((spot) => spot.spotId === spotId)!.comparison!;
    expect([of('hyb-die').verdict, of('hyb-processor').verdict]).toEqual(['a-cooler', 'no-call']);
  });

  it('says of every pair of every study the same on the page of two sides, in the ranking and in the report', () => {
    const seen = { blocked: 0, withheld: 0, apart: 0 };
    for (const { id, title } of services.studies.list()) {
      const { field } = services.verdicts.lineUp(id);
      for (const { id: spotId } of services.studies.get(id).spots) {
        if (field.sides.filter((side) => side.runs.some(({ figures }) => figures[spotId])).length < 2) continue;
        for (const { a, b, difference, different, call } of rankLineUp(field, { spotId }).pairs) {
          const { judgement, refusal } = services.verdicts.pair(id, a, b);
          const where = `${title}: ${spotId}, ${a} and ${b}`;
          const spot = judgement.spots.find((candidate) => candidate.spotId === spotId)!;
          // What the one refuses or holds back the other does not call, and for the same reason.
          expect(spot.call.kind === 'blocked', where).toBe(call?.kind === 'blocked');
          expect(spot.call.kind === 'withheld', where).toBe(call?.kind === 'withheld');
          if (call?.kind === 'blocked') seen.blocked++;
          if (call?.kind === 'withheld') seen.withheld++;
          if (!different) continue;
          seen.apart++;
          expect(refusal, where).toBeNull();
          // Told apart among all of them: by itself the pair says the same side.
          const [low, high] = spot.comparison!.interval;
          expect(difference < 0 ? high < 0 : low > 0, where).toBe(true);
          expect(spot.call.kind, where).not.toBe(difference < 0 ? 'warmer' : 'cooler');
        }
      }
      const report = services.reports.page(id).text.replace(/<[^>]+>/g, '');
      for (const { call, comparison } of services.verdicts.pair(id).judgement.spots) {
        if (!comparison) continue;
        const shown = measured(comparison.difference.value, comparison.budget.expanded, 'K', { sign: true });
        const { words } = callWords(call, services.verdicts.pair(id).judgement.b.name);
        expect(report, title).toContain(`${shown}, ${words}`);
      }
    }
    expect(Math.min(seen.blocked, seen.withheld, seen.apart), JSON.stringify(seen)).toBeGreaterThan(0);
  }, 120_000);

  it('lets free fans hide what a better interface gains, and locked ones show it', () => {
    const of = (id: string, spotId: string) =>
      services.verdicts.pair(id).judgement.spots.find((spot) => spot.spotId === spotId)!.comparison!;
    expect(of('demo-pad-free', 'padf-die').verdict).toBe('no-call');
    expect(of('demo-pad-locked', 'padl-die').verdict).toBe('b-cooler');
  });

  it('blocks the card that a small processor starves, though it looks far cooler', () => {
    const { judgement, sentence } = services.verdicts.pair('demo-tight-case', 'tight-fed', 'tight-starved', { load: 'Case fans, 100' });
    expect(judgement.spots[0]!.comparison!.difference.value).toBeLessThan(-8);
    expect(judgement.blockedBy[0]!.evidence).toContain('small processor was kept busy only');
    expect(sentence.map((segment) => segment.text).join('')).toMatch(/^Small processor against quick processor is blocked/);
  });

  it('compares all runs at a level, whatever else they stood at', () => {
    const { judgement } = services.verdicts.pair('demo-armour', 'level:Small fan=off', 'level:Small fan=on');
    // One of the four with the fan off throttled while it was read.
    expect([judgement.a.runIds.length, judgement.b.runIds.length, judgement.leftOut.length]).toEqual([3, 2, 1]);
    expect(judgement.a.name).toBe('Small fan off');
  });

  it('ranks the pastes with the bad one apart, and picks differently for different readers', () => {
    const { sides } = rankLineUp(services.verdicts.lineUp('demo-pastes').field, { spotId: 'pst-die' });
    expect(sides.at(-1)!.name).toBe('paste Z');
    expect(sides.at(-1)!.groups).not.toContain(sides.at(-2)!.groups);
    expect(sides[0]!.groups).toContain(sides[1]!.groups[0]);
  });

  it('climbs the ladder of fixes: delayed, delayed, ended', () => {
    const { field } = services.verdicts.lineUp('demo-fixes');
    const steps = ladderSteps(field, ['fix-0', 'fix-1', 'fix-2', 'fix-3'], 'fix-stage');
    expect(steps.map((step) => step.throttling)).toEqual(['began', 'delayed', 'delayed', 'ended']);
  });

  it('finds what made the odd board odd, and clears what did not', () => {
    const { field } = services.verdicts.lineUp('demo-odd-board');
    const of = (id: string) => field.sides.find((side) => side.variantId === id)!;
    const say = (id: string) => judgeRetest(field, 'odd-side', of('odd-c7-v'), of('odd-c3-v'), of(id)).outcome;
    expect([say('odd-r-fan'), say('odd-r-firmware')]).toEqual(['it-was', 'it-was-not']);
    expect(suspects(of('odd-c7-v'), of('odd-c3-v')).map((suspect) => suspect.name)).toEqual(expect.arrayContaining(['Firmware', 'fan']));
  });

  it('has watts for every component of the board, and the same one binds in either air', () => {
    const { field } = services.verdicts.lineUp('demo-watts-steps');
    const study = services.studies.get('demo-watts-steps');
    const points = (spotId: string) => field.sides[0]!.workRuns.flatMap((run) => run.points[spotId]!);
    const spots = study.spots.map(({ id, name, limitC, limitSource }) => ({ id, name, limitC, limitSource, points: points(id) }));
    const [bench, warm] = [22.5, 31.5].map((airC) => carry({ spots, airC, marginK: 5, coverage: 0.95 }));
    expect(bench!.spots.every((spot) => spot.points === 3 && spot.maxW !== null)).toBe(true);
    expect(warm!.binding!.id).toBe(bench!.binding!.id);
    expect(warm!.binding!.maxW!.value).toBeLessThan(bench!.binding!.maxW!.value);
  });

  it('says what each change of the long session did, and where a third case fan stops helping', () => {
    const session = services.verdicts.lineUp('demo-long-session', {}, 'long-case').field;
    expect(session.sides.map((side) => side.name)).toEqual([
      'Show player on three outputs',
      'Vent blocked',
      'Power limit to 290 W',
      'Vent open again',
      'Side opened',
    ]);
    const steps = ladderSteps(
      session,
      session.sides.map((side) => side.variantId),
      'long-mem',
    );
    // A card that its own heat holds back draws no more when it is allowed to.
    expect(steps.slice(1).map((step) => step.step!.verdict)).toEqual(['a-cooler', 'equivalent', 'b-cooler', 'b-cooler']);
    const layout = services.verdicts.lineUp('demo-layout').field;
    expect(layout.sides.every((side) => side.runs.length === 1 && side.runs[0]!.roomC === null)).toBe(true);
  });

  it('answers every job of the list where the list says so', () => {
    const text = readFileSync(new URL('../../docs/jobs.md', import.meta.url), 'utf8');
    const rows = text.split('\n').filter((line) => /^\| J\d\d/.test(line));
    expect(rows).toHaveLength(21);
    const ids = new Set(services.studies.list().map((study) => study.id));
    for (const row of rows) {
      const named = [...row.matchAll(/`(demo-[a-z-]+)`/g)].map((match) => match[1]!);
      expect(named.length, row).toBeGreaterThan(0);
      for (const id of named) expect(ids, row).toContain(id);
    }
  });

  it('makes a report that stands alone, and a table with a line for every run and spot', () => {
    const page = services.reports.page('demo-slot-lid').text;
    expect(page).toMatch(/^<!doctype html>/);
    expect(page.match(/<svg/g)!.length).toBeGreaterThanOrEqual(9);
    expect(page).toContain('Left out: slot lid, run 6.');
    // What was set for each of six runs beside what was to be held, and where each spot is.
    expect(page.match(/Firmware: LH-2\.4/g)!).toHaveLength(7);
    for (const { place } of services.studies.get('demo-slot-lid').spots) if (place) expect(page).toContain(place);
    expect(page).not.toMatch(/<script|https?:\/\//);
    expect(services.reports.csv('demo-slot-lid').text.trim().split('\r\n')).toHaveLength(1 + 6 * 4);
  });
});
