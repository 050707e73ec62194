import type { TwinReading } from './agreements/agreement.ts';
import type { HistoryEntry } from './history/history.ts';
import type { LogAlignment, LogStudy, LogTrace, StagedLog } from './imports/import.ts';
import type { Calibration, Instrument, RunOfChannel } from './instruments/instrument.ts';
import type { Limit } from './limits/limit.ts';
import type { RigStatus } from './live/live.ts';
import type { ChangeOverHistory, Mount, MountPhoto, SeatReport } from './mounts/mount.ts';
import type { PreflightReport } from './preflight/preflight.ts';
import type { RunReadings } from './readings/readings.ts';
import type { Run, RunLoad, Trace } from './runs/run.ts';
import type { Study, StudySummary } from './studies/study.ts';
import type { Survey, SurveySummary } from './surveys/survey.ts';
import type { BenchScatter, PairVerdict, StudyLineUp, TesterRecord } from './verdicts/verdict.ts';

/** Everything that an operation can answer, by name: the schemas of the OpenAPI document are made from this. */
export interface Answers {
  BenchScatter: BenchScatter;
  Calibration: Calibration;
  ChangeOverHistory: ChangeOverHistory;
  Conditions: Record<string, string>;
  HistoryEntry: HistoryEntry;
  ImportProgress: { share: number };
  Instrument: Instrument;
  Limit: Limit;
  LogAlignment: LogAlignment;
  LogStudy: LogStudy;
  LogTrace: LogTrace;
  Mount: Mount;
  MountPhoto: MountPhoto;
  PairVerdict: PairVerdict;
  PreflightReport: PreflightReport;
  RigStatus: RigStatus;
  Run: Run;
  RunLoad: RunLoad;
  RunOfChannel: RunOfChannel;
  RunReadings: RunReadings;
  SeatReport: SeatReport;
  Seconds: number;
  StagedLog: StagedLog;
  Study: Study;
  StudyLineUp: StudyLineUp;
  StudySummary: StudySummary;
  Survey: Survey;
  SurveySummary: SurveySummary;
  TesterRecord: TesterRecord;
  Trace: Trace;
  TwinReading: TwinReading;
}
