/**
 * The graphics card of the simulated bench, in the open. Conductances in W/K, capacities in J/K, powers in W, clocks in MHz. Order
 * of magnitude from general engineering knowledge of two-slot cards of about 235 W; no real product is meant.
 */
export const CARD = {
  capacityJPerK: { core: 70, memory: 80, stages: 45, sink: 520, frame: 2400, caseAir: 260, upperAir: 110, processor: 420 },
  /** Heat at idle, and what a full load adds at the highest clock at 65 °C. */
  idleW: 22,
  loadW: 240,
  /** Back plate, bracket and what they are bolted to: they take heat from the sink for half an hour before they shed what they get. */
  sinkToFrame: 0.9,
  frameToRoom: 0.25,
  /** Where the heat arises; what is left over goes into the sink by the board. */
  share: { core: 0.66, memory: 0.17, stages: 0.12 },
  /** Leakage and loss grow with temperature, 1/K about 65 °C. */
  powerTempCo: 0.0025,
  /** Dynamic power goes with clock times voltage squared, and voltage with clock. */
  powerExponent: 2.6,
  mostClockMHz: 2600,
  clockStepMHz: 15,
  /** From here the clock is stepped down with temperature, one step of so many MHz every so many kelvin. */
  stepsFromC: 50,
  stepEveryK: 6,
  stepMHz: 13,
  /** The card holds its core here by taking the clock down, and gives it back below the second figure. */
  throttleAtC: 88,
  recoverAtC: 85,
  /** Core to its hottest place. */
  hotSpotKPerW: 0.072,
  /** Air that its fans move at full speed, m³/s: what leaves is that much warmer than what was taken in. */
  airFullM3PerS: 0.022,
  framesPerS: 62,
  fanFullRpm: 3200,
  fanFullDb: 43,
  caseFanFullRpm: 1500,
  caseFanFullDb: 36,
  /** The room's own floor, dB(A). */
  floorDb: 27,
  /** Automatic fan: percent at the foot, percent per kelvin above it; it slows only when it may by so much. */
  fanCurve: { least: 30, footC: 48, perK: 2.5, hysteresis: 6, slewPerS: 3 },
  processorSinkWPerK: 2.5,
  /** The rest of the machine, and the share of its supply that reaches the parts. */
  restW: 45,
  supplyEfficiency: 0.9,
  usualVoltageMV: 1050,
} as const;

export interface Cooler {
  sinkToAir: number;
  coreToSink: number;
  memoryToSink: number;
  stagesToSink: number;
  /** Share of the exhaust that leaves through the back, towards the processor. */
  upward: number;
  /** Sound of its fans at full speed against the stock cooler, dB. */
  soundDb: number;
  sinkJPerK: number;
  /** The processor's block sits in the same water: W/K to it. Absent where the processor keeps its own cooler. */
  processorToSink?: number;
  /** Pump with a header of its own: how much of the core's way is taken by the water film at full flow, W/K. */
  waterWPerK?: number;
  reason: string;
}

/** Pump of a loop: it never stops; its flow goes with its speed, and the water film with flow^0.7. */
export const PUMP = {
  fullRpm: 2800,
  fullDb: 34,
  /** Percent at the foot of its curve, and percent per kelvin of the sensor that it follows. */
  curve: { least: 30, footC: 36, perK: 4 },
} as const;

export const COOLERS = {
  open: {
    sinkToAir: 9.4,
    coreToSink: 9.2,
    memoryToSink: 2.3,
    stagesToSink: 1.7,
    upward: 0.2,
    soundDb: 0,
    sinkJPerK: 520,
    reason: 'Two fans blow onto a finned block; most of the exhaust stays beside the card.',
  },
  'flow-through': {
    sinkToAir: 10.1,
    coreToSink: 9.2,
    memoryToSink: 2.3,
    stagesToSink: 1.7,
    upward: 0.55,
    soundDb: -1,
    sinkJPerK: 500,
    reason: 'The second fan blows through the fins and out of the back, so it breathes freely and warms what is above.',
  },
  'twin 120 strap-on': {
    sinkToAir: 10.6,
    coreToSink: 9.2,
    memoryToSink: 2.1,
    stagesToSink: 1.3,
    upward: 0.3,
    soundDb: -7,
    sinkJPerK: 520,
    reason: 'Two 120 mm fans turn slower for the same air and miss the corner with the power stages.',
  },
  'bracketed tower': {
    sinkToAir: 11.8,
    coreToSink: 8.6,
    memoryToSink: 0.9,
    stagesToSink: 0.7,
    upward: 0.4,
    soundDb: -9,
    sinkJPerK: 780,
    reason: 'A tower on a home-made bracket sheds more from the core; memory and power stages get small sinks of their own.',
  },
  'closed loop 240': {
    sinkToAir: 15.5,
    coreToSink: 10.5,
    memoryToSink: 1.2,
    stagesToSink: 1.0,
    upward: 0.1,
    soundDb: -6,
    sinkJPerK: 1900,
    reason: 'Water delays and a 240 mm radiator sheds; memory and power stages keep the air of one small fan. Its pump turns at one speed.',
  },
  'shared loop 360': {
    sinkToAir: 19,
    coreToSink: 17,
    memoryToSink: 1.4,
    stagesToSink: 1.1,
    upward: 0.1,
    soundDb: -8,
    sinkJPerK: 3400,
    processorToSink: 4.2,
    waterWPerK: 30,
    reason: 'One radiator carries chip and processor: each warms the water of the other. The pump is plugged to a header.',
  },
} as const satisfies Record<string, Cooler>;

/** Thermal resistance of the layer between die and cold plate against paste K, K/W (spread over the whole bare die). */
export const PASTES = {
  'paste K': 0,
  'paste L': -0.006,
  'paste M': 0.004,
  'paste N': 0.007,
  'paste Q': -0.014,
  'paste Z': 0.075,
  'stock paste': 0.021,
  'graphite sheet': 0.006,
} as const;

/** Air around the card, W/K to the room: through leaks, what full case fans add, and what an open panel adds. */
export const PLACES = {
  bench: { leak: 170, fans: 0, side: 0, front: 0, reason: 'Open bench: exhaust leaves at once.' },
  'small case': {
    leak: 5.5,
    fans: 28,
    side: 85,
    front: 13,
    reason: 'Twenty litres, two case fans of about 30 L/s in all at full speed; an open side lets the card breathe the room.',
  },
  'small case, lying': {
    leak: 4.4,
    fans: 26,
    side: 85,
    front: 12,
    reason: 'As the small case on its side: warm air no longer rises out of it by itself, fans do nearly all.',
  },
  'against a wall': { leak: 3.8, fans: 16, side: 60, front: 9, reason: 'As the small case, its grille a hand from the wall.' },
} as const;

export interface CardSetup {
  key: string;
  label: string;
  cooler: keyof typeof COOLERS;
  place: keyof typeof PLACES;
  paste: keyof typeof PASTES;
  /** Frames that the processor can feed, as a share of what the card can draw. */
  supply: number;
  /** What is set differently from the usual at the start. */
  set: Record<string, number | string>;
}

const setup = (key: string, label: string, change: Partial<CardSetup>): CardSetup => ({
  key,
  label,
  cooler: 'open',
  place: 'bench',
  paste: 'paste K',
  supply: 1.4,
  set: {},
  ...change,
});

const locked = (percent: number) => ({ 'fan-mode': 'locked', 'fan-duty': percent });

export const CARD_SETUPS: CardSetup[] = [
  setup('open-auto', 'Open cooler on the bench, automatic fan', {}),
  setup('open-full', 'Open cooler on the bench, fan full', { set: locked(100) }),
  setup('open-raised', 'Open cooler on the bench, fan full, power limit 290 W', { set: { ...locked(100), 'power-limit': 290 } }),
  setup('open-auto-raised', 'Open cooler on the bench, automatic fan, power limit 290 W', { set: { 'power-limit': 290 } }),
  setup('open-case', 'Open cooler in the small case, automatic fan', { place: 'small case' }),
  setup('open-case-locked', 'Open cooler in the small case, all fans locked', { place: 'small case', set: locked(70) }),
  setup('flow-case-locked', 'Flow-through cooler in the small case, all fans locked', {
    cooler: 'flow-through',
    place: 'small case',
    set: locked(70),
  }),
  setup('flow-wall', 'Flow-through cooler against a wall', { cooler: 'flow-through', place: 'against a wall' }),
  ...(['small case', 'small case, lying'] as const).flatMap((place, i) =>
    Object.entries({ front: 55, rear: 75, top: 85 }).map(([fans, percent]) =>
      setup(`${i === 0 ? 'upright' : 'lying'}-${fans}`, `Open cooler in the ${place}, case fans up to the ${fans}`, {
        place,
        set: { ...locked(80), 'case-fans': percent },
      }),
    ),
  ),
  setup('flow-wall-locked', 'Flow-through cooler against a wall, its fans locked', {
    cooler: 'flow-through',
    place: 'against a wall',
    set: locked(65),
  }),
  setup('starved-locked', 'Open cooler in the small case, all fans locked, fed by a slow processor', {
    place: 'small case',
    supply: 0.6,
    set: locked(70),
  }),
  // What it is fed by is found out on the practice bench.
  setup('second-machine-locked', 'Open cooler in the small case of the second machine, all fans locked', {
    place: 'small case',
    supply: 0.6,
    set: locked(70),
  }),
  setup('starved', 'Open cooler in the small case, fed by a slow processor', { place: 'small case', supply: 0.6 }),
  setup('strap-on', 'Twin 120 strap-on on the bench', { cooler: 'twin 120 strap-on', set: locked(100) }),
  setup('tower', 'Bracketed tower on the bench', { cooler: 'bracketed tower', set: locked(60) }),
  setup('loop', 'Closed loop 240 on the bench', { cooler: 'closed loop 240', set: locked(60) }),
  setup('shared-loop', 'Loop shared with the processor, on the bench', { cooler: 'shared loop 360', set: locked(60) }),
  setup('shared-loop-raised', 'Loop shared with the processor, power limit 290 W', {
    cooler: 'shared loop 360',
    set: { ...locked(60), 'power-limit': 290 },
  }),
  setup('shared-loop-slow-pump', 'Loop shared with the processor, its pump on the header that follows the board', {
    cooler: 'shared loop 360',
    set: { ...locked(60), 'pump-follows': 'board' },
  }),
  setup('open-auto-tuned', 'Open cooler on the bench, automatic fan, 980 mV', { set: { 'core-voltage': 980 } }),
  setup('tower-tuned', 'Bracketed tower on the bench, 980 mV', { cooler: 'bracketed tower', set: { ...locked(60), 'core-voltage': 980 } }),
  ...(Object.keys(PASTES) as (keyof typeof PASTES)[]).map((paste) =>
    setup(paste.replace(' ', '-'), `Open cooler on the bench, ${paste}, fans full`, { paste, set: locked(100) }),
  ),
  ...(['stock paste', 'graphite sheet', 'paste L'] as const).map((paste) =>
    setup(`${paste.replace(' ', '-')}-auto`, `Open cooler on the bench, ${paste}, automatic fan`, { paste }),
  ),
];

export function cardSetup(key: string): CardSetup {
  const found = CARD_SETUPS.find((candidate) => candidate.key === key);
  if (!found) throw new RangeError(`the simulated bench has no set-up "${key}"; it has ${CARD_SETUPS.map((s) => s.key).join(', ')}`);
  return found;
}
