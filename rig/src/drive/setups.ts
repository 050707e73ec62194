/**
 * The M.2 drive of the simulated bench and what each set-up changes, in one place. Conductances in W/K, capacities in J/K,
 * powers in W. Order of magnitude from general engineering knowledge of still-air M.2 slots; no real product is meant.
 */
export const DRIVE = {
  /** Heat under a full sequential write and at idle. Two flash packages a face. */
  loadW: { controller: 3.7, flashTop: 1.25, flashUnder: 1.35, board: 0.65 },
  idleW: { controller: 0.85, flashTop: 0.12, flashUnder: 0.12, board: 0.25 },
  /** Leakage and regulator loss grow with temperature, 1/K about 25 °C. */
  powerTempCo: 0.0015,
  capacityJPerK: { controller: 2.2, flashTop: 3.6, flashUnder: 3.6, board: 14, slot: 600 },
  /** Through solder balls and copper planes. */
  toBoard: { controller: 0.34, flashTop: 0.36, flashUnder: 0.24 },
  /** Edge connector and stand-off into the main board, and the main board to room air: the slow term, half an hour and more. */
  boardToSlot: 0.075,
  slotToRoom: 0.42,
  /** Full sequential write, MB/s. */
  throughputMBps: 6100,
  /** The drive slows down when its controller passes this, and recovers below the second figure, °C. */
  throttleAtC: 88,
  recoverAtC: 80,
  /** Above this it shuts off and is gone from the machine until its controller has cooled to the second figure, °C. */
  shutOffAtC: 100,
  returnAtC: 62,
  /** A small fan on a sink, at full speed. */
  fanFullRpm: 9000,
  fanFullDb: 34,
  floorDb: 27,
} as const;

/** Drives: heat against the parameters above, how much of the under flash package is there, and to what it throttles itself. */
export const DRIVES = {
  '4T': { heat: 1, under: 1, throttleTo: 0.5, reason: 'Two flash packages a face.' },
  '1T': { heat: 0.88, under: 0, throttleTo: 0.5, reason: 'All flash on the upper face.' },
  '4T hot': {
    heat: 2.3,
    under: 1,
    throttleTo: 0.8,
    reason: 'An early controller that draws more than twice as much and is not slowed enough when it is hot.',
  },
} as const;

export interface DriveSetup {
  key: string;
  label: string;
  /** Bare surfaces to room air. */
  toRoom: { controller: number; flashTop: number; flashUnder: number; board: number };
  /** A lid or sink on the upper face; null where there is none. `fan`: how many times more it sheds with its fan at full speed. */
  cover: { capacityJPerK: number; toRoom: number; fromController: number; fromFlashTop: number; fan?: number } | null;
  /** Which drive; the two-sided one where nothing is said. */
  drive?: keyof typeof DRIVES;
  reason: string;
}

const OPEN_FACES = { controller: 0.014, flashTop: 0.034, flashUnder: 0.029, board: 0.024 };
/** Under a sink only the sides are left of the upper face; the underside keeps most of its air. */
const UNDER_SINK = { controller: 0.002, flashTop: 0.004, flashUnder: 0.025, board: 0.019 };

const SINKS: Omit<DriveSetup, 'drive'>[] = [
  { key: 'bare', label: 'bare', toRoom: OPEN_FACES, cover: null, reason: 'As the bare drive.' },
  {
    key: 'comb-sink',
    label: 'comb sink',
    toRoom: UNDER_SINK,
    cover: { capacityJPerK: 38, toRoom: 0.16, fromController: 0.24, fromFlashTop: 0.42 },
    reason: 'Fins of 8 mm over the whole face, a pad that reaches controller and flash.',
  },
  {
    key: 'comb-sink-fan',
    label: 'comb sink with fan',
    toRoom: UNDER_SINK,
    cover: { capacityJPerK: 41, toRoom: 0.12, fromController: 0.24, fromFlashTop: 0.42, fan: 3.6 },
    reason: 'The same comb with a 30 mm fan on it, which covers a third of the fins while it stands.',
  },
  {
    key: 'thick-slab',
    label: 'thick slab',
    toRoom: UNDER_SINK,
    cover: { capacityJPerK: 150, toRoom: 0.115, fromController: 0.26, fromFlashTop: 0.44 },
    reason: 'Solid metal: it soaks up heat for minutes and then sheds little more than a lid.',
  },
];

export const DRIVE_SETUPS: DriveSetup[] = [
  {
    key: 'bare',
    label: 'Bare drive',
    toRoom: { controller: 0.014, flashTop: 0.034, flashUnder: 0.029, board: 0.024 },
    cover: null,
    reason:
      'Natural convection and radiation from small vertical faces, about 10 W/m²K; the underside faces the main board across a few millimetres and sheds less.',
  },
  {
    key: 'slot-lid',
    label: 'Slot lid',
    toRoom: { controller: 0.002, flashTop: 0.004, flashUnder: 0.009, board: 0.0125 },
    cover: { capacityJPerK: 26, toRoom: 0.103, fromController: 0.02, fromFlashTop: 0.33 },
    reason:
      "A thin metal lid on a soft pad spreads the upper face's heat over more area, but its skirt stops the air under the drive, so the underside sheds less than half of what it did.",
  },
  ...(['4T', '1T', '4T hot'] as const).flatMap((drive) => SINKS.map((sink) => ({ ...sink, ...named(drive, sink), drive }))),
];

function named(drive: keyof typeof DRIVES, sink: Omit<DriveSetup, 'drive'>) {
  return { key: `${drive.toLowerCase().replace(' ', '-')}-${sink.key}`, label: `Thistle ${drive}, ${sink.label}` };
}

export function driveSetup(key: string): DriveSetup {
  const setup = DRIVE_SETUPS.find((candidate) => candidate.key === key);
  if (!setup) throw new RangeError(`the simulated bench has no set-up "${key}"; it has ${DRIVE_SETUPS.map((s) => s.key).join(', ')}`);
  return setup;
}
