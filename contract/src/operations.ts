// No value is imported here: the first page of the client reads this table too, and needs no validators.
import type { Answers } from './answers.ts';
import type { Bodies } from './bodies.ts';

type AnswerName = keyof Answers;

/** One thing that the server does when it is asked. */
export interface Operation {
  method: 'get' | 'post' | 'put' | 'delete';
  /** Below /api/v1, parameters in braces. */
  path: string;
  summary: string;
  /** What may stand in the query, each with a word on it; all of it may be left out. */
  query?: Readonly<Record<string, string>>;
  /** Sent as JSON; of `upload` as a form with one file under that name. */
  body?: keyof Bodies;
  upload?: string;
  /** Needs If-Match with the version that was started from. */
  versioned?: true;
  /** What comes back: one of `Answers`, a list of them, nothing (204), a file of that type, or events without end. */
  answer: AnswerName | `${AnswerName}[]` | 'nothing' | `file ${string}` | 'events';
  /** Of an answer that is not 200 (or 204 for nothing). */
  status?: 201;
}

const TRASH = { trash: 'true for what lies in the trash' };
const JOB = { job: 'an id of your own, by which its progress can be asked for' };
const FOLDER = { folder: 'folders that the file lay in, from the outermost, as stock/m1: they may name variant and mount' };
const ZONE = { zone: 'zone of the earth in which dates are taken that say none, as Europe/Berlin' };
const NAME = { name: 'name of the file, for the record' };
const CHANGE = {
  load: 'every run as it stood at this one of its loads',
  restate: 'power:W:EXPONENT or noise:DB',
  signedOff: '1 for signed-off runs only',
  evidence: 'usual for what testers usually ask of a call; strict where nothing is said',
};
const SIDES = {
  a: 'first side: a variant, run:ID, level:FACTOR=LEVEL, or study:STUDY:VARIANT of another study; the reference where nothing is said',
  b: 'second side, named alike; what the first claim is about where nothing is said',
};
const STRETCH = { from: 'seconds, 0 where nothing is said', to: 'seconds, to the end where nothing is said' };

/** The one table of operations: routes, the OpenAPI document and the client's calls are all made from it. */
export const OPERATIONS = {
  listStudies: { method: 'get', path: '/studies', summary: 'Studies on the shelf', query: TRASH, answer: 'StudySummary[]' },
  createStudy: { method: 'post', path: '/studies', summary: 'Create a study', body: 'StudyBody', answer: 'Study', status: 201 },
  study: { method: 'get', path: '/studies/{id}', summary: 'A study, with its version as ETag', answer: 'Study' },
  saveStudy: {
    method: 'put',
    path: '/studies/{id}',
    summary: 'Replace a study',
    query: {
      measured: 'renamed, where levels, parts and set-ups of variants with runs are the same as before and only called otherwise',
      by: 'initials of who changes it',
    },
    body: 'StudyBody',
    versioned: true,
    answer: 'Study',
  },
  trashStudy: { method: 'delete', path: '/studies/{id}', summary: 'Put a study in the trash', answer: 'nothing' },
  restoreStudy: { method: 'post', path: '/studies/{id}/restore', summary: 'Bring a study back from the trash', answer: 'Study' },
  search: {
    method: 'get',
    path: '/search',
    summary: 'Words in everything that was written down',
    query: { q: 'words, all of which have to stand in it' },
    answer: 'SearchHits',
  },
  practice: { method: 'get', path: '/practice', summary: 'Exercises, and every try at one', answer: 'PracticeShelf' },
  beginPractice: {
    method: 'post',
    path: '/practice',
    summary: 'Begin an exercise, or make one of a study',
    body: 'BeginPracticeBody',
    answer: 'PracticeSheet',
    status: 201,
  },
  practiceSheet: { method: 'get', path: '/practice/{id}', summary: 'A try at an exercise', answer: 'PracticeSheet' },
  practiceHint: { method: 'post', path: '/practice/{id}/hints', summary: 'Take one more hint', answer: 'PracticeSheet' },
  handIn: {
    method: 'post',
    path: '/practice/{id}/answer',
    summary: 'Hand in an answer; the truth is opened',
    body: 'HandInBody',
    answer: 'PracticeSheet',
  },
  putPracticeAway: { method: 'delete', path: '/practice/{id}', summary: 'Put a try away', answer: 'nothing' },
  studyFile: {
    method: 'get',
    path: '/studies/{id}/study.zip',
    summary: 'A study as one file: a data package, with a database from which a bench reads it back in',
    answer: 'file application/zip',
  },
  benchFile: {
    method: 'get',
    path: '/bench.zip',
    summary: 'Every study on the shelf as one file of study files',
    answer: 'file application/zip',
  },
  readStudyIn: {
    method: 'post',
    path: '/study-files',
    summary: 'Read a study in from its file; it is judged anew, and compared with what the file says',
    upload: 'studyFile',
    answer: 'StudyReadIn',
    status: 201,
  },
  copyStudy: {
    method: 'post',
    path: '/studies/{id}/copy',
    summary: 'A new study after this one, without runs',
    body: 'CopyStudyBody',
    answer: 'Study',
    status: 201,
  },
  studyHistory: {
    method: 'get',
    path: '/studies/{id}/history',
    summary: 'What was changed, and which results moved',
    answer: 'HistoryEntry[]',
  },
  listSurveys: { method: 'get', path: '/studies/{id}/surveys', summary: 'Camera pictures', query: TRASH, answer: 'SurveySummary[]' },
  readSurvey: {
    method: 'post',
    path: '/studies/{id}/surveys',
    summary: 'Read a camera picture',
    body: 'NewSurveyBody',
    answer: 'Survey',
    status: 201,
  },
  survey: { method: 'get', path: '/surveys/{id}', summary: 'A camera picture with its temperatures', answer: 'Survey' },
  saveSurvey: {
    method: 'put',
    path: '/surveys/{id}',
    summary: 'What is said about a picture',
    body: 'SurveyBody',
    versioned: true,
    answer: 'Survey',
  },
  trashSurvey: { method: 'delete', path: '/surveys/{id}', summary: 'Put a picture in the trash', answer: 'nothing' },
  restoreSurvey: { method: 'post', path: '/surveys/{id}/restore', summary: 'Bring a picture back', answer: 'Survey' },
  agreements: {
    method: 'get',
    path: '/studies/{id}/agreements',
    summary: 'Spots on one place, held against each other',
    answer: 'TwinReading[]',
  },
  scatter: {
    method: 'get',
    path: '/studies/{id}/scatter',
    summary: 'How well the bench repeats, untouched and refitted',
    answer: 'BenchScatter[]',
  },
  testerRecord: { method: 'get', path: '/record', summary: 'Predictions of all studies and the record they make', answer: 'TesterRecord' },
  listLimits: { method: 'get', path: '/limits', summary: 'Limits library, by class of component', answer: 'Limit[]' },
  putLimit: {
    method: 'put',
    path: '/limits',
    summary: 'Change the limits of one class',
    body: 'PutLimitBody',
    versioned: true,
    answer: 'Limit',
  },
  listInstruments: { method: 'get', path: '/instruments', summary: 'Instruments of the bench', query: TRASH, answer: 'Instrument[]' },
  createInstrument: {
    method: 'post',
    path: '/instruments',
    summary: 'Write down an instrument',
    body: 'InstrumentBody',
    answer: 'Instrument',
    status: 201,
  },
  saveInstrument: {
    method: 'put',
    path: '/instruments/{id}',
    summary: 'Replace an instrument',
    body: 'InstrumentBody',
    versioned: true,
    answer: 'Instrument',
  },
  trashInstrument: { method: 'delete', path: '/instruments/{id}', summary: 'Put an instrument in the trash', answer: 'nothing' },
  restoreInstrument: { method: 'post', path: '/instruments/{id}/restore', summary: 'Bring an instrument back', answer: 'Instrument' },
  calibrate: {
    method: 'post',
    path: '/instruments/{id}/calibrations',
    summary: 'Write down a calibration',
    body: 'CalibrationBody',
    answer: 'Calibration',
    status: 201,
  },
  runsOfChannel: {
    method: 'get',
    path: '/instrument-channels/{id}/runs',
    summary: 'Runs read by an instrument channel',
    answer: 'RunOfChannel[]',
  },
  listMounts: { method: 'get', path: '/studies/{id}/mounts', summary: 'Mounts of a study', answer: 'Mount[]' },
  makeMount: {
    method: 'post',
    path: '/studies/{id}/mounts',
    summary: 'Write down a mount',
    body: 'MountBody',
    answer: 'Mount',
    status: 201,
  },
  takeMountBack: { method: 'delete', path: '/mounts/{id}', summary: 'Take a mount back that no run rests on', answer: 'nothing' },
  seat: { method: 'get', path: '/mounts/{id}/seat', summary: 'How a mount warms up, against others of its variant', answer: 'SeatReport' },
  addPhoto: {
    method: 'post',
    path: '/mounts/{id}/photos',
    summary: 'Attach a photograph',
    upload: 'photo',
    answer: 'Photo',
    status: 201,
  },
  photo: { method: 'get', path: '/mount-photos/{id}', summary: 'A photograph as displayed', answer: 'file image/webp' },
  removePhoto: { method: 'delete', path: '/mount-photos/{id}', summary: 'Remove a photograph', answer: 'nothing' },
  changeOvers: {
    method: 'get',
    path: '/change-overs',
    summary: 'Minutes that each factor took to change, learnt from worked cards',
    answer: 'ChangeOverHistory',
  },
  benchMounts: { method: 'get', path: '/mounts', summary: 'Every mount of the bench, the newest first', answer: 'MountOfBench[]' },
  benchParts: {
    method: 'get',
    path: '/parts',
    summary: 'Every part that some study puts on or that is kept on the bench, once',
    answer: 'PartOfBench[]',
  },
  keepPart: {
    method: 'post',
    path: '/parts',
    summary: 'Write a part down on the bench itself',
    body: 'KeptPartBody',
    answer: 'KeptPart',
    status: 201,
  },
  saveKeptPart: {
    method: 'put',
    path: '/parts/{id}',
    summary: 'Change a part that is kept on the bench',
    body: 'KeptPartBody',
    versioned: true,
    answer: 'KeptPart',
  },
  removeKeptPart: {
    method: 'delete',
    path: '/parts/{id}',
    summary: 'Keep a part on the bench no longer, nor its photographs; studies that put it on keep theirs',
    answer: 'nothing',
  },
  addPartPhoto: {
    method: 'post',
    path: '/parts/{id}/photos',
    summary: 'Attach a photograph to a part that is kept on the bench',
    upload: 'photo',
    answer: 'Photo',
    status: 201,
  },
  partPhoto: { method: 'get', path: '/part-photos/{id}', summary: 'A photograph of a part as displayed', answer: 'file image/webp' },
  removePartPhoto: { method: 'delete', path: '/part-photos/{id}', summary: 'Remove a photograph of a part', answer: 'nothing' },
  benchRuns: { method: 'get', path: '/runs', summary: 'Every run of the bench, the newest first', answer: 'RunOfBench[]' },
  listRuns: { method: 'get', path: '/studies/{id}/runs', summary: 'Runs of a study', answer: 'Run[]' },
  settledLoads: {
    method: 'get',
    path: '/studies/{id}/settled-loads',
    summary: 'How long loads of like parts took to settle, seconds',
    answer: 'Seconds[]',
  },
  startRun: {
    method: 'post',
    path: '/studies/{id}/runs',
    summary: 'Start a run on a free rig',
    body: 'StartRunBody',
    answer: 'Run',
    status: 201,
  },
  lookBefore: {
    method: 'post',
    path: '/studies/{id}/preflight',
    summary: 'Look at the bench before a run',
    body: 'PreflightBody',
    answer: 'PreflightReport',
    status: 201,
  },
  putLogDown: {
    method: 'post',
    path: '/logs',
    summary: 'Stage a recorded log whose study is yet to be made',
    query: { ...JOB, ...ZONE, ...FOLDER },
    upload: 'log',
    answer: 'StagedLog',
    status: 201,
  },
  listLogs: { method: 'get', path: '/logs', summary: 'Staged logs whose study is yet to be made', answer: 'StagedLog[]' },
  logTrace: { method: 'get', path: '/logs/{logId}/trace', summary: 'A staged log for drawing', answer: 'LogTrace' },
  takeLogUp: { method: 'delete', path: '/logs/{logId}', summary: 'Forget a staged log', answer: 'nothing' },
  studyOfLogs: {
    method: 'post',
    path: '/logs/study',
    summary: 'Make a study of staged logs, with a run of each',
    query: JOB,
    body: 'LogsStudyBody',
    answer: 'LogStudy',
    status: 201,
  },
  glanceAtLogs: {
    method: 'post',
    path: '/logs/glance',
    summary: 'What staged logs would say together: a verdict of which nothing is stored',
    body: 'LogsStudyBody',
    answer: 'LogGlance',
  },
  stageLog: {
    method: 'post',
    path: '/studies/{id}/logs',
    summary: 'Stage a recorded log',
    query: { ...JOB, ...ZONE, ...FOLDER },
    upload: 'log',
    answer: 'StagedLog',
    status: 201,
  },
  makeRunOfLog: {
    method: 'post',
    path: '/studies/{id}/logs/{logId}/run',
    summary: 'Make a run of a staged log',
    query: { ...JOB, ...NAME },
    body: 'ImportRunBody',
    answer: 'Run',
    status: 201,
  },
  alignLog: {
    method: 'post',
    path: '/studies/{id}/logs/{logId}/align',
    summary: 'How far the clock of a staged log is off a run',
    body: 'AlignLogBody',
    answer: 'LogAlignment',
  },
  joinLog: {
    method: 'post',
    path: '/studies/{id}/logs/{logId}/join',
    summary: 'Add a staged log to a run',
    query: { ...JOB, ...NAME },
    body: 'JoinLogBody',
    answer: 'Run',
  },
  importJob: { method: 'get', path: '/import-jobs/{job}', summary: 'How far an import has come', answer: 'ImportProgress' },
  cancelImport: { method: 'delete', path: '/import-jobs/{job}', summary: 'Cancel an import', answer: 'nothing' },
  run: { method: 'get', path: '/runs/{id}', summary: 'A run with its phases and events', answer: 'Run' },
  conditions: { method: 'get', path: '/runs/{id}/conditions', summary: 'Everything held and used in a run', answer: 'Conditions' },
  line: {
    method: 'get',
    path: '/runs/{id}/line',
    summary: 'What went over the line to the rig: loads, numbers of messages, gaps',
    answer: 'RunLine',
  },
  stopRun: { method: 'post', path: '/runs/{id}/stop', summary: 'Remove the load and end the run', body: 'StopRunBody', answer: 'Run' },
  markRun: {
    method: 'post',
    path: '/runs/{id}/events',
    summary: 'Mark something that happened',
    body: 'MarkBody',
    answer: 'Run',
    status: 201,
  },
  intervene: {
    method: 'post',
    path: '/runs/{id}/interventions',
    summary: 'Change something: opens a phase',
    body: 'InterventionBody',
    answer: 'Run',
    status: 201,
  },
  pauseRun: { method: 'post', path: '/runs/{id}/pause', summary: 'Take the load off; the phase is then done again', answer: 'Run' },
  goOn: {
    method: 'post',
    path: '/runs/{id}/go-on',
    summary: 'End the present phase, a pause, or the wait after the load went off',
    body: 'GoOnBody',
    answer: 'Run',
  },
  runLoad: {
    method: 'get',
    path: '/runs/{id}/load',
    summary: 'Whether the load of a run is off, as far as its rig says',
    answer: 'RunLoad',
  },
  moreTime: { method: 'post', path: '/runs/{id}/more-time', summary: 'Make the present phase longer', body: 'MoreTimeBody', answer: 'Run' },
  readByHand: {
    method: 'post',
    path: '/runs/{id}/hand-readings',
    summary: 'Write down what was read by hand',
    body: 'HandReadingsBody',
    answer: 'Run',
    status: 201,
  },
  takeBackReading: { method: 'delete', path: '/runs/{id}/hand-readings/{reading}', summary: 'Take a hand reading back', answer: 'Run' },
  signOff: { method: 'put', path: '/runs/{id}/sign-off', summary: 'Say whether a run is used', body: 'SignOffBody', answer: 'Run' },
  tagRun: { method: 'put', path: '/runs/{id}/tags', summary: 'Words that a run is found by', body: 'TagsBody', answer: 'Run' },
  putRight: {
    method: 'put',
    path: '/runs/{id}/facts',
    summary: 'Put right what is written down of a run: variant, mount, beginning, phases, what its channels read, what was held',
    body: 'RunFactsBody',
    answer: 'Run',
  },
  noteLater: {
    method: 'post',
    path: '/runs/{id}/noted',
    summary: 'Note something that happened in a run that has ended',
    body: 'NotedBody',
    answer: 'Run',
    status: 201,
  },
  readLater: {
    method: 'post',
    path: '/runs/{id}/noted-readings',
    summary: 'Write down readings that stand on paper, of a run that has ended',
    body: 'NotedReadingsBody',
    answer: 'Run',
    status: 201,
  },
  takeBackNote: {
    method: 'delete',
    path: '/runs/{id}/noted/{event}',
    summary: 'Take back what was noted after the end of a run',
    answer: 'Run',
  },
  ownValues: {
    method: 'put',
    path: '/runs/{id}/own-values',
    summary: 'What the figures that a study names itself came to in a run',
    body: 'OwnValuesBody',
    answer: 'Run',
  },
  setWindow: {
    method: 'put',
    path: '/runs/{id}/windows/{phase}',
    summary: 'Read a phase over a window of your own',
    body: 'ChosenWindowBody',
    answer: 'Run',
  },
  clearWindow: { method: 'delete', path: '/runs/{id}/windows/{phase}', summary: 'Read a phase over its last minutes again', answer: 'Run' },
  samplesCsv: {
    method: 'get',
    path: '/runs/{id}/samples.csv',
    summary: 'Every sample as it was read',
    query: STRETCH,
    answer: 'file text/csv',
  },
  trace: {
    method: 'get',
    path: '/runs/{id}/trace',
    summary: 'Traces for drawing',
    query: { ...STRETCH, points: 'about so many a channel, 600 where nothing is said' },
    answer: 'Trace',
  },
  beingRead: {
    method: 'get',
    path: '/studies/{id}/being-read',
    summary: 'How far the runs have been read that judging a study rests on',
    answer: 'BeingRead',
  },
  readings: { method: 'get', path: '/runs/{id}/readings', summary: 'Everything read off a run', answer: 'RunReadings' },
  signature: {
    method: 'get',
    path: '/runs/{id}/signature',
    summary: 'What is normal for the part and set-up of a run by its clean runs, and what of this run is not',
    answer: 'RunSignature',
  },
  normal: {
    method: 'get',
    path: '/studies/{id}/normal',
    summary: 'What is normal of a variant, and whether its repeats stay what they were',
    query: { variant: 'its id; the reference where nothing is said' },
    answer: 'VariantNormal',
  },
  reactions: {
    method: 'get',
    path: '/runs/{id}/reactions',
    summary: 'When each spot began to move after each change of a run',
    answer: 'RunReactions',
  },
  live: { method: 'get', path: '/runs/{id}/live', summary: 'Server-sent events: run, snapshot, samples', answer: 'events' },
  listRigs: { method: 'get', path: '/rigs', summary: 'Rigs that have connected', answer: 'BenchRig[]' },
  rehearse: {
    method: 'post',
    path: '/rigs/{rig}/rehearsals',
    summary: 'Have a rig show that its load goes off: at a Stop, without a server, at a cut-out',
    body: 'RehearsalBody',
    answer: 'Rehearsal',
    status: 201,
  },
  breakOffRehearsal: { method: 'delete', path: '/rigs/{rig}/rehearsals/now', summary: 'Break the rehearsal off', answer: 'nothing' },
  listRehearsals: {
    method: 'get',
    path: '/rigs/{rig}/rehearsals',
    summary: 'Rehearsals of a rig, the newest first',
    answer: 'Rehearsal[]',
  },
  networkHosts: { method: 'get', path: '/network-hosts', summary: 'By what other machines reach the bench', answer: 'NetworkHosts' },
  listBackups: {
    method: 'get',
    path: '/backups',
    summary: 'Copies of the whole bench, and how the last restore went',
    answer: 'BackupShelf',
  },
  makeBackup: { method: 'post', path: '/backups', summary: 'Copy the bench as it is now', answer: 'Backup', status: 201 },
  restoreBackup: {
    method: 'post',
    path: '/backups/{backup}/restore',
    summary: 'Bring a copy back; what is there is set aside. The server is away for some seconds, then answers with another `opened`',
    answer: 'BackupShelf',
  },
  verdict: {
    method: 'get',
    path: '/studies/{id}/verdict',
    summary: 'One side against another',
    query: { ...SIDES, ...CHANGE },
    answer: 'PairVerdict',
  },
  next: {
    method: 'get',
    path: '/studies/{id}/next',
    summary: 'What to do next about a comparison, most decided for an hour first',
    query: { ...SIDES, ...CHANGE },
    answer: 'NextActs',
  },
  heldBack: {
    method: 'get',
    path: '/studies/{id}/held-back',
    summary: 'What held the parts of a study back, run by run, and what it cost them',
    answer: 'StudyHeldBack',
  },
  responses: {
    method: 'get',
    path: '/studies/{id}/variants/{variantId}/responses',
    summary: 'How the spots of a variant answer power, fitted from its runs, each run foretold from the others',
    query: { air: 'what rises stand on, room or intake; the room where nothing is said and it was recorded' },
    answer: 'VariantResponses',
  },
  lineUp: {
    method: 'get',
    path: '/studies/{id}/field',
    summary: 'All variants side by side',
    query: { ...CHANGE, loadsOf: 'a variant whose loads stand side by side instead' },
    answer: 'StudyLineUp',
  },
  report: {
    method: 'get',
    path: '/studies/{id}/report.html',
    summary: 'Self-contained report',
    query: {
      ...SIDES,
      ...CHANGE,
      download: 'true for a file',
      degrees: 'F, or C where nothing is said',
      zone: 'in which its times stand, as Europe/Lisbon; UTC where nothing is said',
      form: 'short for a page for each reader; whole where nothing is said',
    },
    answer: 'file text/html',
  },
  readingsCsv: {
    method: 'get',
    path: '/studies/{id}/readings.csv',
    summary: 'Readings as CSV',
    query: { ...SIDES, ...CHANGE },
    answer: 'file text/csv',
  },
} as const satisfies Record<string, Operation>;

export type Operations = typeof OPERATIONS;
export type OperationKey = keyof Operations;

type ParamNames<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | ParamNames<Rest> : never;

/** Parameters of an operation's path, by name. */
export type ParamsOf<K extends OperationKey> = Record<ParamNames<Operations[K]['path']>, string>;
/** What may stand in its query. */
export type QueryOf<K extends OperationKey> = Operations[K] extends { query: infer Q }
  ? Partial<Record<keyof Q, string>>
  : Record<never, string>;
/** Its body; nothing where it takes none. */
export type BodyOf<K extends OperationKey> = Operations[K] extends { body: infer B extends keyof Bodies } ? Bodies[B] : undefined;

type Named<Name> = Name extends `${infer One extends AnswerName}[]`
  ? Answers[One][]
  : Name extends AnswerName
    ? Answers[Name]
    : Name extends 'nothing'
      ? void
      : Name extends `file ${string}`
        ? string
        : never;
/** What it answers. */
export type AnswerOf<K extends OperationKey> = Named<Operations[K]['answer']>;

export const OPERATION_KEYS = Object.keys(OPERATIONS) as OperationKey[];

/** The address of an operation with its parameters and query filled in, below /api/v1. What is empty is left out of the query. */
export function addressOf<K extends OperationKey>(key: K, params: ParamsOf<K>, query: QueryOf<K> = {} as QueryOf<K>): string {
  const path = OPERATIONS[key].path.replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent((params as Record<string, string>)[name] ?? ''),
  );
  const asked = Object.entries(query as Record<string, string | undefined>).filter((entry): entry is [string, string] => Boolean(entry[1]));
  return asked.length === 0 ? path : `${path}?${new URLSearchParams(asked).toString()}`;
}
