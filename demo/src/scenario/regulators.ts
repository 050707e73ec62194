import {
  type BoardMapBody,
  type RecipePhaseBody,
  type SpotBody,
  type StudyBody,
  type SubjectBody,
  type VariantBody,
} from '@red-ember/contract';
import { startMap } from '@red-ember/study';
import { GALLERY, UNPLANNED, held, rules, spot, watched } from './common.ts';

export const regulatorRecipe = (name: string): RecipePhaseBody[] => [
  { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 900, capS: 900, loadPercent: 0 },
  { kind: 'load', name, mode: 'until-settled', durationS: 1800, capS: 5400, loadPercent: 100 },
  { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 900, capS: 900, loadPercent: 0 },
];

/** A finned sink on the stages, pads of one thickness, inductors and capacitors bare. */
export function sinkMap(undersideMm: number, padMm: number, placements: BoardMapBody['placements']): BoardMapBody {
  return {
    ...startMap('regulator'),
    covers: [
      { id: 'side', name: 'side sink', face: 'top', xMm: 8, yMm: 24, widthMm: 14, heightMm: 88, undersideMm, gapToleranceMm: 0.1 },
      { id: 'upper', name: 'upper sink', face: 'top', xMm: 42, yMm: 4, widthMm: 60, heightMm: 13, undersideMm, gapToleranceMm: 0.1 },
    ],
    pads: [
      { id: 'side-pad', name: 'side pad', coverId: 'side', xMm: 12, yMm: 28, widthMm: 10, heightMm: 80, padMm, conductivityWPerMK: 6 },
      { id: 'upper-pad', name: 'upper pad', coverId: 'upper', xMm: 46, yMm: 6, widthMm: 52, heightMm: 10, padMm, conductivityWPerMK: 6 },
    ],
    placements,
  };
}

export const board = (id: string, name: string, details: string, map: BoardMapBody | null): SubjectBody => ({
  id,
  name,
  details,
  drive: null,
  map,
});
const stage = { limitC: 125, limitSource: 'data sheet of the power stage', cutOutC: 128, advisoryC: 100, advisorySource: 'house rule' };

// ---------------------------------------------------------------- how many watts

const hand = (id: string, name: string, change: Partial<SpotBody>) =>
  spot(`watts-${id}`, name, id, {
    method: 'infrared',
    byHand: true,
    sensor: 'IR 2',
    instrumentChannelId: 'ir2-spot',
    accuracyK: 2,
    resolutionK: 0.1,
    placementK: 1.5,
    ...change,
  });

/** How many watts can this board carry? Read by hand at set minutes, the covered stages estimated from their sink. */
export const WATTS: StudyBody = {
  title: 'How many watts does Ferry B2 carry',
  family: 'regulator',
  question:
    'The small board is to drive the star-field machine. Its regulator has a plain sink and no airflow: which of our loads does it carry for a whole show, and with what cap?',
  claims: [
    {
      id: 'watts-worst',
      text: 'With a fan along its sink Ferry B2 carries the 165 W worst case',
      outcome: 'watts-carried',
      spotId: null,
      direction: 'at-least',
      leastEffect: 165,
    },
  ],
  predictions: [{ id: 'watts-expect', text: 'The fan blows along the sink.', spotId: 'watts-base', expectedK: -18, plusMinusK: 5 }],
  rules: { ...rules, fans: 'not-applicable', basis: 'rise', sensorOfRecord: 'infrared', load: 'worst-case', practicalK: 3 },
  enclosure: GALLERY,
  subjects: [
    board(
      'ferry-b2',
      'Ferry B2',
      'Six stages under a side sink, four under an upper one; serial B2-011.',
      sinkMap(2, 1.25, [
        { spotId: 'watts-base', face: 'top', xMm: 17, yMm: 61 },
        { spotId: 'watts-inductor', face: 'top', xMm: 28, yMm: 61.5 },
        { spotId: 'watts-capacitor', face: 'top', xMm: 39.5, yMm: 65.5 },
        { spotId: 'watts-hub', face: 'top', xMm: 96, yMm: 108 },
      ]),
    ),
  ],
  roomChannelId: 'lh8-room',
  spots: [
    hand('top', 'Sink, top of the fins', {
      place: 'Matt tape on the middle fin of the side sink',
      componentClass: 'touchable metal',
      limitC: 90,
      limitSource: 'house rule: screws and cables beside it',
      cutOutC: 95,
    }),
    hand('base', 'Sink, base', {
      place: 'Matt tape on the base of the side sink, above stage 3',
      componentClass: 'power stage',
      limitC: 105,
      limitSource: 'house rule, so that the stage beneath stays under 125 °C',
      cutOutC: 110,
      beneath: { heatW: 1.7, gapMm: 1, gapToleranceMm: 0.1, padMm: 1.25, conductivityWPerMK: 6, areaMm2: 36, caseKPerW: 1.2 },
    }),
    hand('inductor', 'Inductor', {
      place: 'Top of side inductor 3',
      componentClass: 'inductor',
      limitC: 125,
      limitSource: 'data sheet',
      cutOutC: 128,
    }),
    hand('capacitor', 'Capacitor', {
      place: 'Sleeve of capacitor 3',
      componentClass: 'capacitor',
      advisoryC: 85,
      advisorySource: 'rule of thumb: life halves with every 10 K',
      limitC: 105,
      limitSource: 'data sheet',
      cutOutC: 108,
    }),
    hand('hub', 'Hub chip', {
      place: 'Label of the hub chip',
      componentClass: 'hub chip',
      limitC: 100,
      limitSource: 'general figure',
      cutOutC: 104,
    }),
    spot('watts-software', 'Software reading, unlabelled', 'mos', {
      place: 'Shown by the board’s software without a name',
      componentClass: 'power stage',
      ...stage,
      method: 'own',
      sensor: 'board',
      byHand: true,
      accuracyK: 5,
      resolutionK: 1,
      placementK: 10,
    }),
  ],
  variants: [
    {
      id: 'watts-still',
      name: 'still air',
      subjectId: 'ferry-b2',
      isReference: true,
      setup: 'b2-still',
      notes: 'No fan near the regulator.',
    },
    {
      id: 'watts-fan',
      name: 'fan at the sink',
      subjectId: 'ferry-b2',
      isReference: false,
      setup: 'b2-fan',
      notes: 'One 120 mm fan at 40 % duty, 80 mm away.',
    },
  ],
  ...UNPLANNED,
  recipe: regulatorRecipe('Worst case, 165 W').map((phase) =>
    phase.kind === 'load' ? { ...phase, marksMin: [5, 10, 15, 20, 25, 30] } : phase,
  ),
  locks: [
    held('Workload', 'worst case, all cores'),
    held('Firmware', 'FB-1.09'),
    watched('Power cap', 165, 'W', 3, 'power'),
    held('Case', 'open bench, board flat'),
  ],
};

// ---------------------------------------------------------------- five boards

const BOARDS = [
  { id: 'five-ferry-b2', name: 'Ferry B2', firmware: 'FB-1.09', loadLine: '4', underside: 2, pad: 1.25 },
  { id: 'five-ferry-b4', name: 'Ferry B4', firmware: 'FB-1.12', loadLine: '3', underside: 2, pad: 1.25 },
  { id: 'five-quarry-c1', name: 'Quarry C1', firmware: 'Q-207', loadLine: '5', underside: 2.3, pad: 1.5 },
  { id: 'five-quarry-c3', name: 'Quarry C3', firmware: 'Q-211', loadLine: '5', underside: 2.3, pad: 1.5 },
  { id: 'five-sandpiper-d1', name: 'Sandpiper D1', firmware: 'SP-3.1', loadLine: '2', underside: 1.9, pad: 1 },
];

const five = (id: string, name: string, channel: string, change: Partial<SpotBody>) =>
  spot(`five-${id}`, name, channel, { componentClass: 'power stage', ...stage, ...change });

/** Many boards, one processor, one clock, one voltage under load. The hottest place is reported, the board's own sensor beside it. */
export const FIVE_BOARDS: StudyBody = {
  title: 'Five boards, one processor',
  family: 'regulator',
  question:
    'Which board keeps its regulator coolest through an hour of the star-field render, all with the same processor, clock and voltage under load?',
  claims: [
    {
      id: 'five-c3',
      variantId: 'five-quarry-c3-held',
      text: 'Quarry C3 runs at least five kelvin cooler than Ferry B2',
      outcome: 'temperature',
      spotId: null,
      direction: 'cooler',
      leastEffect: 5,
    },
  ],
  predictions: [
    {
      id: 'five-expect',
      variantId: 'five-quarry-c3-held',
      text: 'More stages, a heavier sink.',
      spotId: 'five-side',
      expectedK: -8,
      plusMinusK: 3,
    },
  ],
  rules: { ...rules, fans: 'locked', figure: 'hottest', basis: 'rise', load: 'application', practicalK: 2, roomMinC: 21, roomMaxC: 23.5 },
  enclosure: GALLERY,
  subjects: BOARDS.map((entry) =>
    board(
      entry.id,
      entry.name,
      `Firmware ${entry.firmware}; thermocouples as on the map.`,
      sinkMap(entry.underside, entry.pad, [
        { spotId: 'five-side', face: 'top', xMm: 17, yMm: 61 },
        { spotId: 'five-upper', face: 'top', xMm: 65, yMm: 11 },
        { spotId: 'five-inductor', face: 'top', xMm: 28, yMm: 61.5 },
        { spotId: 'five-under', face: 'under', xMm: 17, yMm: 61 },
      ]),
    ),
  ),
  roomChannelId: 'lh8-room',
  spots: [
    five('side', 'Stage, side row', 'tc1', {
      place: 'Third stage of the side row, beside the package',
      sensor: 'TC 1',
      instrumentChannelId: 'lh8-tc1',
    }),
    five('upper', 'Stage, upper row', 'tc2', { place: 'Second stage of the upper row', sensor: 'TC 2', instrumentChannelId: 'lh8-tc2' }),
    five('inductor', 'Inductor, side row', 'tc3', {
      place: 'Top of the third inductor',
      componentClass: 'inductor',
      limitSource: 'data sheet of the inductor',
      sensor: 'TC 3',
      instrumentChannelId: 'lh8-tc3',
    }),
    five('under', 'Underside, behind the side row', 'tc4', {
      place: 'Bare copper behind the third stage',
      componentClass: 'board',
      limitC: 105,
      limitSource: 'board material',
      cutOutC: 110,
      advisoryC: null,
      advisorySource: '',
      sensor: 'TC 4',
      instrumentChannelId: 'lh8-tc4',
    }),
    five('own', 'Board’s own sensor', 'vrm', {
      place: 'Unknown place near the regulator',
      method: 'own',
      sensor: 'board',
      accuracyK: 3,
      resolutionK: 1,
      placementK: 5,
      twinOf: 'five-side',
    }),
  ],
  variants: BOARDS.flatMap((entry, i): VariantBody[] => [
    {
      id: `${entry.id}-held`,
      name: `${entry.name}, held`,
      subjectId: entry.id,
      isReference: i === 0,
      setup: `${entry.id.slice('five-'.length)}-held`,
      notes: 'Clock and voltage held.',
    },
    {
      id: `${entry.id}-auto`,
      name: `${entry.name}, automatic`,
      subjectId: entry.id,
      isReference: false,
      setup: `${entry.id.slice('five-'.length)}-auto`,
      notes: 'Second pass with automatic settings.',
    },
  ]),
  ...UNPLANNED,
  recipe: regulatorRecipe('Star-field render, 118 W'),
  locks: [
    held('Workload', 'star-field render, one hour'),
    held(
      'Firmware',
      BOARDS[0]!.firmware,
      BOARDS.slice(1).map((entry) => ({ subjectId: entry.id, value: entry.firmware })),
    ),
    watched('Voltage under load', 1.2, 'V', 0.01, 'vcore'),
    held(
      'Load-line level',
      BOARDS[0]!.loadLine,
      BOARDS.slice(1).map((entry) => ({ subjectId: entry.id, value: entry.loadLine })),
    ),
    watched('Core clock', 4300, 'MHz', 25, 'clock'),
    watched('Fan duty', 60, '%', 2, 'duty'),
    held('Orientation', 'boards flat on the bench'),
    held('Case', 'open bench'),
  ],
};
