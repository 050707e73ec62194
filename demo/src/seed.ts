import { phasesOf } from '@red-ember/core';
import { cautionsFor, type StudyBody } from '@red-ember/contract';
import { DRIVE_CHANNELS } from '@red-ember/rig';
import { armedLimits, handHeld, rigChannels, settingsOf, type Services } from '@red-ember/server';
import {
  ARMOUR,
  bareSurvey,
  CALIBRATIONS,
  FIVE_BOARDS,
  FIXES,
  HEAT_PATH,
  HOLDING_BACK,
  HOT_DRIVE,
  INSTRUMENTS,
  LAYOUT,
  LONG_SESSION,
  PASTE_ROUND,
  REPEATABILITY,
  REPEATABILITY_RUNS,
  SLOT_LID,
  SLOT_LID_RUNS,
  WATTS,
  type DemoRun,
} from './scenario/index.ts';
import { simulateRun } from './simulateRun.ts';

/** In the order in which they were written down; those without runs are set up and wait for the bench. */
const DEMO: { id: string; body: StudyBody; runs: DemoRun[]; createdAt: string }[] = [
  { id: 'demo-repeatability', body: REPEATABILITY, runs: REPEATABILITY_RUNS, createdAt: '2026-02-20T16:00:00Z' },
  { id: 'demo-armour', body: ARMOUR, runs: [], createdAt: '2026-02-25T10:00:00Z' },
  { id: 'demo-five-boards', body: FIVE_BOARDS, runs: [], createdAt: '2026-02-26T10:00:00Z' },
  { id: 'demo-watts', body: WATTS, runs: [], createdAt: '2026-02-27T10:00:00Z' },
  { id: 'demo-layout', body: LAYOUT, runs: [], createdAt: '2026-02-27T14:00:00Z' },
  { id: 'demo-pastes', body: PASTE_ROUND, runs: [], createdAt: '2026-02-28T09:00:00Z' },
  { id: 'demo-fixes', body: FIXES, runs: [], createdAt: '2026-02-28T11:00:00Z' },
  { id: 'demo-heat-path', body: HEAT_PATH, runs: [], createdAt: '2026-02-28T13:00:00Z' },
  { id: 'demo-holding-back', body: HOLDING_BACK, runs: [], createdAt: '2026-02-28T14:00:00Z' },
  { id: 'demo-hot-drive', body: HOT_DRIVE, runs: [], createdAt: '2026-03-01T09:00:00Z' },
  { id: 'demo-long-session', body: LONG_SESSION, runs: [], createdAt: '2026-03-01T10:00:00Z' },
  { id: 'demo-slot-lid', body: SLOT_LID, runs: SLOT_LID_RUNS, createdAt: '2026-03-02T15:30:00Z' },
];

function seedMount(services: Services, studyId: string, body: StudyBody, run: DemoRun): string {
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
    seed: run.seed * 7 + run.mount,
  });
}

function seedRun(services: Services, studyId: string, run: DemoRun): void {
  const study = services.studies.get(studyId);
  const { runs, samples, mounts } = services.stores;
  const mountId = seedMount(services, studyId, study, run);
  const variant = study.variants.find((candidate) => candidate.id === run.variantId)!;
  const made = simulateRun(
    {
      setup: variant.setup,
      seed: run.seed,
      mountSeed: mounts.find(mountId)!.seed,
      ...(run.heater ? { room: { heater: run.heater } } : {}),
    },
    phasesOf(study.recipe),
    study.spots.map((spot) => spot.channel),
  );
  const lastMs = made.tMs.at(-1)!;
  runs.atomically(() => {
    const channels = rigChannels(study, DRIVE_CHANNELS).filter((channel) => made.values[channel.key]);
    const id = runs.insert({
      studyId,
      variantId: run.variantId,
      mountId,
      source: 'rig',
      sourceName: 'bench-1',
      state: 'finished',
      startedAt: run.startedAt,
      timeScale: 1,
      settings: settingsOf(study, run.variantId),
      confirmedLocks: handHeld(study),
      recipe: phasesOf(study.recipe),
      armed: armedLimits(study),
      seed: run.seed,
      channels,
    });
    for (const channel of channels) samples.append(id, channel.key, made.tMs, made.values[channel.key]!);
    made.phases.forEach((phase, i) => {
      runs.startPhase(id, i, phase, phase.startMs);
      runs.endPhase(id, i, phase.endMs, phase.endedBy);
    });
    runs.setProgress(id, 1, lastMs);
    runs.setState(id, 'finished', new Date(Date.parse(run.startedAt) + lastMs).toISOString(), '');
    services.runs.correct(id);
  });
}

/** Instruments of the bench and their calibrations, once; one that is there already is left alone. */
function seedInstruments(services: Services): void {
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
 * @returns titles of the studies that were added
 */
export function seedDemo(services: Services): string[] {
  const known = new Set([...services.studies.list(false), ...services.studies.list(true)].map((study) => study.id));
  const added: string[] = [];
  services.stores.runs.atomically(() => seedInstruments(services));
  for (const { id, body, runs, createdAt } of DEMO) {
    if (known.has(id)) continue;
    services.stores.runs.atomically(() => {
      services.stores.studies.insert(body, createdAt, id);
      for (const run of runs) seedRun(services, id, run);
      if (body === SLOT_LID) {
        const survey = bareSurvey();
        services.stores.surveys.insert(id, survey.body, survey.matrix, createdAt);
      }
    });
    // Read once now, so that the first page of the demo need not wait for it.
    for (const run of services.runs.ofStudy(id)) services.readings.readings(run.id);
    added.push(body.title);
  }
  return added;
}
