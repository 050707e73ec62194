import { type RecipePhaseBody, type SpotBody, type StudyBody, type SubjectBody } from '@red-ember/contract';
import { blankPlan } from '@red-ember/study';
import { cardMap, FIXES_FITTING, LAYOUT_FITTING, PASTE_FITTING, SIDE_SCREWS } from './fittings.ts';
import { board, sinkMap } from './regulators.ts';
import { cannot, GALLERY, held, rules, spot, variantAt, watched } from './common.ts';

/** Studies that are planned and wait for the bench: what is compared, in which order, on which days. */

export const recipe = (name: string, leastS: number, capS: number): RecipePhaseBody[] => [
  { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
  { kind: 'load', name, mode: 'until-settled', durationS: leastS, capS, loadPercent: 100 },
  { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
];

export const part = (id: string, name: string, details: string): SubjectBody => ({ id, name, details, drive: null, map: null });

const cardSpots = (prefix: string): SpotBody[] =>
  (
    [
      ['die', 'Graphics chip', 'graphics core', 95],
      ['hot', 'Graphics chip, hottest place', 'hot spot', 105],
      ['mem', 'Memory, hottest chip', 'memory', 105],
    ] as const
  ).map(([id, name, componentClass, limitC]) =>
    spot(`${prefix}-${id}`, name, id, {
      place: 'As the card itself says',
      componentClass,
      limitC,
      limitSource: 'general figure',
      cutOutC: limitC + 3,
      method: 'own',
      sensor: 'card',
      accuracyK: 3,
      resolutionK: 1,
      placementK: 3,
    }),
  );

/** The same, with the core throttling the card where it says so; the rest of the spots do not. */
export const throttlingSpots = (prefix: string): SpotBody[] =>
  cardSpots(prefix).map((entry) =>
    entry.channel === 'die' ? { ...entry, throttleC: 88, throttleSource: 'as the card states it' } : entry,
  );

/** Thermocouple behind the card's power stages. */
export const stagesSpot = (prefix: string): SpotBody =>
  spot(`${prefix}-stages`, 'Power stages', 'stages', {
    place: 'Back of the board, behind the third stage',
    componentClass: 'power stage',
    limitC: 125,
    limitSource: 'data sheet of the power stage',
    cutOutC: 128,
    sensor: 'TC stages',
    accuracyK: 1.5,
    placementK: 1,
  });

/** What the processor beside the card says of itself. */
export const processorSpot = (prefix: string) =>
  spot(`${prefix}-processor`, 'Processor', 'processor', {
    place: 'As the processor itself says',
    componentClass: 'processor',
    limitC: 95,
    limitSource: 'general figure',
    cutOutC: 98,
    method: 'own',
    sensor: 'processor',
    accuracyK: 3,
    resolutionK: 1,
    placementK: 3,
  });

const FACING = ['upright', 'lying'] as const;
const FANS = ['front only', 'front and rear', 'front, rear, top'] as const;

/** Three fan layouts in two orientations: which differences can be called at all? */
export const LAYOUT: StudyBody = {
  title: 'Fans and orientation around Wren 8',
  family: 'card',
  question:
    'The player machine may stand upright or lie flat. Which case fans does the card need in either, and where does one more fan stop helping?',
  claims: [
    {
      id: 'lay-top',
      variantId: 'lay-v02',
      text: 'A third fan cools the memory',
      outcome: 'temperature',
      spotId: 'lay-mem',
      direction: 'cooler',
      leastEffect: 2,
    },
  ],
  predictions: [
    { id: 'lay-expect', variantId: 'lay-v01', text: 'The rear fan brings most of it.', spotId: 'lay-mem', expectedK: -2, plusMinusK: 2 },
  ],
  rules: { ...rules, fans: 'locked', basis: 'as-found', place: 'enclosure', sensorOfRecord: 'own', ladder: 'full', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [part('lay-wren', 'Wren 8', 'Open two-fan cooler, serial W8-004.')],
  roomChannelId: null,
  spots: throttlingSpots('lay'),
  variants: FACING.flatMap((orientation, i) =>
    FANS.map((fans, j) =>
      variantAt(
        `lay-v${i}${j}`,
        'lay-wren',
        { Orientation: orientation, 'Case fans': fans },
        { isReference: i === 0 && j === 0, setup: `${orientation}-${['front', 'rear', 'top'][j]}` },
      ),
    ),
  ),
  factors: [
    { name: 'Orientation', levels: [...FACING], changeMin: 3 },
    { name: 'Case fans', levels: [...FANS], changeMin: 8 },
  ],
  impossible: [],
  plan: { ...blankPlan(), mountMin: 10, remountMin: 0 },
  ...LAYOUT_FITTING,
  recipe: recipe('Show player on three outputs', 900, 3600),
  locks: [held('Workload', 'show player, scene 4'), held('Card fans', '60 % duty'), held('Panels', 'all on')],
};

const PASTES = ['K', 'L', 'M', 'N', 'Q', 'Z'] as const;

/** Six pastes on one card; the last one cannot be cleaned off. */
export const PASTE_ROUND: StudyBody = {
  title: 'Six pastes on Wren 8',
  family: 'card',
  question: 'Which paste goes on the eighteen cards of the dome, and is this card able to tell pastes apart at all?',
  claims: [
    {
      id: 'pst-l',
      variantId: 'pst-L',
      text: 'Paste L is cooler than our usual K',
      outcome: 'temperature',
      spotId: 'pst-hot',
      direction: 'cooler',
      leastEffect: 1,
    },
  ],
  predictions: [
    { id: 'pst-expect', variantId: 'pst-L', text: 'All but Z lie within two kelvin.', spotId: 'pst-hot', expectedK: -0.5, plusMinusK: 1.5 },
  ],
  rules: { ...rules, fans: 'locked', basis: 'held-room', sensorOfRecord: 'own', paste: 'spread', practicalK: 1 },
  enclosure: GALLERY,
  subjects: [{ ...part('pst-wren', 'Wren 8', 'Open two-fan cooler, serial W8-007; opened for this study only.'), map: cardMap() }],
  roomChannelId: 'lh8-room',
  spots: cardSpots('pst'),
  variants: PASTES.map((paste, i) =>
    variantAt(
      `pst-${paste}`,
      'pst-wren',
      { Paste: `paste ${paste}` },
      {
        isReference: i === 0,
        setup: `paste-${paste}`,
        notes: paste === 'Q' ? 'Conductive: mask the parts around the die. It stains the cooler for good, so it comes last.' : '',
      },
    ),
  ),
  factors: [{ name: 'Paste', levels: PASTES.map((paste) => `paste ${paste}`), changeMin: 20 }],
  impossible: [],
  plan: { ...blankPlan(), mountMin: 20, remountMin: 20, cureMin: 30, lastVariantId: 'pst-Q' },
  ...PASTE_FITTING,
  recipe: recipe('Star-field render', 2700, 5400),
  locks: [held('Workload', 'star-field render, scene 2'), held('Fans', 'full'), watched('Power cap', 235, 'W', 5, 'power')],
};

const STEPS = [
  ['stock', 'stock', 'as shipped'],
  ['bracketed tower', 'stock', 'first step'],
  ['bracketed tower', 'P12', 'second step'],
  ['closed loop 240', 'P12', 'third step: the block covers processor and regulator'],
] as const;

/** A regulator that trips, and the ladder of what is tried: each step is kept. */
export const FIXES: StudyBody = {
  title: 'What stops Ferry B2 from tripping',
  family: 'regulator',
  question:
    'Ferry B2 trips after some minutes of worst case. How far does each step get, and does any of them end it rather than put it off?',
  claims: [
    {
      id: 'fix-loop',
      variantId: 'fix-3',
      text: 'With the loop the board does not trip',
      outcome: 'temperature',
      spotId: 'fix-stage',
      direction: 'cooler',
      leastEffect: 10,
    },
  ],
  predictions: [
    { id: 'fix-expect', variantId: 'fix-3', text: 'Pads bring less than the loop.', spotId: 'fix-stage', expectedK: -12, plusMinusK: 6 },
  ],
  rules: { ...rules, fans: 'locked', stress: 'pushed', ladder: 'one-change', practicalK: 3 },
  enclosure: GALLERY,
  subjects: [
    board('fix-b2', 'Ferry B2', 'Serial B2-014, the one that tripped in the gallery.', {
      ...sinkMap(2.3, 1.5, [{ spotId: 'fix-stage', face: 'top', xMm: 17, yMm: 61 }]),
      screws: SIDE_SCREWS,
    }),
  ],
  roomChannelId: 'lh8-room',
  spots: [
    spot('fix-stage', 'Power stage 3', 'stage3', {
      place: 'Beside the hottest stage, beneath the sink',
      componentClass: 'power stage',
      limitC: 125,
      limitSource: 'data sheet of the power stage',
      cutOutC: 128,
      throttleC: 112,
      throttleSource: 'as the board does it',
      accuracyK: 1.5,
      placementK: 2,
    }),
    spot('fix-loop-out', 'Water, leaving the block', 'water', {
      place: 'In the fitting behind the block',
      componentClass: 'coolant',
      limitC: 60,
      limitSource: 'general figure for closed loops',
      cutOutC: 62,
      accuracyK: 1.5,
      placementK: 0.5,
    }),
  ],
  variants: STEPS.map(([cooler, pad, notes], i) =>
    variantAt(`fix-${i}`, 'fix-b2', { 'Processor cooler': cooler, Pads: pad }, { isReference: i === 0, setup: `b2-step-${i}`, notes }),
  ),
  factors: [
    { name: 'Processor cooler', levels: ['stock', 'bracketed tower', 'closed loop 240'], changeMin: 25, under: '', renew: false },
    { name: 'Pads', levels: ['stock', 'P12'], changeMin: 15, under: 'Processor cooler', renew: false },
  ],
  impossible: [cannot({ 'Processor cooler': 'closed loop 240', Pads: 'stock' }, 'the block stands too high for the stock pads')],
  plan: { ...blankPlan(), mountMin: 25, remountMin: 25, firstVariantId: 'fix-0' },
  ...FIXES_FITTING,
  recipe: recipe('Worst case, 165 W', 1200, 5400),
  locks: [held('Workload', 'worst case, all cores'), held('Firmware', 'FB-1.12'), watched('Power cap', 165, 'W', 4, 'power')],
};
