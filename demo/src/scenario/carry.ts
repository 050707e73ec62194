import type { RecipePhaseBody, StudyBody } from '@red-ember/contract';
import { WATTS } from './regulators.ts';

const MARKS = [20, 40, 50, 55, 60];
const step = (kind: 'load' | 'change', watts: number): RecipePhaseBody => ({
  kind,
  name: `${watts} W`,
  mode: 'fixed',
  durationS: 3600,
  capS: 3600,
  loadPercent: 100,
  ...(kind === 'change' ? { opensWith: `power cap to ${watts} W` } : {}),
  set: [{ control: 'power-cap', value: watts }],
  marksMin: MARKS,
});

const renamed = (text: string) => text.replace(/^watts-/, 'step-');

/** The same board in three steps of power, read by hand: what each component allows, and which of the dome's loads it carries. */
export const WATTS_STEPS: StudyBody = {
  ...WATTS,
  title: 'Watts that Ferry B2 carries, in three steps',
  question:
    'Which component binds, how many watts does the board carry on the bench and in the gallery, and which of our loads may run on it?',
  claims: [
    {
      id: 'step-claim',
      text: 'A fan along the sink cools its base by ten kelvin or more',
      outcome: 'temperature',
      spotId: 'step-base',
      direction: 'cooler',
      leastEffect: 10,
    },
    {
      id: 'step-carries',
      text: 'With the fan Ferry B2 carries the 165 W worst case',
      outcome: 'watts-carried',
      spotId: null,
      direction: 'at-least',
      leastEffect: 165,
    },
    {
      id: 'step-more',
      text: 'The fan is worth ten watts',
      outcome: 'watts-carried',
      spotId: null,
      direction: 'more',
      leastEffect: 10,
    },
  ],
  predictions: [{ id: 'step-expect', text: 'The fan blows along the sink.', spotId: 'step-base', expectedK: -12, plusMinusK: 5 }],
  subjects: WATTS.subjects.map((subject) => ({
    ...subject,
    id: 'step-b2',
    map: subject.map && { ...subject.map, placements: subject.map.placements.map((at) => ({ ...at, spotId: renamed(at.spotId) })) },
  })),
  spots: WATTS.spots.map((spot) => ({ ...spot, id: renamed(spot.id) })),
  variants: WATTS.variants.map((variant) => ({ ...variant, id: renamed(variant.id), subjectId: 'step-b2' })),
  recipe: [
    { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 900, capS: 900, loadPercent: 0, marksMin: [10, 14] },
    step('load', 40),
    step('change', 62),
    step('change', 90),
    { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
  ],
  locks: WATTS.locks.filter((lock) => lock.name !== 'Power cap'),
  judging: {
    marginK: 5,
    loads: [
      { id: 'player', name: 'Show player', powerW: 62 },
      { id: 'render', name: 'Star-field render', powerW: 118 },
      { id: 'worst', name: 'Worst case', powerW: 165 },
    ],
    profiles: [],
  },
};
