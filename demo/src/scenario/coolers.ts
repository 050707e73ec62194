import { type RecipePhaseBody, type StudyBody } from '@red-ember/contract';
import { blankPlan } from '@red-ember/study';
import { bought, GALLERY, held, readers, rules, UNPLANNED, variant, variantAt, watched } from './common.ts';
import { part, processorSpot, recipe, stagesSpot, throttlingSpots } from './plans.ts';

/** Studies of card coolers, interfaces and air that were measured before the verdict is asked for. */

// ---------------------------------------------------------------- reusable pad against paste

const INTERFACES = [
  ['stock', 'stock paste', true],
  ['sheet', 'graphite sheet', false],
  ['l', 'paste L', false],
] as const;

function padStudy(prefix: string, title: string, fans: 'as-shipped' | 'locked'): StudyBody {
  const suffix = fans === 'as-shipped' ? '-auto' : '';
  return {
    title,
    family: 'card',
    question: 'May the reusable graphite sheet replace paste on the eighteen cards, or does it cost degrees?',
    claims: [
      {
        id: `${prefix}-claim`,
        variantId: `${prefix}-sheet`,
        text: 'The sheet is as good as the stock paste',
        outcome: 'temperature',
        spotId: `${prefix}-hot`,
        direction: 'no-difference',
        leastEffect: 0,
      },
    ],
    predictions: [
      {
        id: `${prefix}-expect`,
        variantId: `${prefix}-sheet`,
        text: 'A sheet is thicker than paste.',
        spotId: `${prefix}-hot`,
        expectedK: 1,
        plusMinusK: 1.5,
      },
    ],
    rules: { ...rules, fans, sensorOfRecord: 'own', load: 'application', practicalK: 1 },
    enclosure: GALLERY,
    subjects: [part(`${prefix}-wren`, 'Wren 8', 'Open two-fan cooler, serial W8-011.')],
    roomChannelId: 'lh8-room',
    spots: throttlingSpots(prefix),
    variants: INTERFACES.map(([id, paste, isReference]) =>
      variantAt(
        `${prefix}-${id}`,
        `${prefix}-wren`,
        { Interface: paste },
        {
          isReference,
          setup: `${paste.replace(' ', '-')}${suffix}`,
          notes: id === 'sheet' ? 'Conductive: mask every part around the die, no scrap may fall onto the board.' : '',
        },
      ),
    ),
    factors: [{ name: 'Interface', levels: INTERFACES.map(([, paste]) => paste), changeMin: 20 }],
    impossible: [],
    plan: { ...blankPlan(), mountMin: 20, remountMin: 20 },
    parts: [
      { ...bought(`${prefix}-sheet-part`, `${prefix}-sheet`, 'graphite sheet', 'pad', 6.5, 1), conductive: true },
      { ...bought(`${prefix}-l-part`, `${prefix}-l`, 'paste L, one application', 'paste', 0.9, 1), reusable: false },
      { ...bought(`${prefix}-stock-part`, `${prefix}-stock`, 'stock paste, one application', 'paste', 0.3, 1), reusable: false },
    ],
    steps: [],
    recipe: recipe('Star-field render', 2700, 5400),
    locks: [
      held('Workload', 'star-field render, scene 2'),
      held('Case', 'open bench'),
      ...(fans === 'locked' ? [watched('Fan duty', 100, '%', 2, 'duty')] : []),
    ],
    judging: readers,
  };
}

/** The first classic: fans left free turn the comparison round. */
export const PAD_FREE = padStudy('padf', 'Graphite sheet against paste, fans left free', 'as-shipped');
export const PAD_LOCKED = padStudy('padl', 'Graphite sheet against paste, fans locked', 'locked');

// ---------------------------------------------------------------- tight case

const sweep = (name: string, sweepOf: string, from: number, to: number, steps: number, durationS: number): RecipePhaseBody => ({
  kind: 'sweep',
  name,
  mode: 'fixed',
  durationS,
  capS: durationS,
  loadPercent: 100,
  sweepOf,
  from,
  to,
  steps,
});

const cool: RecipePhaseBody = { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 300, capS: 300, loadPercent: 0 };
const idle: RecipePhaseBody = { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 };

/** The second classic: a starved card looks cool. And where more case fan stops helping. */
export const TIGHT_CASE: StudyBody = {
  title: 'Wren 8 in the tight case',
  family: 'card',
  question: 'How fast must the case fans turn in the twenty-litre case, and why does the card run so cool beside the small processor?',
  claims: [
    {
      id: 'tight-claim',
      text: 'With the small processor the card runs ten kelvin cooler',
      outcome: 'temperature',
      spotId: 'tight-die',
      direction: 'cooler',
      leastEffect: 10,
    },
  ],
  predictions: [],
  rules: { ...rules, fans: 'locked', place: 'enclosure', sensorOfRecord: 'own', load: 'application', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [part('tight-wren', 'Wren 8', 'Open two-fan cooler, serial W8-004, in the twenty-litre case.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('tight'), stagesSpot('tight')],
  variants: [
    variant('tight-fed', 'tight-wren', 'quick processor', 'open-case-locked', true),
    variant('tight-starved', 'tight-wren', 'small processor', 'starved-locked', false, 'Feeds the card only part of what it could draw.'),
  ],
  ...UNPLANNED,
  recipe: [idle, sweep('Case fans', 'case-fans', 100, 20, 5, 1200), cool],
  locks: [held('Workload', 'show player, scene 4'), watched('Fan duty', 70, '%', 2, 'duty'), held('Panels', 'all on')],
  judging: {
    ...readers,
    loads: [
      { id: 'tight-player', name: 'Show player', powerW: 150 },
      { id: 'tight-render', name: 'Star-field render', powerW: 235 },
    ],
  },
};

// ---------------------------------------------------------------- against the wall

const change = (name: string, control: string, value: number | string): RecipePhaseBody => ({
  kind: 'change',
  name,
  mode: 'until-settled',
  durationS: 900,
  capS: 1800,
  loadPercent: 100,
  opensWith: name,
  set: [{ control, value }],
});

/** A flow-through card with its grille against a wall: what is tried, one after the other, in one recording. */
export const AT_THE_WALL: StudyBody = {
  title: 'Wren 8 T with its exhaust against the wall',
  family: 'card',
  question:
    'The rack leaves the flow-through card a hand of air. What helps at no more noise: its second fan, the case fans, or less voltage?',
  claims: [],
  predictions: [{ id: 'wall-expect', text: 'Less voltage brings most.', spotId: 'wall-die', expectedK: -6, plusMinusK: 4 }],
  rules: { ...rules, fans: 'locked', place: 'enclosure', sensorOfRecord: 'own', load: 'application', practicalK: 1 },
  enclosure: GALLERY,
  subjects: [part('wall-wren-t', 'Wren 8 T', 'Flow-through cooler, serial W8T-002.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('wall'), processorSpot('wall')],
  variants: [variant('wall-card', 'wall-wren-t', 'against the wall', 'flow-wall-locked', true)],
  ...UNPLANNED,
  recipe: [
    idle,
    { kind: 'load', name: 'As it stands', mode: 'until-settled', durationS: 900, capS: 2700, loadPercent: 100 },
    change('Second fan to 80 %', 'fan2-duty', 80),
    change('Case fans to 90 %', 'case-fans', 90),
    change('Voltage to 980 mV', 'core-voltage', 980),
    cool,
  ],
  locks: [held('Workload', 'show player, scene 4'), held('Processor load', '65 W')],
};

// ---------------------------------------------------------------- salvaged and oversized coolers

/** A failed fan replaced by two strapped on, and a tower on a home-made bracket, each through its fan range. */
export const SALVAGED: StudyBody = {
  title: 'What to put on a Wren 8 whose fan failed',
  family: 'card',
  question:
    'One fan of W8-003 is dead. Strap two 120 mm fans onto the fins, or hang the old tower on a bracket: which is quieter at the same temperature, and what do the power stages say?',
  claims: [
    {
      id: 'salv-claim',
      variantId: 'salv-strap',
      text: 'The strapped-on fans are quieter by five decibels',
      outcome: 'noise',
      spotId: null,
      direction: 'less',
      leastEffect: 5,
    },
  ],
  predictions: [
    { id: 'salv-expect', variantId: 'salv-tower', text: 'The tower is far cooler.', spotId: 'salv-die', expectedK: -8, plusMinusK: 4 },
  ],
  rules: { ...rules, fans: 'locked', sensorOfRecord: 'own', load: 'application', practicalK: 1 },
  enclosure: GALLERY,
  subjects: [part('salv-wren', 'Wren 8', 'Serial W8-003.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('salv'), stagesSpot('salv')],
  variants: [
    variant('salv-stock', 'salv-wren', 'stock cooler, repaired', 'open-full', true),
    variant('salv-strap', 'salv-wren', 'twin 120 strap-on', 'strap-on', false, 'Two fans on cable ties, from the case supply.'),
    variant('salv-tower', 'salv-wren', 'bracketed tower', 'tower', false, 'Separate sinks on memory and power stages.'),
  ],
  ...UNPLANNED,
  // Decided as soon as a look tells: two mounts a side did.
  plan: { ...UNPLANNED.plan, stopRule: 'pocock', mostASide: 6 },
  parts: [
    bought('salv-stock-part', 'salv-stock', 'spare fan from the maker', 'fan', 38, 60),
    bought('salv-strap-part', 'salv-strap', 'two 120 mm fans and ties', 'fan', 22, 310),
    bought('salv-tower-part', 'salv-tower', 'bracket, sinks and glue; the tower was there', 'cooler', 31, 940),
  ],
  recipe: [idle, sweep('Fans', 'fan-duty', 100, 40, 4, 1200), cool],
  locks: [held('Workload', 'show player, scene 4'), held('Case', 'open bench')],
  judging: readers,
};
