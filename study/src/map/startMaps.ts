import { unreachable } from '@red-ember/core';
import type { Family } from '../families.ts';
import type { BoardMapEntry, MapPartEntry } from '../definition/boardMap.ts';

/** Shapes to start a map from. Sizes are those of the open form-factor standard for drives, and typical ones for the rest. */
export const START_MAPS = {
  'm2-2280-one': 'M.2 2280, parts on one face',
  'm2-2280-two': 'M.2 2280, parts on both faces',
  'm2-2242-one': 'M.2 2242, parts on one face',
  'm2-22110-two': 'M.2 22110, parts on both faces',
  card: 'Graphics card',
  regulator: 'Regulator corner of a board',
} as const;
export type StartMap = keyof typeof START_MAPS;

const OF_FAMILY: Record<Family, StartMap[]> = {
  drive: ['m2-2280-one', 'm2-2280-two', 'm2-2242-one', 'm2-22110-two'],
  card: ['card'],
  regulator: ['regulator'],
};

export const startMapsOf = (family: Family): StartMap[] => OF_FAMILY[family];

type Seed = [
  name: string,
  componentClass: MapPartEntry['componentClass'],
  face: 'top' | 'under',
  xMm: number,
  yMm: number,
  widthMm: number,
  heightMm: number,
  tallMm: number,
  heatShare: number,
];

function parts(seeds: Seed[]): MapPartEntry[] {
  return seeds.map(([name, componentClass, face, xMm, yMm, widthMm, heightMm, tallMm, heatShare], i) => ({
    id: `p${i + 1}`,
    name,
    componentClass,
    face,
    xMm,
    yMm,
    widthMm,
    heightMm,
    tallMm,
    heatShare,
  }));
}

function drive(lengthMm: number, faces: 1 | 2): BoardMapEntry {
  const room = lengthMm - 12;
  const flash = (face: 'top' | 'under', share: number, packages: number): Seed[] =>
    Array.from({ length: packages }, (_, i): Seed => [
      `Flash ${face === 'top' ? i + 1 : i + 3}`,
      'flash',
      face,
      lengthMm - 18 - i * 18,
      3,
      14,
      16,
      1.4,
      share,
    ]);
  const packages = room > 60 ? 2 : 1;
  return {
    widthMm: lengthMm,
    heightMm: 22,
    heatW: 7,
    parts: parts([
      ['Controller', 'drive controller', 'top', lengthMm < 60 ? 5 : 12, 4, 14, 14, 1.1, 0.53],
      ...flash('top', (faces === 2 ? 0.18 : 0.37) / packages, packages),
      ...(faces === 2 ? flash('under', 0.19 / packages, packages) : []),
    ]),
    covers: [],
    pads: [],
    placements: [],
  };
}

function card(): BoardMapEntry {
  const memory: Seed[] = Array.from({ length: 8 }, (_, i): Seed => [
    `Memory ${i + 1}`,
    'memory',
    'top',
    i < 4 ? 60 + i * 22 : 60 + (i - 4) * 22,
    i < 4 ? 12 : 80,
    14,
    12,
    1.2,
    0.02,
  ]);
  const stages: Seed[] = Array.from({ length: 6 }, (_, i): Seed => [
    `Power stage ${i + 1}`,
    'power stage',
    'top',
    172,
    12 + i * 14,
    6,
    6,
    1,
    0.02,
  ]);
  const inductors: Seed[] = Array.from({ length: 6 }, (_, i): Seed => [
    `Inductor ${i + 1}`,
    'inductor',
    'top',
    182,
    11 + i * 14,
    8,
    9,
    4,
    0.005,
  ]);
  return {
    widthMm: 240,
    heightMm: 105,
    heatW: 235,
    parts: parts([['Graphics core', 'graphics core', 'top', 92, 38, 26, 26, 0.9, 0.6], ...memory, ...stages, ...inductors]),
    covers: [],
    pads: [],
    placements: [],
  };
}

function regulator(): BoardMapEntry {
  const row = (n: number, of: (i: number) => Seed) => Array.from({ length: n }, (_, i) => of(i));
  return {
    widthMm: 120,
    heightMm: 130,
    heatW: 22,
    parts: parts([
      ...row(6, (i): Seed => [`Stage, side ${i + 1}`, 'power stage', 'top', 14, 30 + i * 14, 6, 6, 1, 0.075]),
      ...row(4, (i): Seed => [`Stage, upper ${i + 1}`, 'power stage', 'top', 48 + i * 14, 8, 6, 6, 1, 0.075]),
      ...row(6, (i): Seed => [`Inductor, side ${i + 1}`, 'inductor', 'top', 24, 29 + i * 14, 8, 9, 5, 0.018]),
      ...row(4, (i): Seed => [`Inductor, upper ${i + 1}`, 'inductor', 'top', 47 + i * 14, 18, 9, 8, 5, 0.018]),
      ...row(5, (i): Seed => [`Capacitor ${i + 1}`, 'capacitor', 'top', 36, 32 + i * 15, 7, 7, 8, 0.002]),
      ['Hub chip', 'hub chip', 'top', 84, 96, 24, 24, 1.5, 0.05],
    ]),
    covers: [],
    pads: [],
    placements: [],
  };
}

/** A map to start from; ids are new to the map and mean nothing outside it. */
export function startMap(kind: StartMap): BoardMapEntry {
  switch (kind) {
    case 'm2-2280-one':
      return drive(80, 1);
    case 'm2-2280-two':
      return drive(80, 2);
    case 'm2-2242-one':
      return drive(42, 1);
    case 'm2-22110-two':
      return drive(110, 2);
    case 'card':
      return card();
    case 'regulator':
      return regulator();
    default:
      return unreachable(kind);
  }
}
