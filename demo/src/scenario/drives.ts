import { type BoardMapBody, type StudyBody, type SubjectBody } from '@red-ember/contract';
import { startMap } from '@red-ember/study';
import { LID_FITTING, LID_SCREWS } from './fittings.ts';
import { GALLERY, UNPLANNED, held, rules, spot } from './common.ts';

const THISTLE = { warningC: 82, criticalC: 88, managed1C: 78, managed2C: 81 };

const spots = (prefix: string): StudyBody['spots'] => [
  spot(`${prefix}-controller`, 'Controller', 'tc1', {
    place: 'Centre of the controller package, top face',
    componentClass: 'drive controller',
    advisoryC: 85,
    advisorySource: 'house rule',
    limitC: 95,
    limitSource: 'data sheet',
    cutOutC: 98,
    throttleC: 88,
    throttleSource: 'data sheet',
    sensor: 'TC 1',
    accuracyK: 0.84,
    instrumentChannelId: 'lh8-tc1',
  }),
  spot(`${prefix}-flash-top`, 'Flash, top face', 'tc2', {
    place: 'Middle of the second flash package, top face',
    componentClass: 'flash',
    advisoryC: 70,
    advisorySource: 'general figure: retention suffers when hot',
    limitC: 85,
    limitSource: 'data sheet',
    cutOutC: 90,
    sensor: 'TC 2',
    accuracyK: 0.84,
    instrumentChannelId: 'lh8-tc2',
  }),
  spot(`${prefix}-flash-under`, 'Flash, underside', 'tc3', {
    place: 'Middle of the flash package on the underside, 4 mm above the main board',
    componentClass: 'flash',
    advisoryC: 70,
    advisorySource: 'general figure: retention suffers when hot',
    limitC: 85,
    limitSource: 'data sheet',
    cutOutC: 90,
    sensor: 'TC 3',
    accuracyK: 0.84,
    instrumentChannelId: 'lh8-tc3',
  }),
  spot(`${prefix}-own`, 'Drive’s own sensor', 'own', {
    place: 'Unknown place inside the drive, read in whole degrees',
    componentClass: 'drive sensor',
    limitC: 82,
    limitSource: 'warning temperature the drive reports',
    cutOutC: 90,
    cutOutHoldS: 10,
    method: 'own',
    sensor: 'drive',
    accuracyK: 3,
    resolutionK: 1,
    placementK: 3,
    twinOf: `${prefix}-controller`,
  }),
];

const locks = [
  held('Workload', 'sequential write, whole drive, synthetic worst case'),
  held('Firmware', 'LH-2.4'),
  held('Orientation', 'board upright, drive horizontal'),
  held('Case', 'open bench'),
];

const recipe: StudyBody['recipe'] = [
  { kind: 'idle-soak', name: 'Idle soak', mode: 'fixed', durationS: 480, capS: 480, loadPercent: 0 },
  { kind: 'load', name: 'Sustained write', mode: 'until-settled', durationS: 2700, capS: 7200, loadPercent: 100 },
  { kind: 'cool-down', name: 'Cool-down', mode: 'fixed', durationS: 600, capS: 600, loadPercent: 0 },
];

/** The lid lies over the upper face with a pad of its own, and reaches nothing below. */
function lidMap(): BoardMapBody {
  return {
    ...startMap('m2-2280-two'),
    ...LID_SCREWS,
    heatW: 7.5,
    covers: [
      {
        id: 'lid',
        name: 'slot lid',
        face: 'top',
        xMm: 6,
        yMm: 0,
        widthMm: 72,
        heightMm: 22,
        undersideMm: 2.6,
        gapToleranceMm: 0.15,
        topMm: 4.2,
      },
    ],
    pads: [
      { id: 'lid-pad', name: 'lid pad', coverId: 'lid', xMm: 8, yMm: 1, widthMm: 68, heightMm: 20, padMm: 1.75, conductivityWPerMK: 2.5 },
    ],
    placements: [
      { spotId: 'lid-controller', face: 'top', xMm: 19, yMm: 11 },
      { spotId: 'lid-flash-top', face: 'top', xMm: 69, yMm: 11 },
      { spotId: 'lid-flash-under', face: 'under', xMm: 69, yMm: 11 },
    ],
  };
}

const part = (details: string, map: BoardMapBody | null): SubjectBody => ({
  id: 'thistle-4t',
  name: 'Thistle 4T',
  details,
  drive: THISTLE,
  map,
});
const variant = (id: string, name: string, isReference: boolean, setup: string, notes: string) => ({
  id,
  name,
  subjectId: 'thistle-4t',
  isReference,
  setup,
  notes,
});

/** Does the cover that came with the board cool the drive, or trap its heat? */
export const SLOT_LID: StudyBody = {
  title: 'Slot lid on Thistle 4T',
  family: 'drive',
  question:
    'The main board comes with a metal lid for its drive slot. Does it help or hurt the two-sided drive that streams the show footage?',
  claims: [
    {
      id: 'lid-cools',
      text: 'The slot lid keeps the drive cooler',
      outcome: 'temperature',
      spotId: null,
      direction: 'cooler',
      leastEffect: 1,
    },
    {
      id: 'lid-throttle',
      text: 'The slot lid prevents throttling',
      outcome: 'time-to-throttle',
      spotId: null,
      direction: 'more',
      leastEffect: 5,
    },
  ],
  predictions: [
    {
      id: 'lid-expect-under',
      text: 'The lid reaches the top face only; the underside should not notice.',
      spotId: 'lid-flash-under',
      expectedK: 0,
      plusMinusK: 1,
    },
    { id: 'lid-expect-top', text: 'A soft pad and a thin plate.', spotId: 'lid-flash-top', expectedK: -4, plusMinusK: 1.5 },
  ],
  rules,
  enclosure: GALLERY,
  subjects: [{ ...part('Two-sided M.2 drive, flash on both faces; scratch drive T4-02.', lidMap()), serial: 'T4-02' }],
  roomChannelId: 'lh8-room',
  spots: spots('lid'),
  variants: [
    variant('lid-bare', 'bare', true, 'bare', 'Label left on, as shipped.'),
    variant('lid-lid', 'slot lid', false, 'slot-lid', 'Lid with its own pad on the upper face, both films peeled.'),
  ],
  ...UNPLANNED,
  ...LID_FITTING,
  recipe,
  locks,
};

/** Runs that were meant to be equal: what the bench scatters by itself. */
export const REPEATABILITY: StudyBody = {
  title: 'How well the bench repeats',
  family: 'drive',
  question: 'How far apart do runs come out that were meant to be equal? The answer stands in for missing repeats in other studies.',
  claims: [],
  predictions: [],
  rules,
  enclosure: GALLERY,
  subjects: [part('Scratch drive T4-01, refitted once between the third and the fourth run.', null)],
  roomChannelId: 'lh8-room',
  spots: spots('rep'),
  variants: [variant('rep-bare', 'bare', true, 'bare', '')],
  ...UNPLANNED,
  recipe,
  locks,
};
