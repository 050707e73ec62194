import type { RecipePhaseBody, SpotBody, StudyBody, TrapKey } from '@red-ember/contract';
import { blankSpot, blankStudy } from '@red-ember/study';

/** One thing on the bench: what it is called, which set-up of the simulated bench it is, and which it would be with nothing wrong. */
export interface Thing {
  name: string;
  setup: string;
  trueSetup?: string;
}

/** Which mounts of which side a trap is on. */
interface Plant {
  side: 'a' | 'b' | 'either' | 'both';
  mounts: 'first' | 'first-or-second' | 'all';
}

export interface Exercise {
  key: string;
  title: string;
  level: 1 | 2 | 3;
  family: 'drive' | 'card';
  brief: string;
  /** Pairs of which the seed draws one. */
  pairs: readonly (readonly [Thing, Thing])[];
  /** Whether either may be the reference. */
  turns: boolean;
  /** Channel at which the question is asked. */
  spot: string;
  practicalK: number;
  trap: TrapKey | null;
  plant: Plant | null;
  hints: readonly string[];
  lesson: string;
  /** Runs and mounts that a good hand needs. */
  good: { runs: number; mounts: number };
  change?: Partial<Pick<StudyBody, 'rules' | 'locks' | 'recipe' | 'roomChannelId'>>;
}

const thing = (name: string, setup: string, trueSetup?: string): Thing => ({ name, setup, ...(trueSetup ? { trueSetup } : {}) });

const paste = (letter: string) => thing(`paste ${letter}`, `paste-${letter}`);
const BARE = thing('bare', '4t-bare');
const COMB = thing('comb sink', '4t-comb-sink');
const COMB_FAN = thing('comb sink with fan', '4t-comb-sink-fan');
const SLAB = thing('thick slab', '4t-thick-slab');
const LID = thing('slot lid', 'slot-lid');

const phase = (
  kind: RecipePhaseBody['kind'],
  name: string,
  durationS: number,
  loadPercent: number,
  more: Partial<RecipePhaseBody> = {},
) => ({
  kind,
  name,
  mode: 'fixed' as const,
  durationS,
  capS: durationS,
  loadPercent,
  ...more,
});
const recipe = (leastS: number, capS: number): RecipePhaseBody[] => [
  phase('idle-soak', 'Idle soak', 300, 0),
  phase('load', 'Load', leastS, 100, { mode: 'until-settled', capS }),
  phase('cool-down', 'Cool-down', 300, 0),
];
const SHORT: RecipePhaseBody[] = [
  phase('idle-soak', 'Idle soak', 300, 0),
  phase('load', 'Load', 300, 100),
  phase('cool-down', 'Cool-down', 300, 0),
];
/** A clip is copied in as fast as it goes; then it is shown. */
const COPIED_IN: RecipePhaseBody[] = [
  phase('idle-soak', 'Idle soak', 300, 0),
  phase('load', 'Copying in', 1200, 100),
  phase('load', 'Show', 240, 40),
  phase('cool-down', 'Cool-down', 300, 0),
];
const SLOW_FAN: RecipePhaseBody[] = recipe(900, 5400).map((entry) => ({ ...entry, set: [{ control: 'fan-duty', value: 40 }] }));

const locked = (name: string, value: number, channel: string) => ({
  name,
  value: String(value),
  unit: '%',
  tolerance: 3,
  channel,
  overrides: [],
});
const held = (name: string, value: string) => ({ name, value, unit: '', tolerance: null, channel: '', overrides: [] });
const FANS_LOCKED = [held('Workload', 'star-field render, scene 2'), locked('Fan duty', 100, 'duty')];
const rulesOf = (family: Exercise['family'], change: Partial<StudyBody['rules']>): StudyBody['rules'] => ({
  ...blankStudy('', family).rules,
  ...change,
});

/** Thirteen exercises, from easy to hard. Each is a job of the bench with one thing wrong, or with nothing wrong at all. */
export const EXERCISES: readonly Exercise[] = [
  {
    key: 'cover',
    title: 'Does the cover help?',
    level: 1,
    family: 'drive',
    brief:
      'A cover lies beside the drive that streams the show footage. Somebody fitted it in a hurry this morning, and left. Say what it does to the controller.',
    pairs: [
      [BARE, COMB],
      [BARE, SLAB],
      [BARE, LID],
    ],
    turns: false,
    spot: 'tc1',
    practicalK: 1,
    trap: 'film-left',
    plant: { side: 'b', mounts: 'first' },
    hints: [
      'One mount is one mount. What does another one of the same cover say?',
      'Look at what was peeled off before the cover went on.',
    ],
    lesson: 'A pad with its film on it is a cover that does not touch. One remount costs a quarter of an hour and finds it.',
    good: { runs: 4, mounts: 4 },
  },
  {
    key: 'interface',
    title: 'Sheet or paste, as shipped',
    level: 1,
    family: 'card',
    brief:
      'Eighteen cards are to get a new layer between chip and cooler. The cards are as they came out of the box. Say what the new layer itself does to the chip.',
    pairs: [
      [thing('stock paste', 'stock-paste-auto', 'stock-paste'), thing('graphite sheet', 'graphite-sheet-auto', 'graphite-sheet')],
      [thing('stock paste', 'stock-paste-auto', 'stock-paste'), thing('paste L', 'paste-L-auto', 'paste-L')],
    ],
    turns: true,
    spot: 'die',
    practicalK: 1,
    trap: 'fans-free',
    plant: null,
    hints: [
      'What else reacts when a chip gets cooler?',
      'The bench has set-ups of the same layers with the fans full: variants can be added at Equip.',
    ],
    lesson:
      'A free fan takes up part of what a cooler or a paste gives, and can turn the result round. What was free can be compared; what followed it cannot.',
    good: { runs: 4, mounts: 4 },
    change: {
      rules: rulesOf('card', { fans: 'as-shipped', sensorOfRecord: 'own' }),
      locks: [held('Workload', 'star-field render, scene 2')],
    },
  },
  {
    key: 'little-fan',
    title: 'Is the little fan worth its noise?',
    level: 1,
    family: 'drive',
    brief: 'The same comb sink, with a small fan on it and without. Say what the fan does to the controller.',
    pairs: [[COMB, COMB_FAN]],
    turns: true,
    spot: 'tc1',
    practicalK: 1,
    trap: 'wrong-plug',
    plant: { side: 'either', mounts: 'first' },
    hints: ['What does the fan itself say that it does?', 'A duty is what was asked for. A speed is what came.'],
    lesson: 'A duty that is obeyed by another plug cools nothing. Speed is worth a channel.',
    good: { runs: 4, mounts: 4 },
  },
  {
    key: 'dirty',
    title: 'A noisy morning',
    level: 1,
    family: 'drive',
    brief:
      'Backups run on the machine, and a connector is loose. The question is as plain as ever: what does the cover do to the controller?',
    pairs: [
      [BARE, COMB],
      [BARE, SLAB],
    ],
    turns: true,
    spot: 'tc1',
    practicalK: 1,
    trap: 'dirty-samples',
    plant: { side: 'both', mounts: 'all' },
    hints: ['Which samples does the reading rest on?', 'Read says what was left out of each window, and why.'],
    lesson: 'Spikes and holes are no reason to throw a run away where enough is left between them, and a reason to say what was left out.',
    good: { runs: 4, mounts: 4 },
  },
  {
    key: 'heavy',
    title: 'The heavy slab wins in five minutes',
    level: 2,
    family: 'drive',
    brief:
      'Five minutes of writing a clip, then the figure is read off: that is how it was always done here. Say which of the two covers keeps the controller cooler in an evening’s show.',
    pairs: [[COMB, SLAB]],
    turns: true,
    spot: 'tc1',
    practicalK: 1,
    trap: 'short-load',
    plant: null,
    hints: [
      'How long does a show last, and how long a load here?',
      'A recipe can be changed at Plan: a load may last until it has settled.',
    ],
    lesson: 'Mass delays. What soaks up heat looks like what sheds it until it is full.',
    good: { runs: 4, mounts: 4 },
    change: { recipe: SHORT },
  },
  {
    key: 'falling',
    title: 'Copied in, then shown',
    level: 2,
    family: 'drive',
    brief:
      'The footage is copied in at full speed, then the show reads it at less than half of that. The figure is taken at the end of the show’s few minutes, as it always was. Say which of the two keeps the controller cooler during an evening’s show.',
    pairs: [
      [COMB_FAN, SLAB],
      [BARE, SLAB],
    ],
    turns: true,
    spot: 'tc1',
    practicalK: 1,
    trap: 'falling',
    plant: null,
    hints: ['Which way does the trace go while it is read?', 'A recipe can be changed at Plan: what comes before a load is still in it.'],
    lesson: 'What was hot stays hot for a while, the heavier the longer. A reading on the way down belongs to the load before.',
    good: { runs: 4, mounts: 4 },
    change: { recipe: COPIED_IN },
  },
  {
    key: 'second-machine',
    title: 'The cool machine',
    level: 2,
    family: 'card',
    brief:
      'Two machines of one kind, one card carried from one to the other; all fans are locked. In the second the card runs far cooler. Does that machine cool it better, at the same work?',
    pairs: [[thing('first machine', 'open-case-locked'), thing('second machine', 'second-machine-locked', 'open-case-locked')]],
    turns: true,
    spot: 'die',
    practicalK: 1.5,
    trap: 'starved',
    plant: null,
    hints: ['Does the card do the same work in both?', 'Power, throughput and time busy are recorded beside the temperatures.'],
    lesson: 'A card that waits for its processor is cool and idle. Compare at equal power, or not at all.',
    good: { runs: 4, mounts: 4 },
    change: {
      rules: rulesOf('card', { fans: 'locked', sensorOfRecord: 'own', place: 'enclosure' }),
      locks: [held('Workload', 'show player, scene 4'), locked('Fan duty', 70, 'duty')],
    },
  },
  {
    key: 'locked',
    title: 'All fans are locked, they say',
    level: 2,
    family: 'card',
    brief: 'Two pastes on one card, its fans locked at full speed by the tool of the bench. Say what the change of paste does to the chip.',
    pairs: [
      [paste('K'), paste('Q')],
      [paste('L'), paste('Z')],
      [thing('stock paste', 'stock-paste'), paste('L')],
    ],
    turns: true,
    spot: 'die',
    practicalK: 1,
    trap: 'one-fan-free',
    plant: { side: 'either', mounts: 'first-or-second' },
    hints: ['The tool says what it asked for.', 'There are two fans.'],
    lesson: 'A lock is a promise of a tool. Only a channel says that it was kept, and one for each fan.',
    good: { runs: 4, mounts: 4 },
    change: { rules: rulesOf('card', { fans: 'locked', sensorOfRecord: 'own' }), locks: FANS_LOCKED },
  },
  {
    key: 'warm-room',
    title: 'The heater in the corner',
    level: 2,
    family: 'card',
    brief:
      'Readings are taken as they are found, without a rise over room: the gallery’s crew reads the card’s own figure. Say what the change of paste does to the chip.',
    pairs: [
      [paste('K'), paste('N')],
      [paste('Q'), paste('M')],
    ],
    turns: true,
    spot: 'die',
    practicalK: 1,
    trap: 'room-warmed',
    plant: { side: 'either', mounts: 'first' },
    hints: ['What else was warm?', 'Ask lets a study be judged as a rise over the room; the room’s probe was recorded.'],
    lesson: 'A temperature is a rise and a room. Where the room is not taken off, a heater wins the comparison.',
    good: { runs: 4, mounts: 4 },
    change: { rules: rulesOf('card', { fans: 'locked', sensorOfRecord: 'own', basis: 'as-found' }), locks: FANS_LOCKED },
  },
  {
    key: 'alike',
    title: 'Two good pastes',
    level: 3,
    family: 'card',
    brief: 'Two pastes of which each has its party. A kelvin and a half is what anybody would act on. Settle it.',
    pairs: [
      [paste('K'), paste('M')],
      [paste('K'), paste('L')],
      [paste('M'), paste('N')],
    ],
    turns: true,
    spot: 'die',
    practicalK: 1.5,
    trap: null,
    plant: null,
    hints: [
      '“Not shown to differ” and “shown to be alike” are two sentences.',
      'Judge says how many more mounts would show that they are alike.',
    ],
    lesson:
      'Nothing was wrong with the bench. The sentence that is earned here is that they are alike within what matters, and it takes mounts to earn it.',
    good: { runs: 6, mounts: 6 },
    change: { rules: rulesOf('card', { fans: 'locked', sensorOfRecord: 'own', practicalK: 1.5 }), locks: FANS_LOCKED },
  },
  {
    key: 'moved',
    title: 'One probe too many degrees',
    level: 3,
    family: 'drive',
    brief: 'The probes were put on anew between mounts, by two pairs of hands. Say what the cover does to the controller.',
    pairs: [
      [BARE, LID],
      [BARE, COMB],
      [BARE, SLAB],
    ],
    turns: true,
    spot: 'tc1',
    practicalK: 1,
    trap: 'probe-moved',
    plant: { side: 'either', mounts: 'first-or-second' },
    hints: [
      'Do the mounts of one variant agree with each other, at every place?',
      'A probe that slipped reads something of its neighbour.',
    ],
    lesson: 'A probe that sits wrong is as precise as one that sits right. Only another mount tells them apart.',
    good: { runs: 6, mounts: 6 },
  },
  {
    key: 'uneven',
    title: 'Parts of uneven height',
    level: 3,
    family: 'card',
    brief: 'The strapped-on fans need the cooler off and on again. Say what the strap-on does to the memory.',
    pairs: [[thing('open cooler', 'open-full'), thing('twin 120 strap-on', 'strap-on')]],
    turns: true,
    spot: 'mem',
    practicalK: 0.5,
    trap: 'pad-off',
    plant: { side: 'either', mounts: 'first-or-second' },
    hints: ['Chip and memory do not sit at one height.', 'Compare the mounts of one variant at the memory, then at the chip.'],
    lesson: 'One lucky or unlucky mount is a fact about that mount. The memory tells of pads what the chip never will.',
    good: { runs: 5, mounts: 5 },
    change: { rules: rulesOf('card', { fans: 'locked', sensorOfRecord: 'own' }), locks: FANS_LOCKED },
  },
  {
    key: 'slow-fan',
    title: 'The little fan, turned down',
    level: 3,
    family: 'drive',
    brief:
      'Nobody may hear it at the nearest seat, so the sink’s fan is to turn at 40 %. Say what it still does to the controller at that speed.',
    pairs: [[COMB, COMB_FAN]],
    turns: false,
    spot: 'tc1',
    practicalK: 1,
    trap: 'wires-swapped',
    plant: { side: 'b', mounts: 'first' },
    hints: ['A fan that is told 40 % should sound like one.', 'What speed does it show?'],
    lesson: 'A fan with its wires swapped is at full speed and says nothing. Cool and loud at once is a hint.',
    good: { runs: 4, mounts: 4 },
    change: { recipe: SLOW_FAN },
  },
];

export const exerciseOf = (key: string): Exercise | null => EXERCISES.find((exercise) => exercise.key === key) ?? null;

const SPOTS: Record<
  Exercise['family'],
  readonly (readonly [channel: string, name: string, componentClass: SpotBody['componentClass'], limitC: number])[]
> = {
  drive: [
    ['tc1', 'Controller', 'drive controller', 95],
    ['tc2', 'Flash, top face', 'flash', 85],
    ['tc3', 'Flash, underside', 'flash', 85],
  ],
  card: [
    ['die', 'Graphics chip', 'graphics core', 95],
    ['hot', 'Graphics chip, hottest place', 'hot spot', 105],
    ['mem', 'Memory, hottest chip', 'memory', 105],
    ['stages', 'Power stages', 'power stage', 125],
  ],
};

/** Temperature at which the simulated parts slow down, by the channel that watches it. */
const THROTTLES: Readonly<Record<string, number>> = { tc1: 88, die: 88 };

/** The study of an exercise, under ids that are its own yet: `a`, `b`, and its spots by their channels. */
export function bodyOfExercise(exercise: Exercise, [a, b]: readonly [Thing, Thing]): StudyBody {
  const { family, change = {} } = exercise;
  const blank = blankStudy(exercise.title, family);
  const variant = (id: string, { name, setup }: Thing, isReference: boolean) => ({
    id,
    name,
    subjectId: 'part-1',
    isReference,
    setup,
    notes: '',
    levels: [],
    repeats: 2,
  });
  return {
    ...blank,
    question: exercise.brief,
    rules: { ...blank.rules, ...change.rules, practicalK: exercise.practicalK },
    subjects: [
      {
        id: 'part-1',
        name: family === 'drive' ? 'Thistle 4T' : 'Wren 8',
        details: 'A part of the practice bench: nothing can break.',
        drive: null,
        map: null,
      },
    ],
    spots: SPOTS[family].map(([channel, name, componentClass, limitC]) => ({
      ...blankSpot(channel, name, channel),
      place: family === 'drive' || channel === 'stages' ? 'Middle of the package' : 'As the card itself says',
      componentClass,
      limitC,
      cutOutC: limitC + 3,
      ...(THROTTLES[channel] ? { throttleC: THROTTLES[channel], throttleSource: 'as the part states it' } : {}),
      ...(family === 'card' && channel !== 'stages' ? { method: 'own' as const, resolutionK: 1, accuracyK: 3, placementK: 3 } : {}),
    })),
    variants: [variant('a', a, true), variant('b', b, false)],
    recipe: change.recipe ?? (family === 'drive' ? recipe(900, 5400) : recipe(900, 3600)),
    locks: change.locks ?? [held('Workload', family === 'drive' ? 'sequential write, whole drive' : 'star-field render, scene 2')],
  };
}
