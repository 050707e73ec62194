import type { RigSource } from '../source.ts';
import { DRIVE_CHANNELS, DriveBench } from './driveBench.ts';
import { DRIVE_SETUPS } from './setups.ts';

/** The simulated M.2 drive as a source of the rig link. */
export const DRIVE_SOURCE: RigSource = {
  simulated: true,
  channels: DRIVE_CHANNELS,
  setups: DRIVE_SETUPS.map(({ key, label }) => ({ key, label })),
  begin({ setup, seed, mountSeed }) {
    const bench = new DriveBench({ setup, seed, mountSeed });
    return { read: (dtS, loadPercent) => bench.step(dtS, loadPercent) };
  },
};
