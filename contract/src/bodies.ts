import { HandReadingsBody, NotedReadingsBody } from './hand/hand.ts';
import { AlignLogBody, ImportRunBody, JoinLogBody, LogsStudyBody } from './imports/import.ts';
import { CalibrationBody, InstrumentBody } from './instruments/instrument.ts';
import { PutLimitBody } from './limits/limit.ts';
import { MountBody } from './mounts/mount.ts';
import { KeptPartBody } from './parts/partOfBench.ts';
import { BeginPracticeBody, HandInBody } from './practice/practice.ts';
import { PreflightBody } from './preflight/preflight.ts';
import { RehearsalBody } from './rehearsals/rehearsal.ts';
import { RunFactsBody } from './runs/facts.ts';
import {
  ChosenWindowBody,
  GoOnBody,
  InterventionBody,
  MarkBody,
  MoreTimeBody,
  NotedBody,
  SignOffBody,
  StartRunBody,
  StopRunBody,
  TagsBody,
} from './runs/run.ts';
import { OwnValuesBody } from './studies/ownFigures.ts';
import { CopyStudyBody, StudyBody } from './studies/study.ts';
import { NewSurveyBody, SurveyBody } from './surveys/survey.ts';

/** Every body that an operation can take, by name; each class holds its own checks. */
export const BODIES = {
  AlignLogBody,
  BeginPracticeBody,
  CalibrationBody,
  ChosenWindowBody,
  CopyStudyBody,
  GoOnBody,
  HandInBody,
  HandReadingsBody,
  ImportRunBody,
  InstrumentBody,
  InterventionBody,
  JoinLogBody,
  KeptPartBody,
  LogsStudyBody,
  MarkBody,
  MoreTimeBody,
  MountBody,
  NewSurveyBody,
  NotedBody,
  NotedReadingsBody,
  OwnValuesBody,
  PreflightBody,
  PutLimitBody,
  RehearsalBody,
  RunFactsBody,
  SignOffBody,
  StartRunBody,
  StopRunBody,
  StudyBody,
  SurveyBody,
  TagsBody,
};
export type Bodies = { [K in keyof typeof BODIES]: InstanceType<(typeof BODIES)[K]> };
