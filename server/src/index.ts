export { startBench, type BenchOptions, type RunningBench } from './bench.ts';
export { eachStudyFile } from './studyFiles/benchFile.ts';
export { DataProblem } from './database/dataProblem.ts';
export { holdFolder } from './database/folderLease.ts';
export { openDatabase } from './database/open.ts';
export { createDesk, createServices, type Desk, type Services } from './services.ts';
export { armedLimits, rigChannels } from './rigs/channels.ts';
export { handHeld, frozenAt } from './runs/service.ts';
