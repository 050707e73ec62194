export { lowerBound, slice, usable, type Series, type Window } from './series.ts';
export { riseOverAmbient } from './riseOverAmbient.ts';
export { rejectSpikes, type SpikeReport } from './rejectSpikes.ts';
export { stepOf } from './stepOf.ts';
export { decimate } from './decimate.ts';
export { readWindow, type WindowReading } from './readWindow.ts';
export { drawable } from './drawable.ts';
export { alignClocks, type ClockAlignment } from './alignClocks.ts';
export { sweepAt, type SweepPoint } from './sweepAt.ts';
