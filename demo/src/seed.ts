import { phasesOf } from '@red-ember/core';
import { type StudyBody } from '@red-ember/contract';
import { cautionsFor } from '@red-ember/study';
import { SIMULATED } from '@red-ember/rig';
import { armedLimits, handHeld, rigChannels, frozenAt, type Desk } from '@red-ember/server';
import {
  bareSurvey,
  CALIBRATIONS,
  INSTRUMENTS,
  REPEATABILITY,
  REPEATABILITY_RUNS,
  SLOT_LID,
  SLOT_LID_RUNS,
  WATTS,
  type DemoRun,
} from './scenario/index.ts';
import { MEASURED } from './scenario/measured.ts';
import { simulateRun } from './simulateRun.ts';

/** The simulated bench of each family, as it calls itself. */
const BENCHES: Record<StudyBody['family'], string> = { drive: 'bench-1', card: 'bench-2', regulator: 'bench-3' };

/** In the order in which they were written down; those without runs are set up and wait for the bench. */
const DEMO: { id: string; body: StudyBody; runs: DemoRun[]; createdAt: string }[] = [
  { id: 'demo-repeatability', body: REPEATABILITY, runs: REPEATABILITY_RUNS, createdAt: '2026-02-12T16:00:00Z' },
  { id: 'demo-watts', body: WATTS, runs: [], createdAt: '2026-02-13T10:00:00Z' },
  ...Object.entries(MEASURED).map(([id, { body, runs }], i) => ({
    id,
    body,
    runs,
    createdAt: new Date(Date.parse('2026-02-14T08:00:00Z') + i * 3_600_000).toISOString(),
  })),
  { id: 'demo-slot-lid', body: SLOT_LID, runs: SLOT_LID_RUNS, createdAt: '2026-03-02T15:30:00Z' },
];

/** What a first look begins with. */
const FIRST = 'demo-slot-lid';
/** Measured whichever way the shelf is filled: every page has something to show. */
const ALWAYS_MEASURED = new Set(['demo-repeatability', 'demo-slot-lid']);

const mountSeedOf = (run: DemoRun): number => run.seed * 7 + run.mount;

function seedMount(services: Desk, studyId: string, body: StudyBody, run: DemoRun): string {
  const have = services.stores.mounts.ofStudy(studyId).find((mount) => mount.variantId === run.variantId && mount.number === run.mount);
  if (have) return have.id;
  return services.stores.mounts.insert({
    studyId,
    variantId: run.variantId,
    madeAt: new Date(Date.parse(run.startedAt) - 1_500_000).toISOString(),
    confirmed: cautionsFor(body.family).map((caution) => caution.key),
    note: '',
    fromVariantId: services.stores.mounts.ofStudy(studyId).at(-1)?.variantId ?? null,
    handsMin: null,
    changed: [],
    done: [],
    skipped: [],
    serial: body.subjects[0]?.serial ?? '',
    by: '',
    seed: mountSeedOf(run),
  });
}

/** What the bench does in a run: the long part, which needs nothing of the database. */
function simulated(body: StudyBody, run: DemoRun): ReturnType<typeof simulateRun> {
  const made = simulateRun(
    {
      setup: body.variants.find((candidate) => candidate.id === run.variantId)!.setup,
      seed: run.seed,
      mountSeed: mountSeedOf(run),
      faults: run.faults ?? [],
      ...(run.heater ? { room: { heater: run.heater } } : {}),
    },
    phasesOf(body.recipe),
    {
      family: body.family,
      spots: body.spots.filter((spot) => !spot.byHand).map((spot) => spot.channel),
      byHand: SIMULATED[body.family].channels.filter((channel) => channel.byHand).map((channel) => channel.key),
    },
  );
  if (run.roomLost) delete made.values.room;
  return made;
}

function seedRun(services: Desk, studyId: string, run: DemoRun, made: ReturnType<typeof simulateRun>): void {
  const study = services.studies.get(studyId);
  const { runs, samples, hand } = services.stores;
  const mountId = seedMount(services, studyId, study, run);
  const lastMs = made.tMs.at(-1)!;
  runs.atomically(() => {
    const channels = rigChannels(study, SIMULATED[study.family].channels).filter(
      (channel) => channel.role === 'hand' || made.values[channel.key],
    );
    const id = runs.insert({
      studyId,
      variantId: run.variantId,
      mountId,
      source: 'rig',
      sourceName: BENCHES[study.family],
      simulated: true,
      state: 'finished',
      startedAt: run.startedAt,
      timeScale: 1,
      ...frozenAt(study, run.variantId),
      confirmedLocks: handHeld(study),
      recipe: phasesOf(study.recipe),
      armed: armedLimits(study),
      seed: run.seed,
      channels,
    });
    for (const channel of channels) if (channel.role !== 'hand') samples.append(id, channel.key, made.tMs, made.values[channel.key]!);
    const timeOf = (ms: number) => new Date(Date.parse(run.startedAt) + ms).toISOString();
    for (const { atMs, text } of made.changes) runs.addEvent(id, atMs, timeOf(atMs), 'change', text);
    hand.add(
      id,
      made.hand.flatMap(({ atMs, key, valueC }) => {
        const spot = study.spots.find((candidate) => candidate.byHand && candidate.channel === key);
        return spot ? [{ spotId: spot.id, atS: atMs / 1000, at: timeOf(atMs), valueC, typed: String(valueC) }] : [];
      }),
    );
    made.phases.forEach((phase, i) => {
      runs.startPhase(id, i, phase, phase.startMs);
      runs.endPhase(id, i, phase.endMs, phase.endedBy);
    });
    runs.setProgress(id, 1, lastMs);
    runs.setState(id, 'finished', new Date(Date.parse(run.startedAt) + lastMs).toISOString(), '');
    if (run.leftOut) runs.setDisposition(id, 'reject', run.leftOut, timeOf(lastMs + 600_000));
    services.runs.correct(id);
  });
}

/** Instruments of the bench and their calibrations, once; one that is there already is left alone. */
function seedInstruments(services: Desk): void {
  const { instruments } = services.stores;
  for (const { id, body } of INSTRUMENTS) {
    if (instruments.find(id)) continue;
    instruments.insert(body, '2026-02-12T15:00:00Z', id);
    for (const calibration of CALIBRATIONS.filter((entry) => entry.instrumentId === id))
      instruments.addCalibration(id, calibration.body, '2026-02-12T15:30:00Z');
  }
}

/**
 * Puts the demo studies on an empty shelf; each is made whole or not at all, and one that is there already, or in the trash, is
 * left alone.
 *
 * A study is simulated first and stored afterwards, so that whoever works on the same bench meanwhile is held up for no longer than that.
 *
 * @param which 'first': the one that a first look begins with, and no other
 * @param fill 'waiting': all but the first studies are set up and have no runs, as on the morning of the first day at the bench
 * @param onStudy told before each study is made: its title, which one it is from 1, and how many there are to make
 * @returns titles of the studies that were added
 */
export function seedDemo(
  services: Desk,
  fill: 'measured' | 'waiting' = 'measured',
  onStudy: (title: string, nth: number, of: number) => void = () => {},
  which: 'all' | 'first' = 'all',
): string[] {
  const known = new Set([...services.studies.list(false), ...services.studies.list(true)].map((study) => study.id));
  const wanted = DEMO.filter(({ id }) => !known.has(id) && (which === 'all' || id === FIRST));
  services.stores.runs.atomically(() => seedInstruments(services));
  for (const [i, { id, body, runs, createdAt }] of wanted.entries()) {
    onStudy(body.title, i + 1, wanted.length);
    const made = fill === 'measured' || ALWAYS_MEASURED.has(id) ? runs.map((run) => ({ run, samples: simulated(body, run) })) : [];
    services.stores.runs.atomically(() => {
      services.stores.studies.insert(body, createdAt, id);
      for (const { run, samples } of made) seedRun(services, id, run, samples);
      if (body === SLOT_LID) {
        const survey = bareSurvey();
        services.stores.surveys.insert(id, survey.body, survey.matrix, createdAt);
      }
    });
    // Read once now, so that the first page of the demo need not wait for it.
    for (const run of services.runs.ofStudy(id)) services.readings.readings(run.id);
  }
  return wanted.map(({ body }) => body.title);
}
