import type { FaultKey } from '@red-ember/rig';

export interface DemoRun {
  variantId: string;
  mount: number;
  startedAt: string;
  seed: number;
  /** Nobody recorded the room. */
  roomLost?: boolean;
  /** What was wrong with the mount. */
  faults?: FaultKey[];
  /** Why the crew leaves it out. */
  leftOut?: string;
  /** Somebody switched a heater on in the next room while the run was read. */
  heater?: { atS: number; riseK: number; tauS: number };
}

/** Three days in March. Run 6 has the planted problem: the room warms while it is read. */
export const SLOT_LID_RUNS: DemoRun[] = [
  { variantId: 'lid-bare', mount: 1, startedAt: '2026-03-03T09:10:00Z', seed: 101 },
  { variantId: 'lid-lid', mount: 1, startedAt: '2026-03-03T11:25:00Z', seed: 102 },
  { variantId: 'lid-lid', mount: 2, startedAt: '2026-03-04T09:05:00Z', seed: 103 },
  { variantId: 'lid-bare', mount: 2, startedAt: '2026-03-04T11:40:00Z', seed: 104 },
  { variantId: 'lid-bare', mount: 2, startedAt: '2026-03-05T09:15:00Z', seed: 105 },
  { variantId: 'lid-lid', mount: 3, startedAt: '2026-03-05T13:30:00Z', seed: 106, heater: { atS: 4000, riseK: 10, tauS: 500 } },
];

export const REPEATABILITY_RUNS: DemoRun[] = [1, 2, 3, 4, 5].map((n) => ({
  variantId: 'rep-bare',
  mount: n <= 3 ? 1 : 2,
  startedAt: `2026-02-2${n}T10:00:00Z`,
  seed: 200 + n,
}));
