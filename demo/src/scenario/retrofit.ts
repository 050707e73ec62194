import { type BoardMapBody, type MountStepBody, type StudyBody } from '@red-ember/contract';
import { blankPart, blankPlan, blankStep, startMap } from '@red-ember/study';
import { GALLERY, held, readers, rules, variantAt } from './common.ts';
import { corners } from './fittings.ts';
import { part, recipe, stagesSpot, throttlingSpots } from './plans.ts';

/** A tower hung on a card, written down so that the next one of the crew can do it. */

const COOLERS = ['stock', 'tower'] as const;
const SETTINGS = ['as shipped', 'tuned'] as const;
const tower = { level: { factor: 'Cooler', level: 'tower' } };
const stock = { level: { factor: 'Cooler', level: 'stock' } };

/** The tower's face on the bare die; one strip over stages and inductors, which are four times as tall: it rests on those alone. */
function towerMap(): BoardMapBody {
  return {
    ...startMap('card'),
    covers: [
      {
        id: 'face',
        name: 'tower face',
        face: 'top',
        xMm: 86,
        yMm: 32,
        widthMm: 38,
        heightMm: 38,
        undersideMm: 0.93,
        gapToleranceMm: 0,
        topMm: 150,
      },
      {
        id: 'strip',
        name: 'strip sink',
        face: 'top',
        xMm: 170,
        yMm: 9,
        widthMm: 22,
        heightMm: 84,
        undersideMm: 4.7,
        gapToleranceMm: 0.1,
        topMm: 14,
      },
      {
        id: 'upper',
        name: 'memory strip, upper',
        face: 'top',
        xMm: 58,
        yMm: 11,
        widthMm: 84,
        heightMm: 14,
        undersideMm: 1.6,
        gapToleranceMm: 0.05,
        topMm: 10,
      },
      {
        id: 'lower',
        name: 'memory strip, lower',
        face: 'top',
        xMm: 58,
        yMm: 79,
        widthMm: 84,
        heightMm: 14,
        undersideMm: 1.6,
        gapToleranceMm: 0.05,
        topMm: 10,
      },
    ],
    pads: [
      {
        id: 'strip-pad',
        name: 'adhesive pad on the strip',
        coverId: 'strip',
        xMm: 170,
        yMm: 9,
        widthMm: 22,
        heightMm: 84,
        padMm: 1,
        conductivityWPerMK: 3,
      },
      {
        id: 'upper-pad',
        name: 'adhesive pad, upper',
        coverId: 'upper',
        xMm: 58,
        yMm: 11,
        widthMm: 84,
        heightMm: 14,
        padMm: 0.5,
        conductivityWPerMK: 3,
      },
      {
        id: 'lower-pad',
        name: 'adhesive pad, lower',
        coverId: 'lower',
        xMm: 58,
        yMm: 79,
        widthMm: 84,
        heightMm: 14,
        padMm: 0.5,
        conductivityWPerMK: 3,
      },
    ],
    placements: [],
    screws: [
      ...corners('face', 'M2.5 × 7, spring', [80, 130], [26, 76]),
      { id: 'face-shroud-1', coverId: 'face', name: 'M2 × 4, shroud', xMm: 20, yMm: 8 },
      { id: 'face-shroud-2', coverId: 'face', name: 'M2 × 4, shroud', xMm: 20, yMm: 97 },
      { id: 'face-shroud-3', coverId: 'face', name: 'M2.5 × 5, bracket', xMm: 232, yMm: 52 },
    ],
    zones: [{ id: 'slot', name: 'cards in the next slots', face: 'top', xMm: 0, yMm: 0, widthMm: 240, heightMm: 105, clearMm: 60 }],
  };
}

const steps: [when: MountStepBody['when'], text: string, change?: Partial<MountStepBody>][] = [
  ['off', 'Card out, on the mat; touch the frame first. Photograph both faces before anything is loosened'],
  [
    'off',
    'Three short screws of the shroud, then the four spring screws crosswise; lay each on its place on the map',
    { ...stock, caution: 'springs', screwsOf: 'face' },
  ],
  ['off', 'Warm the cooler by hand and twist, never prise; pull the fan plug by its body', { ...stock, caution: 'fans' }],
  ['off', 'Loosen the bracket crosswise and hold the tower: it is heavier than the card', { ...tower, caution: 'sharp', screwsOf: 'face' }],
  ['off', 'Wipe the die until a fresh wipe stays white; let it dry', { caution: 'solvent', waitMin: 3 }],
  [
    'on',
    'Degrease memory and stages; peel the adhesive pads, press each strip for half a minute',
    { ...tower, caution: 'film', waitMin: 15 },
  ],
  [
    'on',
    'Two strips, not one: inductors stand four times as tall as the stages and would carry a common strip',
    { ...tower, caution: 'sharp' },
  ],
  [
    'on',
    'Paste over the whole bare die, corners too; tower down straight, four screws crosswise until the springs close',
    { ...tower, screwsOf: 'face' },
  ],
  ['on', 'Pads and paste as they were, stock cooler down straight, four screws crosswise', { ...stock, screwsOf: 'face' }],
  [
    'on',
    'Two fans on the tower from the card’s own header by the splitter; both must turn',
    { ...tower, caution: 'fans', header: 'FAN on the card', follows: 'graphics chip' },
  ],
  ['on', 'Fan plug of the stock cooler back', { ...stock, caution: 'fans', header: 'FAN on the card', follows: 'graphics chip' }],
  ['on', 'Idle for ten minutes and check the seat before any load'],
];

/** Before and after, as shipped and tuned: a card that hands took apart and put together again. */
export const RETROFIT: StudyBody = {
  title: 'A tower on Wren 8, a guide for the crew',
  family: 'card',
  question: 'Can the crew hang the spare tower on a card by itself, and is it worth it as shipped and with less voltage?',
  claims: [
    {
      id: 'ret-claim',
      variantId: 'ret-10',
      text: 'The tower is quieter by ten decibels',
      outcome: 'noise',
      spotId: null,
      direction: 'less',
      leastEffect: 10,
    },
  ],
  predictions: [{ id: 'ret-expect', variantId: 'ret-10', text: 'Stages pay for it.', spotId: 'ret-stages', expectedK: 10, plusMinusK: 5 }],
  rules: { ...rules, fans: 'as-shipped', sensorOfRecord: 'own', load: 'application', ladder: 'full', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [{ ...part('ret-wren', 'Wren 8', 'Serial W8-012, out of guarantee; opened for this study.'), map: towerMap() }],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('ret'), stagesSpot('ret')],
  variants: COOLERS.flatMap((cooler, i) =>
    SETTINGS.map((settings, j) =>
      variantAt(
        `ret-${i}${j}`,
        'ret-wren',
        { Cooler: cooler, Settings: settings },
        {
          isReference: i + j === 0,
          setup: [
            ['open-auto', 'open-auto-tuned'],
            ['tower', 'tower-tuned'],
          ][i]![j]!,
          notes: j === 1 ? '980 mV at the clocks it then reaches.' : '',
        },
      ),
    ),
  ),
  factors: [
    { name: 'Cooler', levels: [...COOLERS], changeMin: 55 },
    { name: 'Settings', levels: [...SETTINGS], changeMin: 2 },
  ],
  impossible: [],
  plan: { ...blankPlan(), school: 'least-teardown', firstVariantId: 'ret-00', mountMin: 55, remountMin: 55 },
  parts: [
    { ...blankPart('ret-tower', 'tower with home-made bracket'), ...tower, kind: 'cooler', price: 31, weightG: 940, coverId: 'face' },
    {
      ...blankPart('ret-pads', 'adhesive pads: come off again, soften above 90 °C'),
      ...tower,
      kind: 'fixing',
      quantity: 4,
      reusable: false,
      price: 1.1,
    },
    { ...blankPart('ret-glue', 'two-part glue, held in reserve: never comes off'), ...tower, kind: 'fixing', reusable: false, price: 4.2 },
    {
      ...blankPart('ret-paste', 'paste K'),
      kind: 'paste',
      reusable: false,
      price: 1.4,
      paste: { areaMm2: 676, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3, heatW: 141 },
    },
    { ...blankPart('ret-splitter', 'fan splitter'), ...tower, kind: 'other', price: 3.5, weightG: 12 },
  ],
  steps: steps.map(([when, text, change], i) => ({ ...blankStep(`ret-step-${i + 1}`, when, text), ...change })),
  recipe: recipe('Star-field render', 1200, 3600),
  locks: [held('Workload', 'star-field render, scene 2'), held('Case', 'open bench')],
  judging: readers,
};
