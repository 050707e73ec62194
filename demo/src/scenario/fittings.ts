import { type BoardMapBody, type FittedPartBody, type MountStepBody, type StudyBody } from '@red-ember/contract';
import { blankPart, blankStep, startMap } from '@red-ember/study';

/** What hands put on in the demo studies, and how: parts by level or variant, and the steps of their cards. */
type Fitting = Pick<StudyBody, 'parts' | 'steps'>;
type StepChange = Partial<MountStepBody>;

const at = (factor: string, level: string) => ({ level: { factor, level } });
const part = (id: string, name: string, change: Partial<FittedPartBody>): FittedPartBody => ({ ...blankPart(id, name), ...change });

/** Numbers its steps, so that a study reads as it is worked. */
function steps(prefix: string, list: [when: MountStepBody['when'], text: string, change?: StepChange][]): MountStepBody[] {
  return list.map(([when, text, change], i) => ({ ...blankStep(`${prefix}-step-${i + 1}`, when, text), ...change }));
}

/** Four screws of a cover, at its corners. */
export const corners = (coverId: string, name: string, xs: [number, number], ys: [number, number]) =>
  [
    [xs[0], ys[0]],
    [xs[1], ys[0]],
    [xs[0], ys[1]],
    [xs[1], ys[1]],
  ].map(([xMm, yMm], i) => ({ id: `${coverId}-screw-${i + 1}`, coverId, name, xMm: xMm!, yMm: yMm! }));

// ---------------------------------------------------------------- slot lid

export const LID_FITTING: Fitting = {
  parts: [
    part('lid-part', 'slot lid', { variantId: 'lid-lid', kind: 'cover', weightG: 18, price: 0, coverId: 'lid' }),
    part('lid-part-pad', 'lid pad', {
      variantId: 'lid-lid',
      kind: 'pad',
      reusable: false,
      price: 1.2,
      pad: { widthMm: 68, heightMm: 20, thickMm: 1.75 },
    }),
  ],
  steps: steps('lid', [
    ['off', 'Loosen the two screws of the lid and lift it off flat; the pad comes with it', { variantId: 'lid-lid', screwsOf: 'lid' }],
    ['on', 'Cut a fresh pad and peel both films', { variantId: 'lid-lid', caution: 'film' }],
    [
      'on',
      'Lay the lid on from the connector side, tighten both screws in turn until they stop, no further',
      {
        variantId: 'lid-lid',
        screwsOf: 'lid',
      },
    ],
    ['on', 'Look along the gap: the probes lie where the map shows them, no wire is pinched'],
  ]),
};

/** Two screws hold the lid; the slot next door leaves it little height. */
export const LID_SCREWS: Pick<BoardMapBody, 'screws' | 'zones'> = {
  screws: [
    { id: 'lid-screw-1', coverId: 'lid', name: 'M2 × 3', xMm: 9, yMm: 11 },
    { id: 'lid-screw-2', coverId: 'lid', name: 'M2 × 3', xMm: 75, yMm: 11 },
  ],
  zones: [{ id: 'lid-zone', name: 'graphics card above the slot', face: 'top', xMm: 0, yMm: 0, widthMm: 80, heightMm: 22, clearMm: 8 }],
};

// ---------------------------------------------------------------- fans and orientation

export const LAYOUT_FITTING: Fitting = {
  parts: [
    part('lay-front', 'front fan 120', { kind: 'fan', quantity: 2, price: 14, weightG: 150, noiseDb: 26 }),
    part('lay-rear', 'rear fan 120', { ...at('Case fans', 'front and rear'), kind: 'fan', price: 14, weightG: 150, noiseDb: 24 }),
    part('lay-three', 'rear and top fan 120', {
      ...at('Case fans', 'front, rear, top'),
      kind: 'fan',
      quantity: 2,
      price: 14,
      weightG: 150,
      noiseDb: 27,
    }),
  ],
  steps: steps('lay', [
    ['off', 'Take the left side panel off and lay its screws in the tray'],
    ['off', 'Nothing to take out: only the front fans are in', at('Case fans', 'front only')],
    ['off', 'Unplug the rear fan and take it out', { ...at('Case fans', 'front and rear'), caution: 'fans' }],
    ['off', 'Unplug rear and top fan and take both out', { ...at('Case fans', 'front, rear, top'), caution: 'fans' }],
    ['on', 'Cover the empty openings at the rear and on top with tape', at('Case fans', 'front only')],
    [
      'on',
      'Rear fan in, frame outwards: it blows out',
      {
        ...at('Case fans', 'front and rear'),
        caution: 'fans',
        header: 'CASE 2',
        follows: 'board sensor beside the card',
      },
    ],
    ['on', 'Top opening covered with tape', at('Case fans', 'front and rear')],
    [
      'on',
      'Rear fan in, frame outwards',
      {
        ...at('Case fans', 'front, rear, top'),
        caution: 'fans',
        header: 'CASE 2',
        follows: 'board sensor beside the card',
      },
    ],
    [
      'on',
      'Top fan in, blowing upwards',
      { ...at('Case fans', 'front, rear, top'), header: 'CASE 3', follows: 'board sensor beside the card' },
    ],
    ['on', 'Stand the machine on its feet, 20 cm free behind it', at('Orientation', 'upright')],
    ['on', 'Lay the machine on its right side, the panel upwards, 20 cm free behind it', at('Orientation', 'lying')],
    ['on', 'Close the panel, start, and see every fan turn before the load', { caution: 'fans' }],
  ]),
};

// ---------------------------------------------------------------- six pastes

/** Cooler over die and memory, on four spring screws; memory pads of one thickness. */
export function cardMap(): BoardMapBody {
  return {
    ...startMap('card'),
    covers: [
      {
        id: 'plate',
        name: 'cooler plate',
        face: 'top',
        xMm: 52,
        yMm: 6,
        widthMm: 128,
        heightMm: 92,
        undersideMm: 2.3,
        gapToleranceMm: 0.1,
        topMm: 38,
      },
      // The raised face of the plate, on the die with paste alone.
      { id: 'face', name: 'copper face', face: 'top', xMm: 90, yMm: 36, widthMm: 30, heightMm: 30, undersideMm: 0.94, gapToleranceMm: 0 },
    ],
    pads: [
      {
        id: 'mem-upper',
        name: 'memory pads, upper row',
        coverId: 'plate',
        xMm: 58,
        yMm: 11,
        widthMm: 86,
        heightMm: 14,
        padMm: 1.5,
        conductivityWPerMK: 6,
      },
      {
        id: 'mem-lower',
        name: 'memory pads, lower row',
        coverId: 'plate',
        xMm: 58,
        yMm: 79,
        widthMm: 86,
        heightMm: 14,
        padMm: 1.5,
        conductivityWPerMK: 6,
      },
    ],
    screws: [...corners('plate', 'M2.5 × 7, spring', [80, 130], [26, 76])],
    zones: [{ id: 'card-slot', name: 'card in the next slot', face: 'top', xMm: 0, yMm: 0, widthMm: 240, heightMm: 105, clearMm: 40 }],
  };
}

interface DemoPaste {
  name: string;
  pricePerG: number;
  bondLineMm: number;
  densityGPerCm3: number;
  remover: string;
  conductive?: boolean;
}

const PASTES: DemoPaste[] = [
  { name: 'K', pricePerG: 1.4, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol' },
  { name: 'L', pricePerG: 3.1, bondLineMm: 0.03, densityGPerCm3: 2.6, remover: 'isopropanol' },
  { name: 'M', pricePerG: 2.2, bondLineMm: 0.035, densityGPerCm3: 2.4, remover: 'isopropanol' },
  { name: 'N', pricePerG: 0.6, bondLineMm: 0.06, densityGPerCm3: 2.3, remover: 'isopropanol' },
  { name: 'Q', pricePerG: 9.5, bondLineMm: 0.02, densityGPerCm3: 6.4, remover: 'nothing takes it off whole', conductive: true },
  { name: 'Z', pricePerG: 0.3, bondLineMm: 0.12, densityGPerCm3: 2.2, remover: 'isopropanol' },
];

export const PASTE_FITTING: Fitting = {
  parts: [
    ...PASTES.map(({ name, pricePerG, conductive = false, ...paste }) =>
      part(`pst-part-${name}`, `paste ${name}`, {
        ...at('Paste', `paste ${name}`),
        kind: 'paste',
        reusable: false,
        price: pricePerG,
        conductive,
        paste: { areaMm2: 676, dryMin: 3, heatW: 141, ...paste },
      }),
    ),
    part('pst-wipe', 'lint-free wipe', { kind: 'other', quantity: 3, reusable: false, price: 0.1 }),
  ],
  steps: steps('pst', [
    ['off', 'Take the card out and lay it on the mat, cooler downwards'],
    ...PASTES.flatMap(({ name, remover, conductive }): [MountStepBody['when'], string, StepChange?][] => [
      [
        'off',
        'Loosen the four spring screws crosswise and lift the cooler straight off',
        {
          ...at('Paste', `paste ${name}`),
          caution: 'springs',
          screwsOf: 'plate',
        },
      ],
      [
        'off',
        `Wipe paste ${name} off die and plate with ${remover}, until a fresh wipe stays white; let it dry`,
        {
          ...at('Paste', `paste ${name}`),
          caution: 'solvent',
          waitMin: 3,
        },
      ],
      ...(conductive
        ? ([['on', 'Mask everything within 15 mm of the die with tape', { ...at('Paste', `paste ${name}`), caution: 'conductive' }]] as [
            MountStepBody['when'],
            string,
            StepChange,
          ][])
        : []),
      ['on', `Spread paste ${name} thinly over the whole bare die, corners too`, at('Paste', `paste ${name}`)],
      [
        'on',
        'Set the cooler down straight and tighten crosswise, half a turn at a time',
        { ...at('Paste', `paste ${name}`), screwsOf: 'plate' },
      ],
    ]),
    [
      'on',
      'Plug the fan cable where it was; card back in, see both fans turn',
      { caution: 'fans', header: 'FAN on the card', follows: 'graphics chip' },
    ],
  ]),
};

const UNDER_COOLER: Partial<FittedPartBody> = {
  kind: 'paste',
  reusable: false,
  price: 1.4,
  paste: { areaMm2: 1050, bondLineMm: 0.04, densityGPerCm3: 2.5, remover: 'isopropanol', dryMin: 3 },
};

// ---------------------------------------------------------------- ladder of fixes

const loop = 'closed loop 240';
const tower = 'bracketed tower';

export const FIXES_FITTING: Fitting = {
  parts: [
    part('fix-tower', 'bracketed tower', {
      ...at('Processor cooler', tower),
      kind: 'cooler',
      price: 44,
      weightG: 780,
      noiseDb: 29,
    }),
    part('fix-loop', 'closed loop 240 with regulator block', {
      ...at('Processor cooler', loop),
      kind: 'cooler',
      price: 135,
      weightG: 1250,
      noiseDb: 31,
      liquid: true,
    }),
    ...['stock', tower, loop].map((level, i) =>
      part(`fix-paste-${i + 1}`, `paste K under ${level}`, { ...at('Processor cooler', level), ...UNDER_COOLER }),
    ),
    part('fix-pads', 'pad P12, cut', {
      ...at('Pads', 'P12'),
      kind: 'pad',
      quantity: 2,
      reusable: false,
      price: 3.8,
      pad: { widthMm: 80, heightMm: 10, thickMm: 1.5 },
    }),
  ],
  steps: steps('fix', [
    ['off', 'Lay the board flat, both power plugs out of it'],
    [
      'off',
      'Turn the four screws of the stock cooler out crosswise; wipe the old paste off',
      { ...at('Processor cooler', 'stock'), caution: 'solvent' },
    ],
    [
      'off',
      'Loosen the tower’s bracket crosswise and lift it off; wipe the old paste off',
      { ...at('Processor cooler', tower), caution: 'sharp' },
    ],
    [
      'off',
      'Lift the block off with its hoses, the radiator always above the pump; wipe the old paste off',
      {
        ...at('Processor cooler', loop),
        caution: 'hot',
      },
    ],
    [
      'off',
      'Side sink off: six screws from the back; peel the stock pads',
      { ...at('Pads', 'stock'), caution: 'springs', screwsOf: 'side' },
    ],
    ['off', 'Side sink off; peel the P12 pads', { ...at('Pads', 'P12'), caution: 'springs', screwsOf: 'side' }],
    ['on', 'Stock pads back in their places, side sink on, tightened crosswise', { ...at('Pads', 'stock'), screwsOf: 'side' }],
    [
      'on',
      'Cut P12 to 80 × 10 mm twice, peel both films, lay on the stages; side sink on, tightened crosswise',
      {
        ...at('Pads', 'P12'),
        caution: 'film',
        screwsOf: 'side',
      },
    ],
    [
      'on',
      'Dot of paste on the lid; stock cooler on crosswise',
      { ...at('Processor cooler', 'stock'), header: 'CPU FAN', follows: 'processor' },
    ],
    [
      'on',
      'Dot of paste on the lid; tower with its bracket on crosswise',
      {
        ...at('Processor cooler', tower),
        header: 'CPU FAN',
        follows: 'processor',
      },
    ],
    [
      'on',
      'Dot of paste on the lid; block on crosswise, radiator above the pump',
      { ...at('Processor cooler', loop), header: 'PUMP', follows: 'processor' },
    ],
    [
      'on',
      'Run the pump from its own supply, the machine without power',
      { ...at('Processor cooler', loop), caution: 'leak', waitMin: 60 },
    ],
    ['on', 'Plugs in; see every fan and the pump turn', { caution: 'fans' }],
  ]),
};

/** Screws of the side sink, from the back. */
export const SIDE_SCREWS = [
  ...corners('side', 'M3 × 8', [10, 20], [28, 108]),
  { id: 'side-screw-5', coverId: 'side', name: 'M3 × 12', xMm: 10, yMm: 68 },
  { id: 'side-screw-6', coverId: 'side', name: 'M3 × 12', xMm: 20, yMm: 68 },
];

// ---------------------------------------------------------------- armour and little fans

export const ARMOUR_FITTING: Fitting = {
  parts: [
    part('arm-plate', 'cover plate', { ...at('Plate', 'plate'), kind: 'cover', weightG: 210, coverId: 'plate' }),
    part('arm-tower', 'tower cooler', { ...at('Cooler', 'tower'), kind: 'cooler', price: 39, weightG: 720, noiseDb: 28 }),
    part('arm-down', 'downward cooler', { ...at('Cooler', 'downward'), kind: 'cooler', price: 36, weightG: 560, noiseDb: 31 }),
    ...['tower', 'downward'].map((level) =>
      part(`arm-paste-${level}`, `paste K under ${level} cooler`, { ...at('Cooler', level), ...UNDER_COOLER }),
    ),
  ],
  steps: steps('arm', [
    ['off', 'Let the board cool below 40 °C; plugs out'],
    ['off', 'Lift the plate off its four posts', { ...at('Plate', 'plate'), screwsOf: 'plate', caution: 'sharp' }],
    ['off', 'Turn the tower out crosswise; wipe the old paste off', { ...at('Cooler', 'tower'), caution: 'solvent' }],
    ['off', 'Turn the downward cooler out crosswise; wipe the old paste off', { ...at('Cooler', 'downward'), caution: 'solvent' }],
    [
      'on',
      'Dot of paste on the lid; tower on crosswise, fan towards the memory',
      {
        ...at('Cooler', 'tower'),
        header: 'CPU FAN',
        follows: 'processor',
      },
    ],
    [
      'on',
      'Dot of paste on the lid; downward cooler on crosswise, fan over the regulator',
      {
        ...at('Cooler', 'downward'),
        header: 'CPU FAN',
        follows: 'processor',
      },
    ],
    ['on', 'Posts free, nothing on the stages: they stay bare', at('Plate', 'no plate')],
    ['on', 'Plate on its four posts, crosswise', { ...at('Plate', 'plate'), screwsOf: 'plate' }],
    ['on', 'Little fan unplugged and stopped', { ...at('Small fan', 'off'), header: 'none', follows: '' }],
    ['on', 'Little fan plugged; see it turn', { ...at('Small fan', 'on'), caution: 'fans', header: 'CASE 4', follows: 'full duty' }],
    ['on', 'Plugs in; see the processor’s fan turn'],
  ]),
};

export const PLATE_SCREWS = corners('plate', 'M3 × 6', [4, 42], [6, 112]);
