/**
 * The board with its regulator on the simulated bench, in the open. Conductances in W/K, capacities in J/K, powers in W. Order of
 * magnitude from general engineering knowledge of boards that feed processors of 60 to 200 W; no real product is meant.
 */
export const REGULATOR = {
  capacityJPerK: {
    side: 16,
    upper: 12,
    inductors: 45,
    capacitors: 30,
    hub: 18,
    board: 300,
    sink: 170,
    processor: 60,
    cooler: 420,
  },
  /** Loss of the regulator at a processor's power P: fixed + linear·P + square·P², at 60 °C. */
  loss: { fixedW: 3.5, linear: 0.028, squarePerW: 0.00042 },
  /** Loss grows with the temperature of the stages, 1/K about 60 °C. */
  lossTempCo: 0.0028,
  share: { side: 0.42, upper: 0.24, inductors: 0.2, capacitors: 0.04, board: 0.1 },
  hubW: 3.4,
  idleProcessorW: 18,
  toBoard: { side: 0.22, upper: 0.2, inductors: 0.42, capacitors: 0.16, hub: 0.16, processor: 0.12 },
  /** Bare surfaces to still air; moving air multiplies them. */
  toAir: { inductors: 0.012, capacitors: 0.012, hub: 0.03, board: 0.155 },
  processorToCooler: 6.5,
  fanFullRpm: 1900,
  fanFullDb: 39,
  floorDb: 27,
  /** The board asks the processor to halve its power above this, and lets go below the second figure, °C. */
  throttleAtC: 112,
  recoverAtC: 102,
  mostClockMHz: 4300,
  voltageV: 1.2,
  rendersPerH: 48,
  /** Clock falls with power by this root where a cap holds it down. */
  powerExponent: 2.4,
} as const;

/** Boards: how much is lost against the parameters above, how well their sink sheds, how their own sensor sits. */
export const BOARDS = {
  'Ferry B2': { loss: 1.27, sinkToAir: 0.085, ownShare: 0.55, ownOffsetK: -3, reason: 'Ten plain stages under a small sink.' },
  'Ferry B4': { loss: 0.92, sinkToAir: 0.15, ownShare: 0.6, ownOffsetK: -2, reason: 'As B2 with a finned sink.' },
  'Quarry C1': { loss: 0.98, sinkToAir: 0.12, ownShare: 0.75, ownOffsetK: 0, reason: 'Sink of folded sheet.' },
  'Quarry C3': {
    loss: 0.82,
    sinkToAir: 0.185,
    ownShare: 0.7,
    ownOffsetK: 1,
    reason: 'More stages, each with less to do, and a heat pipe.',
  },
  'Sandpiper D1': {
    loss: 1.0,
    sinkToAir: 0.165,
    ownShare: 0.35,
    ownOffsetK: -4,
    reason: 'Large sink; its sensor sits away from the stages.',
  },
} as const;

export interface Cooling {
  /** Cooler to the room at full fan. */
  toRoom: number;
  coolerJPerK: number;
  /** Share of the fan's air that reaches regulator and board. */
  draught: number;
  /** Stages are under the cooler's own block. */
  coversStages: boolean;
  reason: string;
}

export const COOLINGS = {
  stock: { toRoom: 4.2, coolerJPerK: 240, draught: 0.07, coversStages: false, reason: 'Small block, fan blows down and sideways.' },
  tower: {
    toRoom: 5.6,
    coolerJPerK: 520,
    draught: 0.15,
    coversStages: false,
    reason: 'Blows over the board; what spills from its edge reaches the sink.',
  },
  downward: { toRoom: 4.9, coolerJPerK: 430, draught: 0.42, coversStages: false, reason: 'Its air falls onto the regulator.' },
  'closed loop 240': {
    toRoom: 9.5,
    coolerJPerK: 1900,
    draught: 0,
    coversStages: true,
    reason: 'One block over processor and regulator; the water carries both, and no air moves at the board.',
  },
  'fan at the sink': { toRoom: 5.6, coolerJPerK: 520, draught: 0.55, coversStages: false, reason: 'One 120 mm fan blows along the sink.' },
  'no airflow': {
    toRoom: 4.8,
    coolerJPerK: 520,
    draught: 0,
    coversStages: false,
    reason: 'Processor cooled elsewhere; still air at the board.',
  },
} as const satisfies Record<string, Cooling>;

/** Pads between stages and sink, W/K for both rows. */
export const PADS = {
  stock: { side: 0.4, upper: 0.27, reason: 'About 3 W/m·K, a little too thick.' },
  P6: { side: 0.9, upper: 0.6, reason: '6 W/m·K at the right thickness.' },
  P12: { side: 1.6, upper: 1.1, reason: '12 W/m·K at the right thickness.' },
} as const;

/** A cover plate over sink and connectors: it traps air, and a small fan in it moves it again. */
export const PLATES = {
  none: { sink: 1, board: 1, draught: 0, soundDb: -20 },
  'plate, fan off': { sink: 0.72, board: 0.9, draught: 0, soundDb: -20 },
  'plate, fan on': { sink: 0.72, board: 0.9, draught: 0.4, soundDb: 31 },
} as const;

export interface RegulatorSetup {
  key: string;
  label: string;
  board: keyof typeof BOARDS;
  cooling: keyof typeof COOLINGS;
  pads: keyof typeof PADS;
  plate: keyof typeof PLATES;
  /** What the processor draws at full load where no cap holds it, W. */
  drawW: number;
  /** Air of the bench room, °C, where it is not the usual one. */
  roomC?: number;
  set: Record<string, number | string>;
}

const setup = (key: string, label: string, change: Partial<RegulatorSetup>): RegulatorSetup => ({
  key,
  label,
  board: 'Ferry B2',
  cooling: 'tower',
  pads: 'P6',
  plate: 'none',
  drawW: 190,
  set: {},
  ...change,
});

const boardKey = (board: string) => board.toLowerCase().replace(' ', '-');

export const REGULATOR_SETUPS: RegulatorSetup[] = [
  setup('b2-still', 'Ferry B2, still air', { cooling: 'no airflow' }),
  setup('b2-fan', 'Ferry B2, fan at the sink', { cooling: 'fan at the sink', set: { 'fan-duty': 40 } }),
  setup('b2-step-0', 'Ferry B2, stock cooler and pads', { cooling: 'stock', pads: 'stock' }),
  setup('b2-step-1', 'Ferry B2, tower, stock pads', { pads: 'stock' }),
  setup('b2-step-2', 'Ferry B2, tower, pads P12', { pads: 'P12' }),
  setup('b2-step-3', 'Ferry B2, loop over processor and regulator, pads P12', { cooling: 'closed loop 240', pads: 'P12' }),
  ...(Object.keys(BOARDS) as (keyof typeof BOARDS)[]).flatMap((board) => [
    setup(`${boardKey(board)}-held`, `${board}, clock and voltage held`, { board, drawW: 118 }),
    setup(`${boardKey(board)}-auto`, `${board}, automatic settings`, { board, drawW: 134, set: { 'fan-policy': 'by processor' } }),
  ]),
  setup('c3-slow', 'Quarry C3, clock and voltage held, its fan at a fifth', { board: 'Quarry C3', drawW: 118, set: { 'fan-duty': 18 } }),
  ...(Object.keys(PLATES) as (keyof typeof PLATES)[]).flatMap((plate) =>
    (['tower', 'downward'] as const).map((cooling) =>
      setup(
        `b4-${plate.replace(', ', '-').replace(' ', '-')}-${cooling}`,
        `Ferry B4, ${plate === 'none' ? 'no plate' : plate}, ${cooling} cooler`,
        {
          board: 'Ferry B4',
          cooling,
          plate,
          roomC: 28.4,

          set: { 'power-cap': 190 },
        },
      ),
    ),
  ),
];

export function regulatorSetup(key: string): RegulatorSetup {
  const found = REGULATOR_SETUPS.find((candidate) => candidate.key === key);
  if (!found) throw new RangeError(`the simulated bench has no set-up "${key}"; it has ${REGULATOR_SETUPS.map((s) => s.key).join(', ')}`);
  return found;
}
