import { type MountStepBody, type StudyBody } from '@red-ember/contract';
import { blankStep } from '@red-ember/study';
import { bought, GALLERY, held, readers, rules, UNPLANNED, variant, variantAt } from './common.ts';
import { part, processorSpot, recipe, stagesSpot, throttlingSpots } from './plans.ts';

/** Cards on water. */

/** One drop-in upgrade: is it worth it? */
export const AIR_OR_LOOP: StudyBody = {
  title: 'Is the closed loop worth it on Wren 8',
  family: 'card',
  question: 'The loop costs more than half the card. What does it buy: degrees, clock, quiet?',
  claims: [
    {
      id: 'loop-cool',
      text: 'The loop runs the chip fifteen kelvin cooler',
      outcome: 'temperature',
      spotId: 'loop-die',
      direction: 'cooler',
      leastEffect: 15,
    },
    { id: 'loop-clock', text: 'It gains a hundred megahertz', outcome: 'clock', spotId: null, direction: 'more', leastEffect: 100 },
  ],
  predictions: [{ id: 'loop-expect', text: 'Cooler chip, hotter stages.', spotId: 'loop-stages', expectedK: 4, plusMinusK: 4 }],
  rules: { ...rules, fans: 'as-shipped', sensorOfRecord: 'own', load: 'application', practicalK: 2 },
  enclosure: GALLERY,
  subjects: [part('loop-wren', 'Wren 8', 'Serial W8-007.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('loop'), stagesSpot('loop')],
  variants: [
    variant('loop-air', 'loop-wren', 'stock air', 'open-auto', true),
    variant(
      'loop-loop',
      'loop-wren',
      'closed loop 240',
      'loop',
      false,
      'Radiator above the pump, hoses down: air gathers in the radiator and not in the pump.',
    ),
  ],
  ...UNPLANNED,
  parts: [
    { ...bought('loop-part', 'loop-loop', 'closed loop 240 with frame', 'cooler', 139, 1180), liquid: true },
    bought('loop-air-part', 'loop-air', 'stock cooler', 'cooler', 0, 620),
  ],
  recipe: recipe('Star-field render', 900, 2700),
  locks: [held('Workload', 'star-field render, scene 2'), held('Case', 'open bench')],
  judging: readers,
};

const COOLERS = ['stock air', 'shared loop'] as const;
const LIMITS = ['235 W', '290 W'] as const;

/** Card and processor on one radiator, as shipped and pushed. The first mount had its pump on a header that follows the board. */
export const SHARED_LOOP: StudyBody = {
  title: 'Wren 8 and the processor on one loop',
  family: 'card',
  question: 'One radiator for chip and processor: what does the card gain at 235 W and pushed to 290 W, and what does the processor pay?',
  claims: [
    {
      id: 'hyb-cool',
      variantId: 'hyb-10',
      text: 'On the loop the chip stays cooler',
      outcome: 'temperature',
      spotId: 'hyb-die',
      direction: 'cooler',
      leastEffect: 2,
    },
    {
      id: 'hyb-quiet',
      variantId: 'hyb-10',
      text: 'The loop is quieter by five decibels',
      outcome: 'noise',
      spotId: null,
      direction: 'less',
      leastEffect: 5,
    },
  ],
  predictions: [
    { id: 'hyb-expect', variantId: 'hyb-10', text: 'The processor hardly notices.', spotId: 'hyb-processor', expectedK: 2, plusMinusK: 3 },
  ],
  rules: { ...rules, fans: 'as-shipped', sensorOfRecord: 'own', load: 'application', ladder: 'full', practicalK: 1 },
  enclosure: GALLERY,
  subjects: [part('hyb-wren', 'Wren 8', 'Serial W8-009, with a processor of 65 W beside it.')],
  roomChannelId: 'lh8-room',
  spots: [...throttlingSpots('hyb'), stagesSpot('hyb'), processorSpot('hyb')],
  variants: [
    ...COOLERS.flatMap((cooler, i) =>
      LIMITS.map((limit, j) =>
        variantAt(
          `hyb-${i}${j}`,
          'hyb-wren',
          { Cooler: cooler, 'Power limit': limit },
          {
            isReference: i + j === 0,
            setup: [
              ['open-auto', 'open-auto-raised'],
              ['shared-loop', 'shared-loop-raised'],
            ][i]![j]!,
            notes: j === 1 ? 'Pushed harder on purpose, to open up the gap.' : '',
          },
        ),
      ),
    ),
    variant(
      'hyb-slow',
      'hyb-wren',
      'shared loop, first try',
      'shared-loop-slow-pump',
      false,
      'The pump was plugged to CASE 1, which follows the board’s own sensor and not the chip: it stayed at its least.',
    ),
  ],
  factors: [
    { name: 'Cooler', levels: [...COOLERS], changeMin: 75 },
    { name: 'Power limit', levels: [...LIMITS], changeMin: 1 },
  ],
  impossible: [],
  plan: { ...UNPLANNED.plan, mountMin: 75, remountMin: 75 },
  parts: [
    ...[
      { variantId: null, level: { factor: 'Cooler', level: 'shared loop' } },
      { variantId: 'hyb-slow', level: null },
    ].map((onto, i) => ({
      ...bought(`hyb-loop-part-${i + 1}`, 'hyb-10', `shared loop 360, two blocks${i === 0 ? '' : ', first try'}`, 'cooler', 236, 2350),
      liquid: true,
      ...onto,
    })),
    {
      ...bought('hyb-air-part', 'hyb-00', 'stock cooler', 'cooler', 0, 620),
      variantId: null,
      level: { factor: 'Cooler', level: 'stock air' },
    },
  ],
  steps: [
    {
      ...blankStep('hyb-step-1', 'on', 'Radiator above both blocks, hoses without a kink; fill with the machine off'),
      caution: 'leak' as const,
      waitMin: 60,
    },
    {
      ...blankStep('hyb-step-2', 'on', 'Plug the pump and see it turn faster when the chip is loaded'),
      caution: 'fans' as const,
      header: 'PUMP',
      follows: 'graphics chip',
    },
    blankStep('hyb-step-3', 'on', 'Prop the card: two blocks and hoses pull at its slot; measure the sag before and after'),
  ].map((step): MountStepBody => ({ ...step, level: { factor: 'Cooler', level: 'shared loop' } })),
  recipe: recipe('Star-field render', 1200, 3600),
  locks: [held('Workload', 'star-field render, scene 2'), held('Case', 'open bench'), held('Processor load', '65 W')],
  judging: readers,
};
