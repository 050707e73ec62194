import type { LogGuess, StagedLog } from '@red-ember/contract';

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
