import type { Instrument, Limit, Survey } from '@red-ember/contract';
import { startLimits } from '@red-ember/study';

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
