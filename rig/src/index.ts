export { DRIVE_CHANNELS, DriveBench, type DriveBenchOptions } from './drive/driveBench.ts';
export { DRIVE, DRIVE_SETUPS, driveSetup, type DriveSetup } from './drive/setups.ts';
export { RigClient, type RigClientOptions } from './link/rigClient.ts';
export { SeededRandom } from './random.ts';
export { DRIVE_SOURCE } from './drive/driveSource.ts';
export { findSensors, kernelSource } from './feeders/kernelSensors.ts';
export { linesSource } from './feeders/lines.ts';
export type { Readings, RigSource } from './source.ts';
