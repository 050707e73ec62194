import type { RecipePhaseBody, SpotBody, StudyBody } from '@red-ember/contract';
import { GALLERY, held, rules, spot, UNPLANNED, variant, watched } from './common.ts';
import { part, processorSpot, recipe, stagesSpot, throttlingSpots } from './plans.ts';

/** Studies that are set up for the simulated benches and wait to be run. */

const thermocouple = (id: string, name: string, channel: string, change: Partial<SpotBody> = {}) =>
  spot(id, name, channel, { sensor: `TC ${channel}`, accuracyK: 1.5, placementK: 1, ...change });

const change = (name: string, control: string, value: number | string): RecipePhaseBody => ({
  kind: 'change',
  name,
  mode: 'until-settled',
  durationS: 600,
  capS: 2700,
  loadPercent: 100,
  opensWith: name,
  set: [{ control, value }],
});

// ---------------------------------------------------------------- one long session

const [longIdle, longLoad, longCool] = recipe('Show player on three outputs', 900, 3600) as [
  RecipePhaseBody,
  RecipePhaseBody,
  RecipePhaseBody,
];

/** One card in a small case, four changes in one recording; the automatic fan absorbs a part of each. */
export const LONG_SESSION: StudyBody = {
  title: 'One long session with Wren 8 in the small case',
  family: 'card',
  question: 'What does a blocked vent do to the card, what a raised power limit, and how much of either does its own fan hide?',
  claims: [],
  predictions: [{ id: 'long-expect', text: 'The fan takes most of it.', spotId: 'long-mem', expectedK: 5, plusMinusK: 3 }],
  rules: { ...rules, fans: 'as-shipped', place: 'enclosure', sensorOfRecord: 'own', load: 'application', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [part('long-wren', 'Wren 8', 'Open two-fan cooler, serial W8-004, in the small case.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('long'), stagesSpot('long')],
  variants: [variant('long-case', 'long-wren', 'small case', 'open-case', true, 'Fan automatic, case fans at 60 %.')],
  ...UNPLANNED,
  recipe: [
    longIdle,
    longLoad,
    change('Vent blocked', 'vent', 'blocked'),
    change('Power limit to 290 W', 'power-limit', 290),
    change('Vent open again', 'vent', 'open'),
    change('Side opened', 'side-panel', 'off'),
    longCool,
  ],
  locks: [held('Workload', 'show player, scene 4'), held('Case fans', '60 %'), watched('Power cap', 235, 'W', 6, 'power')],
};

// ---------------------------------------------------------------- does one part heat another

/** Two coolers of equal power in one closed case, every fan locked: does what leaves the card reach the processor? */
export const HEAT_PATH: StudyBody = {
  title: 'Does the card heat the processor',
  family: 'card',
  question:
    'The flow-through cooler blows out at the back, towards the processor. Does the processor pay for it in the closed case, and does an open front help?',
  claims: [
    {
      id: 'path-through',
      text: 'The flow-through cooler does not warm the processor',
      outcome: 'temperature',
      spotId: 'path-processor',
      direction: 'no-difference',
      leastEffect: 0,
    },
  ],
  predictions: [{ id: 'path-expect', text: 'All of its exhaust rises.', spotId: 'path-processor', expectedK: 4, plusMinusK: 3 }],
  rules: { ...rules, fans: 'locked', place: 'enclosure', sensorOfRecord: 'own', load: 'application', practicalK: 1 },
  enclosure: GALLERY,
  subjects: [
    part('path-wren', 'Wren 8', 'Open two-fan cooler, serial W8-004.'),
    part('path-wren-t', 'Wren 8 T', 'Flow-through cooler, serial W8T-002, the same power.'),
  ],
  roomChannelId: 'lh8-room',
  spots: [processorSpot('path'), ...throttlingSpots('path').slice(0, 2)],
  variants: [
    variant('path-open', 'path-wren', 'open cooler', 'open-case-locked', true),
    variant('path-flow', 'path-wren-t', 'flow-through cooler', 'flow-case-locked'),
  ],
  ...UNPLANNED,
  recipe: [longIdle, longLoad, change('Front opened', 'front-panel', 'off'), longCool],
  locks: [
    held('Workload', 'show player, scene 4'),
    watched('Fan duty', 70, '%', 2, 'duty'),
    held('Case fans', '60 %'),
    held('Processor load', '65 W'),
    held('Orientation', 'upright'),
  ],
};

// ---------------------------------------------------------------- sinks for a hot drive

const hotSpots: SpotBody[] = [
  thermocouple('hot-controller', 'Controller', 'tc1', {
    place: 'Between package and pad',
    componentClass: 'drive controller',
    limitC: 95,
    limitSource: 'general figure',
    cutOutC: 108,
    throttleC: 88,
    throttleSource: 'as the drive states it',
  }),
  thermocouple('hot-flash', 'Flash, top face', 'tc2', {
    place: 'Second package from the edge connector',
    componentClass: 'flash',
    limitC: 85,
    limitSource: 'general figure',
    cutOutC: 95,
  }),
];
const transfer = (name: string): RecipePhaseBody => ({ kind: 'load', name, mode: 'fixed', durationS: 1200, capS: 1200, loadPercent: 100 });

/** A drive that vanishes without a sink; four sinks, two transfers each. */
export const HOT_DRIVE: StudyBody = {
  title: 'Sinks for the hot Thistle 4T',
  family: 'drive',
  question:
    'The early Thistle 4T leaves the machine when it is written to for long. Which sink keeps it there, and which only puts it off?',
  claims: [
    {
      id: 'hot-slab',
      variantId: 'hot-slab',
      text: 'The thick slab prevents throttling',
      outcome: 'time-to-throttle',
      spotId: null,
      direction: 'more',
      leastEffect: 10,
    },
  ],
  predictions: [],
  rules: { ...rules, figure: 'settled-mean' },
  enclosure: GALLERY,
  subjects: [{ ...part('hot-thistle', 'Thistle 4T, early', 'Two-sided, the first batch; scratch drive T4-09.'), serial: 'T4-09' }],
  roomChannelId: 'lh8-room',
  spots: hotSpots,
  variants: [
    variant('hot-bare', 'hot-thistle', 'bare', '4t-hot-bare', true, 'Expected to vanish: record it.'),
    variant('hot-comb', 'hot-thistle', 'comb sink', '4t-hot-comb-sink'),
    variant('hot-comb-fan', 'hot-thistle', 'comb sink with fan', '4t-hot-comb-sink-fan'),
    variant('hot-slab', 'hot-thistle', 'thick slab', '4t-hot-thick-slab'),
  ],
  ...UNPLANNED,
  recipe: [
    { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 480, capS: 480, loadPercent: 0 },
    transfer('First transfer'),
    { kind: 'cool-down', name: 'Rest', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
    transfer('Second transfer'),
    { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
  ],
  locks: [held('Workload', 'sequential write, whole drive'), held('Orientation', 'drive horizontal'), held('Case', 'open bench')],
};

// ---------------------------------------------------------------- what is holding it back

/** Automatic fan, full fan, raised power: which limiter when, and what is left behind. */
export const HOLDING_BACK: StudyBody = {
  title: 'What is holding Wren 8 back',
  family: 'card',
  question:
    'Is it heat, power or its own clock that holds the card back in the star-field render, and what would a better cooler be worth?',
  claims: [
    {
      id: 'hold-fan',
      variantId: 'hold-full',
      text: 'A full fan gives three more frames a second',
      outcome: 'throughput',
      spotId: null,
      direction: 'more',
      leastEffect: 3,
    },
  ],
  predictions: [
    { id: 'hold-expect', variantId: 'hold-full', text: 'Cooler, and hardly faster.', spotId: 'hold-die', expectedK: -6, plusMinusK: 3 },
  ],
  rules: { ...rules, fans: 'as-shipped', sensorOfRecord: 'own', load: 'application', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [part('hold-wren', 'Wren 8', 'Open two-fan cooler, serial W8-007.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('hold'), stagesSpot('hold')],
  variants: [
    variant('hold-auto', 'hold-wren', 'automatic fan', 'open-auto', true),
    variant('hold-full', 'hold-wren', 'fan full', 'open-full'),
    variant('hold-raised', 'hold-wren', 'raised to 290 W', 'open-raised'),
  ],
  ...UNPLANNED,
  recipe: recipe('Star-field render', 900, 2700),
  locks: [held('Workload', 'star-field render, scene 2'), held('Case', 'open bench')],
};
