import type { Run, Trace } from '@red-ember/contract';

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
    startKnown: true,
    endedAt: '2026-03-02T10:45:00Z',
    lengthS: 2700,
    timeScale: 1,
    disposition: 'undecided',
    dispositionReason: '',
    dispositionBy: '',
    tags: '',
    earlier: [],
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

/** A run under load that still goes on. */
export function liveRun(change: Partial<Run> = {}): Run {
  const { phases } = run('r1', 1, 'bare');
  return run('r1', 1, 'bare', { state: 'recording', phases: [phases[0]!, { ...phases[1]!, endS: null, endedBy: null }], ...change });
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
