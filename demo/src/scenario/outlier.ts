import { type StudyBody, type VariantBody } from '@red-ember/contract';
import { blankPlan } from '@red-ember/study';
import { board, regulatorRecipe, sinkMap } from './regulators.ts';
import { GALLERY, held, rules, spot, watched } from './common.ts';

const BOARDS = [
  { id: 'odd-b4', name: 'Ferry B4', setup: 'ferry-b4-held', firmware: 'FB-1.12' },
  { id: 'odd-c1', name: 'Quarry C1', setup: 'quarry-c1-held', firmware: 'Q-207' },
  { id: 'odd-d1', name: 'Sandpiper D1', setup: 'sandpiper-d1-held', firmware: 'SP-3.1' },
  { id: 'odd-c3', name: 'Quarry C3, serial 03', setup: 'quarry-c3-held', firmware: 'Q-211' },
  { id: 'odd-c7', name: 'Quarry C3, serial 07', setup: 'c3-slow', firmware: 'Q-213' },
] as const;

const variant = (entry: (typeof BOARDS)[number], i: number): VariantBody => ({
  id: `${entry.id}-v`,
  name: entry.name,
  subjectId: entry.id,
  isReference: i === 0,
  setup: entry.setup,
  notes: '',
});

const retest = (id: string, name: string, setup: string, suspect: string): VariantBody => ({
  id,
  name,
  subjectId: 'odd-c7',
  isReference: false,
  setup,
  notes: 'One suspect changed, everything else as it was.',
  retest: { variantId: 'odd-c7-v', suspect },
});

const stage = { limitC: 125, limitSource: 'data sheet of the power stage', cutOutC: 128 };

/** One board much hotter than its twin: firmware and fan are suspected, and changed one at a time. */
export const ODD_BOARD: StudyBody = {
  title: 'One Quarry C3 runs hotter than its twin',
  family: 'regulator',
  question: 'Serial 07 ran far hotter than serial 03 of the same board. Is it the board, its firmware or its fan?',
  claims: [],
  predictions: [
    { id: 'odd-expect', variantId: 'odd-c7-v', text: 'I blame the firmware.', spotId: 'odd-side', expectedK: 5, plusMinusK: 10 },
  ],
  rules: { ...rules, fans: 'locked', figure: 'settled-mean', load: 'application', practicalK: 2, roomMinC: 20.5, roomMaxC: 24.5 },
  enclosure: GALLERY,
  subjects: BOARDS.map(({ id, name, firmware }) =>
    board(id, name, `Firmware ${firmware}.`, sinkMap(2, 1.25, [{ spotId: 'odd-side', face: 'top', xMm: 17, yMm: 61 }])),
  ),
  roomChannelId: 'lh8-room',
  spots: [
    spot('odd-side', 'Stage, side row', 'tc1', {
      place: 'Third stage of the side row',
      componentClass: 'power stage',
      ...stage,
      sensor: 'TC 1',
      instrumentChannelId: 'lh8-tc1',
    }),
    spot('odd-inductor', 'Inductor, side row', 'tc3', {
      place: 'Top of the third inductor',
      componentClass: 'inductor',
      ...stage,
      limitSource: 'data sheet of the inductor',
      sensor: 'TC 3',
      instrumentChannelId: 'lh8-tc3',
    }),
  ],
  variants: [
    ...BOARDS.map(variant),
    retest('odd-r-firmware', 'Serial 07, firmware of serial 03', 'c3-slow', 'Firmware'),
    retest('odd-r-fan', 'Serial 07, fan held at 60 %', 'quarry-c3-held', 'Fan'),
  ],
  factors: [],
  impossible: [],
  plan: blankPlan(),
  parts: [],
  steps: [],
  recipe: regulatorRecipe('Star-field render, 118 W'),
  locks: [
    held('Workload', 'star-field render, one hour'),
    held(
      'Firmware',
      BOARDS[0].firmware,
      BOARDS.slice(1).map(({ id, firmware }) => ({ subjectId: id, value: firmware })),
    ),
    watched('Core clock', 4300, 'MHz', 25, 'clock'),
    held('Case', 'open bench'),
  ],
};
