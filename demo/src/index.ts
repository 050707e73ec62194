export { seedDemo } from './seed.ts';
export { simulateRun, type SimulatedRun } from './simulateRun.ts';
export * from './scenario/index.ts';
