export { findPhases, LOAD_WITNESSES, type FoundPhase, type PhaseEvidence } from './findPhases.ts';
export { onAndOff, type OnAndOff } from './onAndOff.ts';
export type { Signal } from './signal.ts';
