import {
  eachOutput,
  judgeClaim,
  judgePair,
  judgePrediction,
  runFindings,
  verdictSentence,
  type JudgedRun,
  type LiveSpot,
  type PhaseReading,
  type RunReview,
} from '@red-ember/core';
import {
  type Instrument,
  type Limit,
  type Mount,
  type PairVerdict,
  type BenchRig,
  type Run,
  type RunReadings,
  type SpotBody,
  type Study,
  type StudySummary,
  type LiveSnapshot,
  type Survey,
  type Trace,
  type LogGuess,
  type StagedLog,
} from '@red-ember/contract';
import { blankSpot, blankStudy, judgedSpots, startLimits } from '@red-ember/study';

export function spot(id: string, name: string, change: Partial<SpotBody> = {}): SpotBody {
  return {
    ...blankSpot(id, name, id),
    componentClass: 'flash',
    limitC: 85,
    limitSource: 'data sheet',
    cutOutC: 90,
    sensor: `TC ${id}`,
    ...change,
  };
}

export function study(change: Partial<Study> = {}): Study {
  return {
    ...blankStudy('Lid on the drive'),
    id: 's1',
    version: 4,
    createdAt: '2026-03-01T10:00:00Z',
    updatedAt: '2026-03-01T10:00:00Z',
    predictionLockedAt: null,
    predictionStamps: { p1: '2026-03-01T10:00:00Z' },
    variantsWithRuns: [],
    question: 'Does it help?',
    claims: [{ id: 'c1', text: 'It cools', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 1 }],
    predictions: [{ id: 'p1', text: '', spotId: 'under', expectedK: 0, plusMinusK: 1 }],
    enclosure: { name: 'gallery', airC: 31.5, powerTempCo: 0 },
    subjects: [{ id: 'part-1', name: 'Thistle 4T', details: '', drive: null, map: null }],
    spots: [spot('top', 'Flash, top face'), spot('under', 'Flash, underside')],
    variants: [
      { id: 'bare', name: 'bare', subjectId: 'part-1', isReference: true, setup: 'bare', notes: '' },
      { id: 'lid', name: 'slot lid', subjectId: 'part-1', isReference: false, setup: 'slot-lid', notes: '' },
    ],
    locks: [{ name: 'Case', value: 'open bench', unit: '', tolerance: null, channel: '', overrides: [] }],
    ...change,
  };
}

export function summary(change: Partial<StudySummary> = {}): StudySummary {
  return {
    id: 's1',
    title: 'Lid on the drive',
    family: 'drive',
    subject: 'Thistle 4T',
    question: 'Does it help?',
    updatedAt: '2026-03-01T10:00:00Z',
    runs: 0,
    live: false,
    deletedAt: null,
    ...change,
  };
}

export function mount(id: string, variantId: string, number = 1): Mount {
  return {
    id,
    studyId: 's1',
    variantId,
    number,
    madeAt: '2026-03-02T09:00:00Z',
    confirmed: [],
    note: '',
    fromVariantId: null,
    handsMin: null,
    skipped: [],
    serial: '',
    photos: [],
  };
}

export function run(id: string, number: number, variantId: string, change: Partial<Run> = {}): Run {
  return {
    id,
    studyId: 's1',
    variantId,
    mountId: `m-${variantId}`,
    mountNumber: 1,
    number,
    source: 'rig',
    sourceName: 'bench-1',
    purpose: 'measure',
    recipe: [],
    state: 'finished',
    startedAt: '2026-03-02T10:00:00Z',
    endedAt: '2026-03-02T10:45:00Z',
    lengthS: 2700,
    timeScale: 1,
    disposition: 'undecided',
    dispositionReason: '',
    endReason: '',
    own: [],
    settings: { Case: 'open bench' },
    confirmedLocks: ['Case'],
    channels: [
      { key: 'top', role: 'spot', spotId: 'top', unit: '°C', readAs: 'as-is', head: '' },
      { key: 'under', role: 'spot', spotId: 'under', unit: '°C', readAs: 'as-is', head: '' },
      { key: 'room', role: 'room', spotId: null, unit: '°C', readAs: 'as-is', head: '' },
    ],
    phases: [
      { kind: 'idle-soak', name: 'Idle soak', startS: 0, endS: 480, endedBy: 'time' },
      { kind: 'load', name: 'Load', startS: 480, endS: 2100, endedBy: 'settled' },
      { kind: 'cool-down', name: 'Cool-down', startS: 2100, endS: 2700, endedBy: 'time' },
    ],
    events: [],
    handReadings: [],
    faults: [],
    onVanish: 'cut-out',
    windows: [],
    figures: null,
    preflight: null,
    madeAs: null,
    ...change,
  };
}

/** What a page is told while a run goes on. */
export function liveSpot(spotId: string, valueC: number | null, change: Partial<LiveSpot> = {}): LiveSpot {
  return {
    spotId,
    valueC,
    readAtS: null,
    riseK: valueC === null ? null : valueC - 22,
    idleC: 30,
    headroomK: valueC === null ? null : 85 - valueC,
    etaS: 300,
    settlesAtC: valueC === null ? null : valueC + 1,
    etaDoubtS: 20,
    ...change,
  };
}

export function snapshot(change: Partial<LiveSnapshot> = {}): LiveSnapshot {
  return {
    runId: 'r1',
    state: 'recording',
    trouble: null,
    runsAway: false,
    nowS: 900,
    phaseIndex: 1,
    phaseElapsedS: 420,
    phaseMostLeftS: 3180,
    settledInS: 300,
    loadPercent: 100,
    roomC: 22.2,
    roomMinC: 22,
    roomMaxC: 26,
    throughput: { value: 6100, unit: 'MB/s' },
    powerW: 7.4,
    throttling: false,
    limiter: null,
    allSettled: false,
    capTooSoonS: null,
    locks: [],
    nextMark: null,
    vanished: false,
    shows: [],
    rigLost: false,
    spots: [liveSpot('top', 64.2), liveSpot('under', 76.4)],
    ...change,
  };
}

/** A run under load that still goes on. */
export function liveRun(change: Partial<Run> = {}): Run {
  const { phases } = run('r1', 1, 'bare');
  return run('r1', 1, 'bare', { state: 'recording', phases: [phases[0]!, { ...phases[1]!, endS: null, endedBy: null }], ...change });
}

export const rig: BenchRig = {
  rehearsal: null,
  id: 'bench-1',
  name: 'Simulated bench',
  simulated: true,
  family: null,
  connected: true,
  busyRunId: null,
  channels: ['top', 'under', 'room', 'tc1'].map((key) => ({ key, label: `Probe ${key}`, quantity: 'temperature', unit: '°C' })),
  setups: [
    { key: 'bare', label: 'Bare drive' },
    { key: 'slot-lid', label: 'Slot lid' },
  ],
  controls: [],
  faults: [],
};

export function reading(riseK: number, change: Partial<PhaseReading> = {}): PhaseReading {
  const window = (value: number) => ({
    mean: { value, u: 0.05, dof: 60 },
    n: 300,
    nEffective: 61,
    min: value - 0.3,
    max: value + 0.3,
    p95: value + 0.2,
  });
  return {
    phase: 'load',
    window: { startS: 1800, endS: 2100 },
    chosen: false,
    overIntake: null,
    absolute: window(22 + riseK),
    rise: window(riseK),
    bound: 'settled',
    spikes: 2,
    spikeShare: 0.0066,
    steps: { stepK: 0, scatterK: 0.1 },
    peakC: 22.6 + riseK,
    settling: {
      settled: true,
      atS: 1705,
      slopeKPerMin: { value: 0.01, u: 0.01, dof: 298 },
      remainingK: { value: 0.12, u: 0.03, dof: 195 },
      etaS: 0,
      confirmedInS: 0,
      slowTauS: 240,
      remains: {
        bestK: 0.12,
        lowK: 0.02,
        highK: 0.22,
        etaS: 0,
        etaLowS: 0,
        etaHighS: 0,
        meanBehindK: 0.01,
        likely: { value: 0.12, u: 0.05 },
        wander: null,
      },
    },
    toGo: { likely: { value: 0.13, u: 0.05 }, lowK: 0.03, highK: 0.23 },
    ...change,
  };
}

export function review(top: number, under: number, change: Partial<RunReview> = {}): RunReview {
  return {
    methodVersion: 'test',
    loads: [],
    uncounted: [],
    atRest: null,
    spots: [
      { spotId: 'top', idle: reading(8), load: reading(top), heatPath: null },
      { spotId: 'under', idle: reading(8.4), load: reading(under), heatPath: null },
    ],
    room: { meanC: 22.4, minC: 22.1, maxC: 22.7, driftK: 0.1 },
    throttle: {
      reference: 6100,
      episodes: [],
      heldBack: [],
      timeToFirstS: null,
      fractionOfTime: 0,
      performanceLost: 0,
      limitC: 88,
      of: 'performance',
    },
    ...eachOutput(() => null),
    performance: { value: 6100, u: 1, dof: 50 },
    power: { value: 7.5, u: 0.01, dof: 50 },
    air: null,
    goneShare: 0,
    fanMovedShare: null,
    utilisationPercent: 99,
    loadS: 1620,
    loadEndedBy: 'settled',
    locks: [],
    ...change,
  };
}

const FIGURES: [string, string, number, number][] = [
  ['r1', 'bare', 43.4, 44.5],
  ['r2', 'lid', 40.1, 49.2],
  ['r3', 'lid', 40.3, 49.0],
  ['r4', 'bare', 43.6, 44.7],
];

export const runs: Run[] = FIGURES.map(([id, variantId], i) => run(id, i + 1, variantId));

/** A verdict as the server makes it, by the same core. */
export function verdict(of: Study = study(), drifting = false): PairVerdict {
  const spots = judgedSpots(of);
  const rules = {
    basis: of.rules.basis,
    figure: of.rules.figure,
    practicalK: of.rules.practicalK,
    coverage: of.rules.coverage,
    roomBand: { minC: 20, maxC: 25 },
  };
  const judged = FIGURES.map(([id, variantId, top, under], i): JudgedRun & { variantId: string } => ({
    id,
    variantId,
    label: `run ${i + 1}`,
    mountNo: i % 2,
    startedAtMs: i,
    disposition: 'undecided',
    sensors: {},
    settings: { Case: 'open bench' },
    heldByPart: [],
    unconfirmed: [],
    overdue: [],
    review: review(top, under, drifting && i === 2 ? { room: { meanC: 27, minC: 25, maxC: 28.2, driftK: 2.3 } } : {}),
  }));
  const side = (variantId: string, name: string) => ({ variantId, name, runs: judged.filter((entry) => entry.variantId === variantId) });
  const judgement = judgePair({
    a: side('bare', 'bare'),
    b: side('lid', 'slot lid'),
    spots,
    rules,
    history: { top: { sd: 0.2, dof: 12 }, under: { sd: 0.2, dof: 12 } },
  });
  const claims = of.claims.map((claim) => ({ ...judgeClaim(claim, judgement, spots, rules.practicalK), of: null }));
  return {
    judgement,
    spots,
    claims,
    sentence: verdictSentence(judgement, spots, claims[0] ? { outcome: claims[0].outcome, text: of.claims[0]!.text } : null),
    predictions: of.predictions.map((prediction) => ({ ...judgePrediction(prediction, judgement, spots), of: null })),
    elsewhere: null,
    refusal: null,
    commonNoise: null,
    loads: [],
  };
}

export function readings(runId: string, change: Partial<RunReview> = {}): RunReadings {
  const figures = FIGURES.find(([id]) => id === runId) ?? FIGURES[0]!;
  const made = review(figures[2], figures[3], change);
  const judged: JudgedRun = {
    id: runId,
    label: 'run 1',
    mountNo: 1,
    startedAtMs: 0,
    disposition: 'undecided',
    sensors: {},
    settings: {},
    heldByPart: [],
    unconfirmed: [],
    overdue: [],
    review: made,
  };
  const spots = judgedSpots(study());
  return {
    runId,
    review: made,
    own: [],
    findings: runFindings(judged, spots, {
      basis: 'rise',
      figure: 'settled-mean',
      practicalK: 1,
      coverage: 0.95,
      roomBand: { minC: 20, maxC: 25 },
    }),
  };
}

export function trace(runId: string): Trace {
  const t = [0, 480, 1200, 2100, 2700];
  return {
    runId,
    fromS: 0,
    toS: 2700,
    series: [
      { key: 'top', role: 'spot', spotId: 'top', unit: '°C', t, y: [30, 30, 60, 65, 40] },
      { key: 'under', role: 'spot', spotId: 'under', unit: '°C', t, y: [30, 30, 64, 71, 41] },
      { key: 'room', role: 'room', spotId: null, unit: '°C', t, y: [22, 22, 22, 22, 22] },
    ],
  };
}

/** The limits library as it ships. */
export const limits: Limit[] = Object.entries(startLimits()).map(([componentClass, body]) => ({
  componentClass: componentClass as Limit['componentClass'],
  ...body,
  version: 0,
  updatedAt: null,
}));

export const logger: Instrument = {
  id: 'i1',
  version: 2,
  updatedAt: '2026-02-12T15:00:00Z',
  deletedAt: null,
  name: 'Logger',
  kind: 'thermocouple logger',
  serial: 'L-1',
  notes: '',
  channels: [
    {
      id: 'l-tc1',
      name: 'TC 1',
      quantity: 'temperature',
      percentOfReading: 0,
      fixed: 0.3,
      thermocouple: { type: 'T', toleranceClass: 1 },
      resolution: 0.1,
      lagS: 3,
      drift: 0.1,
      place: '',
    },
  ],
  calibrations: [],
};

/** A picture with one hot spot on the upper flash package and a shiny corner. */
export function survey(change: Partial<Survey> = {}): Survey {
  const matrix = Array.from({ length: 20 }, (_, r) =>
    Array.from({ length: 40 }, (_, c) => 30 + 40 * Math.exp(-((r - 5) ** 2 + (c - 25) ** 2) / 30)),
  );
  return {
    id: 'p1',
    studyId: 's1',
    version: 3,
    createdAt: '2026-03-01T10:00:00Z',
    rows: 20,
    columns: 40,
    deletedAt: null,
    name: 'Bare',
    subjectId: 'part-1',
    face: 'top',
    emissivitySet: 0.95,
    emissivity: 0.95,
    reflectedC: 22,
    minProminenceK: 2,
    regions: [],
    references: [
      { row: 0, column: 0, xMm: 0, yMm: 0 },
      { row: 19, column: 39, xMm: 80, yMm: 38 },
    ],
    mirrored: false,
    matrix,
    ...change,
  };
}

/** A log that was put down, with three columns of which the second may be a spot. */
export function stagedLog({ guess, ...change }: Partial<Omit<StagedLog, 'guess'>> & { guess?: Partial<LogGuess> } = {}): StagedLog {
  const lengthS = guess?.lengthS ?? 600;
  return {
    id: 'log1',
    fileName: 'march.csv',
    kind: 'trace',
    rows: 300,
    rowsAbout: false,
    written: { encoding: 'UTF-8', delimiter: ',', decimal: '.', headerLine: 1, unitsLine: null },
    known: false,
    columns: ['Time', 'A', 'Room'].map((name, index) => ({ index, name, sample: [String(30 * index)] })),
    figures: { powerW: null, roomC: 22, dutyPercent: null },
    content: 'abc',
    duplicateOf: null,
    doubts: [],
    ...change,
    guess: {
      timeColumn: 0,
      dateColumn: null,
      timeFormat: 'elapsed-s',
      columns: [{ column: 2, role: 'room', spotId: null }],
      loadStartS: 100,
      loadEndS: 500,
      lengthS,
      phases: [
        { kind: 'idle-soak', name: 'Idle', startS: 0, endS: 100, why: 'The log begins at rest.' },
        { kind: 'load', name: 'Load', startS: 100, endS: lengthS, why: 'The power rises at 1:40, to about 200 W.' },
      ],
      startedAt: { iso: null, zone: null },
      family: 'drive',
      variant: null,
      mount: null,
      ...guess,
    },
  };
}
