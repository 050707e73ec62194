import { type SpotBody, type StudyBody } from '@red-ember/contract';
import { blankPlan } from '@red-ember/study';
import { cannot, GALLERY, held, rules, spot, variantAt, watched } from './common.ts';
import { ARMOUR_FITTING, PLATE_SCREWS } from './fittings.ts';
import { board, regulatorRecipe, sinkMap } from './regulators.ts';

const PLACES: [string, string, SpotBody['componentClass'], number][] = [
  ['s01', 'Stages, side row, upper end', 'power stage', 125],
  ['s02', 'Stages, side row, middle', 'power stage', 125],
  ['s03', 'Stages, side row, lower end', 'power stage', 125],
  ['s04', 'Stages, upper row', 'power stage', 125],
  ['s05', 'Inductors, side row', 'inductor', 125],
  ['s06', 'Inductors, upper row', 'inductor', 125],
  ['s07', 'Hub chip', 'hub chip', 100],
  ['s08', 'Board under the plate', 'board', 105],
  ['s09', 'Board beside the slots', 'board', 105],
  ['s10', 'Drive slot', 'board', 85],
  ['s11', 'Rear connectors', 'board', 85],
  ['s12', 'Processor', 'processor', 100],
];

/** Cover plate, assist fan and a downward-blowing cooler, in full combination, over a dozen of the board's own sensors. */
export const ARMOUR: StudyBody = {
  title: 'Armour and little fans on Ferry B4',
  family: 'regulator',
  question:
    'The board comes with a plate over its regulator and a small fan inside it. Do they cool, or does the plate only trap what the fan then has to move? And what does a downward-blowing cooler change?',
  claims: [
    {
      id: 'arm-plate',
      variantId: 'arm-v20',
      text: 'The plate with its fan keeps the stages cooler',
      outcome: 'temperature',
      spotId: 'arm-s02',
      direction: 'cooler',
      leastEffect: 3,
    },
    {
      id: 'arm-hub',
      variantId: 'arm-v10',
      text: 'The plate leaves the hub chip as it was',
      outcome: 'temperature',
      spotId: 'arm-s07',
      direction: 'no-difference',
      leastEffect: 0,
    },
  ],
  predictions: [
    { id: 'arm-expect', variantId: 'arm-v10', text: 'Trapped air without the fan.', spotId: 'arm-s02', expectedK: 6, plusMinusK: 3 },
  ],
  rules: {
    ...rules,
    fans: 'as-shipped',
    basis: 'held-room',
    sensorOfRecord: 'own',
    stress: 'pushed',
    ladder: 'full',
    practicalK: 2,
    roomMinC: 27,
    roomMaxC: 30,
  },
  enclosure: GALLERY,
  subjects: [
    board('arm-b4', 'Ferry B4', 'Serial B4-002, plate and fan as shipped.', {
      ...sinkMap(2, 1.25, [
        { spotId: 'arm-s02', face: 'top', xMm: 17, yMm: 61 },
        { spotId: 'arm-s04', face: 'top', xMm: 65, yMm: 11 },
        { spotId: 'arm-s05', face: 'top', xMm: 28, yMm: 61.5 },
        { spotId: 'arm-s07', face: 'top', xMm: 96, yMm: 108 },
      ]),
      covers: [
        ...sinkMap(2, 1.25, []).covers,
        {
          id: 'plate',
          name: 'cover plate',
          face: 'top',
          xMm: 0,
          yMm: 0,
          widthMm: 46,
          heightMm: 118,
          undersideMm: 12,
          gapToleranceMm: 0.5,
          topMm: 26,
        },
      ],
      screws: PLATE_SCREWS,
      zones: [
        { id: 'arm-zone', name: 'hood over the rear connectors', face: 'top', xMm: 0, yMm: 0, widthMm: 12, heightMm: 118, clearMm: 27.2 },
      ],
    }),
  ],
  roomChannelId: 'lh8-room',
  spots: PLACES.map(([id, name, componentClass, limitC]) =>
    spot(`arm-${id}`, name, id, {
      place: 'As the board’s software calls it',
      componentClass,
      limitC,
      limitSource: 'general figure',
      cutOutC: limitC + 3,
      method: 'own',
      sensor: `board ${id}`,
      accuracyK: 3,
      resolutionK: 1,
      placementK: 5,
    }),
  ),
  variants: (
    [
      ['no plate', 'off'],
      ['plate', 'off'],
      ['plate', 'on'],
    ] as const
  ).flatMap(([plate, fan], i) =>
    (['tower', 'downward'] as const).map((cooler, j) =>
      variantAt(
        `arm-v${i}${j}`,
        'arm-b4',
        { Plate: plate, 'Small fan': fan, Cooler: cooler },
        {
          name: `${plate === 'plate' ? `plate, fan ${fan}` : plate}, ${cooler} cooler`,
          isReference: i === 0 && j === 0,
          setup: `b4-${plate === 'plate' ? `plate-fan-${fan}` : 'none'}-${cooler}`,
          notes: j === 1 ? 'The processor cooler changes too: processor temperatures cannot be compared.' : '',
        },
      ),
    ),
  ),
  factors: [
    { name: 'Plate', levels: ['no plate', 'plate'], changeMin: 15, under: '', renew: false },
    { name: 'Small fan', levels: ['off', 'on'], changeMin: 2, under: '', renew: false },
    { name: 'Cooler', levels: ['tower', 'downward'], changeMin: 25, under: 'Plate', renew: false },
  ],
  impossible: [cannot({ Plate: 'no plate', 'Small fan': 'on' }, 'the fan sits in the plate')],
  plan: { ...blankPlan(), mountMin: 20, remountMin: 25 },
  ...ARMOUR_FITTING,
  recipe: regulatorRecipe('Worst case, pushed to 190 W'),
  locks: [
    held('Workload', 'worst case, all cores'),
    held('Firmware', 'FB-1.12'),
    watched('Power cap', 190, 'W', 4, 'power'),
    held('Case', 'open bench, board upright'),
    held('Panels', 'none'),
  ],
};
