import { createApi, fetchBaseQuery, type FetchArgs } from '@reduxjs/toolkit/query/react';
import type { AlignLogBody, BeginPracticeBody, CalibrationBody, ChosenWindowBody, HandInBody, HandReadingsBody, InstrumentBody, InterventionBody, JoinLogBody, KeptPartBody, LogsStudyBody, NewSurveyBody, NotedBody, NotedReadingsBody, PutLimitBody, RunFactsBody, SurveyBody, ImportRunBody, MarkBody, MountBody, OwnValuesBody, PreflightBody, Problem, SignOffBody, StartRunBody, StudyBody, StudyLineUp, VariantResponses } from '@red-ember/contract';
import {
  addressOf,
  OPERATIONS,
  type AnswerOf,
  type BodyOf,
  type Operation,
  type OperationKey,
  type ParamsOf,
  type QueryOf,
} from '@red-ember/contract/operations';
import { folderOf } from './folders.ts';

/** How a verdict is asked for otherwise than the house rules have it. */
export type VerdictChange = Pick<QueryOf<'verdict'>, 'load' | 'restate' | 'signedOff' | 'evidence'>;

/** What an operation is asked with. */
interface Asking<K extends OperationKey> {
  params: ParamsOf<K>;
  query?: QueryOf<K>;
  body?: BodyOf<K>;
  /** The version that a change started from. */
  version?: number;
  /** The one file of an upload. */
  file?: File;
}

/** A request of the table of operations: method, address and body come from there and nowhere else. */
function ask<K extends OperationKey>(key: K, { params, query, body, version, file }: Asking<K>): FetchArgs {
  const { method, upload }: Operation = OPERATIONS[key];
  const form = new FormData();
  if (upload && file) form.append(upload, file);
  return {
    url: addressOf(key, params, query),
    method: method.toUpperCase(),
    ...(upload ? { body: form } : body === undefined ? {} : { body }),
    ...(version === undefined ? {} : { headers: { 'If-Match': `"${version}"` } }),
  };
}

/** The zone of the earth that this page is read in: in it dates are taken that say none. */
export const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Degrees of freedom without end come over the wire as null; the core wants them as they are. */
function withInfinity<T>(value: T): T {
  if (Array.isArray(value)) return value.map(withInfinity) as T;
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key, key === 'dof' && inner === null ? Infinity : withInfinity(inner as unknown)]),
  ) as T;
}

/** Everything the server knows, by one cache. Live data comes by events and does not pass through here. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({
    baseUrl: '/api/v1',
    responseHandler: 'content-type',
    isJsonContentType: (headers) => /[/+]json\b/.test(headers.get('content-type') ?? ''),
  }),
  tagTypes: ['Shelf', 'Study', 'Mounts', 'Runs', 'Run', 'Verdict', 'Rigs', 'Limits', 'Instruments', 'Surveys', 'Survey', 'History', 'Logs', 'Backups', 'Parts', 'Trace', 'Practice'],
  endpoints: (build) => ({
    shelf: build.query<AnswerOf<'listStudies'>, { trash: boolean }>({ query: ({ trash }) => ask('listStudies', { params: {}, query: { trash: trash ? 'true' : '' } }), providesTags: ['Shelf'] }),
    study: build.query<AnswerOf<'study'>, string>({ query: (id) => ask('study', { params: { id } }), providesTags: (_r, _e, id) => [{ type: 'Study', id }] }),
    createStudy: build.mutation<AnswerOf<'createStudy'>, StudyBody>({
      query: (body) => ask('createStudy', { params: {}, body }),
      invalidatesTags: ['Shelf'],
    }),
    saveStudy: build.mutation<AnswerOf<'saveStudy'>, { id: string; version: number; body: StudyBody; renamed?: boolean; by: string }>({
      query: ({ id, version, body, renamed, by }) =>
        ask('saveStudy', { params: { id }, query: { ...(renamed ? { measured: 'renamed' } : {}), ...(by ? { by } : {}) }, version, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : [{ type: 'Study', id }, 'Shelf', 'Verdict', 'History']),
    }),
    trashStudy: build.mutation<AnswerOf<'trashStudy'>, string>({ query: (id) => ask('trashStudy', { params: { id } }), invalidatesTags: ['Shelf'] }),
    restoreStudy: build.mutation<AnswerOf<'restoreStudy'>, string>({
      query: (id) => ask('restoreStudy', { params: { id } }),
      invalidatesTags: ['Shelf'],
    }),
    copyStudy: build.mutation<AnswerOf<'copyStudy'>, { id: string; title: string }>({
      query: ({ id, title }) => ask('copyStudy', { params: { id }, body: { title } }),
      invalidatesTags: ['Shelf'],
    }),
    search: build.query<AnswerOf<'search'>, string>({
      query: (q) => ask('search', { params: {}, query: { q } }),
      // What is written down meanwhile is found when it is looked for again.
      keepUnusedDataFor: 5,
    }),
    practice: build.query<AnswerOf<'practice'>, void>({ query: () => ask('practice', { params: {} }), providesTags: ['Practice'] }),
    practiceSheet: build.query<AnswerOf<'practiceSheet'>, string>({
      query: (id) => ask('practiceSheet', { params: { id } }),
      providesTags: ['Practice', 'Runs'],
    }),
    beginPractice: build.mutation<AnswerOf<'beginPractice'>, BeginPracticeBody>({
      query: (body) => ask('beginPractice', { params: {}, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Practice']),
    }),
    practiceHint: build.mutation<AnswerOf<'practiceHint'>, string>({
      query: (id) => ask('practiceHint', { params: { id } }),
      invalidatesTags: ['Practice'],
    }),
    handIn: build.mutation<AnswerOf<'handIn'>, { studyId: string; body: HandInBody }>({
      query: ({ studyId, body }) => ask('handIn', { params: { id: studyId }, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Practice']),
    }),
    putPracticeAway: build.mutation<AnswerOf<'putPracticeAway'>, string>({
      query: (id) => ask('putPracticeAway', { params: { id } }),
      invalidatesTags: ['Practice'],
    }),
    readStudyIn: build.mutation<AnswerOf<'readStudyIn'>, File>({
      query: (file) => ask('readStudyIn', { params: {}, file }),
      invalidatesTags: ['Shelf', 'Verdict', 'Instruments'],
    }),
    history: build.query<AnswerOf<'studyHistory'>, string>({ query: (id) => ask('studyHistory', { params: { id } }), providesTags: ['History'] }),
    scatter: build.query<AnswerOf<'scatter'>, string>({ query: (id) => ask('scatter', { params: { id } }), providesTags: ['Verdict'] }),
    testerRecord: build.query<AnswerOf<'testerRecord'>, void>({ query: () => ask('testerRecord', { params: {} }), providesTags: ['Verdict'] }),
    heldBack: build.query<AnswerOf<'heldBack'>, string>({ query: (id) => ask('heldBack', { params: { id } }), providesTags: ['Verdict'] }),
    beingRead: build.query<AnswerOf<'beingRead'>, string>({ query: (id) => ask('beingRead', { params: { id } }) }),
    agreements: build.query<AnswerOf<'agreements'>, string>({ query: (id) => ask('agreements', { params: { id } }), providesTags: ['Verdict'] }),
    conditions: build.query<AnswerOf<'conditions'>, string>({ query: (id) => ask('conditions', { params: { id } }), providesTags: ['Runs'] }),
    limits: build.query<AnswerOf<'listLimits'>, void>({ query: () => ask('listLimits', { params: {} }), providesTags: ['Limits'] }),
    putLimit: build.mutation<AnswerOf<'putLimit'>, { version: number; body: PutLimitBody }>({
      query: ({ version, body }) => ask('putLimit', { params: {}, version, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Limits']),
    }),
    instruments: build.query<AnswerOf<'listInstruments'>, { trash: boolean }>({
      query: ({ trash }) => ask('listInstruments', { params: {}, query: { trash: trash ? 'true' : '' } }),
      providesTags: ['Instruments'],
    }),
    createInstrument: build.mutation<AnswerOf<'createInstrument'>, InstrumentBody>({
      query: (body) => ask('createInstrument', { params: {}, body }),
      invalidatesTags: ['Instruments'],
    }),
    saveInstrument: build.mutation<AnswerOf<'saveInstrument'>, { id: string; version: number; body: InstrumentBody }>({
      query: ({ id, version, body }) => ask('saveInstrument', { params: { id }, version, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Instruments']),
    }),
    trashInstrument: build.mutation<AnswerOf<'trashInstrument'>, string>({
      query: (id) => ask('trashInstrument', { params: { id } }),
      invalidatesTags: ['Instruments'],
    }),
    restoreInstrument: build.mutation<AnswerOf<'restoreInstrument'>, string>({
      query: (id) => ask('restoreInstrument', { params: { id } }),
      invalidatesTags: ['Instruments'],
    }),
    calibrate: build.mutation<AnswerOf<'calibrate'>, { instrumentId: string; body: CalibrationBody }>({
      query: ({ instrumentId, body }) => ask('calibrate', { params: { id: instrumentId }, body }),
      invalidatesTags: ['Instruments', 'Verdict', 'Runs'],
    }),
    runsOfChannel: build.query<AnswerOf<'runsOfChannel'>, string>({
      query: (id) => ask('runsOfChannel', { params: { id } }),
      providesTags: ['Instruments', 'Runs'],
    }),
    surveys: build.query<AnswerOf<'listSurveys'>, { studyId: string; trash: boolean }>({
      query: ({ studyId, trash }) => ask('listSurveys', { params: { id: studyId }, query: { trash: trash ? 'true' : '' } }),
      providesTags: ['Surveys'],
    }),
    survey: build.query<AnswerOf<'survey'>, string>({ query: (id) => ask('survey', { params: { id } }), providesTags: (_r, _e, id) => [{ type: 'Survey', id }] }),
    readSurvey: build.mutation<AnswerOf<'readSurvey'>, { studyId: string; body: NewSurveyBody }>({
      query: ({ studyId, body }) => ask('readSurvey', { params: { id: studyId }, body }),
      invalidatesTags: ['Surveys'],
    }),
    saveSurvey: build.mutation<AnswerOf<'saveSurvey'>, { id: string; version: number; body: SurveyBody }>({
      query: ({ id, version, body }) => ask('saveSurvey', { params: { id }, version, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : [{ type: 'Survey', id }, 'Surveys']),
    }),
    trashSurvey: build.mutation<AnswerOf<'trashSurvey'>, string>({
      query: (id) => ask('trashSurvey', { params: { id } }),
      invalidatesTags: ['Surveys'],
    }),
    restoreSurvey: build.mutation<AnswerOf<'restoreSurvey'>, string>({
      query: (id) => ask('restoreSurvey', { params: { id } }),
      invalidatesTags: ['Surveys'],
    }),
    mounts: build.query<AnswerOf<'listMounts'>, string>({ query: (id) => ask('listMounts', { params: { id } }), providesTags: ['Mounts'] }),
    makeMount: build.mutation<AnswerOf<'makeMount'>, { studyId: string; body: MountBody }>({
      query: ({ studyId, body }) => ask('makeMount', { params: { id: studyId }, body }),
      invalidatesTags: ['Mounts', 'Study'],
    }),
    takeMountBack: build.mutation<AnswerOf<'takeMountBack'>, string>({
      query: (id) => ask('takeMountBack', { params: { id } }),
      invalidatesTags: ['Mounts', 'Study'],
    }),
    seat: build.query<AnswerOf<'seat'>, string>({ query: (id) => ask('seat', { params: { id } }), providesTags: ['Runs', 'Mounts'] }),
    settledLoads: build.query<AnswerOf<'settledLoads'>, string>({ query: (id) => ask('settledLoads', { params: { id } }), providesTags: ['Runs'] }),
    changeOvers: build.query<AnswerOf<'changeOvers'>, void>({ query: () => ask('changeOvers', { params: {} }), providesTags: ['Mounts'] }),
    addPhoto: build.mutation<AnswerOf<'addPhoto'>, { mountId: string; file: File }>({
      query: ({ mountId, file }) => ask('addPhoto', { params: { id: mountId }, file }),
      invalidatesTags: ['Mounts'],
    }),
    removePhoto: build.mutation<AnswerOf<'removePhoto'>, string>({
      query: (id) => ask('removePhoto', { params: { id } }),
      invalidatesTags: ['Mounts'],
    }),
    benchMounts: build.query<AnswerOf<'benchMounts'>, void>({
      query: () => ask('benchMounts', { params: {} }),
      providesTags: ['Mounts', 'Runs', 'Shelf'],
    }),
    benchParts: build.query<AnswerOf<'benchParts'>, void>({ query: () => ask('benchParts', { params: {} }), providesTags: ['Parts', 'Study', 'Shelf'] }),
    keepPart: build.mutation<AnswerOf<'keepPart'>, KeptPartBody>({
      query: (body) => ask('keepPart', { params: {}, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Parts']),
    }),
    // Refused because somebody else saved: the list is asked for again, so that the next try stands on what is there now.
    saveKeptPart: build.mutation<AnswerOf<'saveKeptPart'>, { id: string; version: number; body: KeptPartBody }>({
      query: ({ id, version, body }) => ask('saveKeptPart', { params: { id }, version, body }),
      invalidatesTags: ['Parts'],
    }),
    removeKeptPart: build.mutation<AnswerOf<'removeKeptPart'>, string>({
      query: (id) => ask('removeKeptPart', { params: { id } }),
      invalidatesTags: ['Parts'],
    }),
    addPartPhoto: build.mutation<AnswerOf<'addPartPhoto'>, { partId: string; file: File }>({
      query: ({ partId, file }) => ask('addPartPhoto', { params: { id: partId }, file }),
      invalidatesTags: ['Parts'],
    }),
    removePartPhoto: build.mutation<AnswerOf<'removePartPhoto'>, string>({
      query: (id) => ask('removePartPhoto', { params: { id } }),
      invalidatesTags: ['Parts'],
    }),
    benchRuns: build.query<AnswerOf<'benchRuns'>, void>({ query: () => ask('benchRuns', { params: {} }), providesTags: ['Runs', 'Shelf'] }),
    runs: build.query<AnswerOf<'listRuns'>, string>({ query: (id) => ask('listRuns', { params: { id } }), providesTags: ['Runs'] }),
    run: build.query<AnswerOf<'run'>, string>({ query: (id) => ask('run', { params: { id } }), providesTags: (_r, _e, id) => [{ type: 'Run', id }] }),
    startRun: build.mutation<AnswerOf<'startRun'>, { studyId: string; body: StartRunBody }>({
      query: ({ studyId, body }) => ask('startRun', { params: { id: studyId }, body }),
      invalidatesTags: ['Runs', 'Study', 'Shelf', 'Rigs'],
    }),
    lookBefore: build.mutation<AnswerOf<'lookBefore'>, { studyId: string; body: PreflightBody }>({
      query: ({ studyId, body }) => ask('lookBefore', { params: { id: studyId }, body }),
    }),
    intervene: build.mutation<AnswerOf<'intervene'>, { id: string; body: InterventionBody }>({
      query: ({ id, body }) => ask('intervene', { params: { id }, body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    steerRun: build.mutation<AnswerOf<'pauseRun'>, { id: string; how: 'pause' | 'go-on'; reason?: string }>({
      query: ({ id, how, reason = '' }) =>
        how === 'pause' ? ask('pauseRun', { params: { id } }) : ask('goOn', { params: { id }, body: { reason } }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    moreTime: build.mutation<AnswerOf<'moreTime'>, { id: string; minutes: number }>({
      query: ({ id, minutes }) => ask('moreTime', { params: { id }, body: { minutes } }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    readByHand: build.mutation<AnswerOf<'readByHand'>, { id: string; body: HandReadingsBody }>({
      query: ({ id, body }) => ask('readByHand', { params: { id }, body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }, 'Verdict'],
    }),
    takeBackReading: build.mutation<AnswerOf<'takeBackReading'>, { id: string; reading: string }>({
      query: ({ id, reading }) => ask('takeBackReading', { params: { id, reading } }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }, 'Verdict'],
    }),
    runLoad: build.query<AnswerOf<'runLoad'>, string>({ query: (id) => ask('runLoad', { params: { id } }), keepUnusedDataFor: 0 }),
    stopRun: build.mutation<AnswerOf<'stopRun'>, { id: string; reason: string }>({
      query: ({ id, reason }) => ask('stopRun', { params: { id }, body: { reason } }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict', 'Rigs'],
    }),
    markRun: build.mutation<AnswerOf<'markRun'>, { id: string; body: MarkBody }>({
      query: ({ id, body }) => ask('markRun', { params: { id }, body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    signOff: build.mutation<AnswerOf<'signOff'>, { id: string; body: SignOffBody }>({
      query: ({ id, body }) => ask('signOff', { params: { id }, body }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    tagRun: build.mutation<AnswerOf<'tagRun'>, { id: string; tags: string }>({
      query: ({ id, tags }) => ask('tagRun', { params: { id }, body: { tags } }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : ['Runs', { type: 'Run', id }]),
    }),
    trace: build.query<AnswerOf<'trace'>, { runId: string; fromS?: number; toS?: number; points?: number }>({
      query: ({ runId, fromS = 0, toS, points = 500 }) =>
        ask('trace', { params: { id: runId }, query: { from: String(fromS), to: toS === undefined ? '' : String(toS), points: String(points) } }),
      keepUnusedDataFor: 20,
      providesTags: (_r, _e, { runId }) => [{ type: 'Trace', id: runId }],
    }),
    normal: build.query<AnswerOf<'normal'>, { studyId: string; variant?: string }>({
      query: ({ studyId, variant }) => ask('normal', { params: { id: studyId }, query: variant ? { variant } : {} }),
      providesTags: ['Verdict'],
    }),
    signature: build.query<AnswerOf<'signature'>, string>({ query: (id) => ask('signature', { params: { id } }), providesTags: ['Verdict'] }),
    reactions: build.query<AnswerOf<'reactions'>, string>({ query: (id) => ask('reactions', { params: { id } }), providesTags: ['Verdict'] }),
    readings: build.query<AnswerOf<'readings'>, string>({ query: (id) => ask('readings', { params: { id } }), providesTags: ['Verdict'] }),
    verdict: build.query<AnswerOf<'verdict'>, { studyId: string; a?: string; b?: string } & VerdictChange>({
      query: ({ studyId, ...query }) => ask('verdict', { params: { id: studyId }, query }),
      providesTags: ['Verdict'],
    }),
    next: build.query<AnswerOf<'next'>, { studyId: string; a?: string; b?: string } & VerdictChange>({
      query: ({ studyId, ...query }) => ask('next', { params: { id: studyId }, query }),
      providesTags: ['Verdict'],
    }),
    lineUp: build.query<AnswerOf<'lineUp'>, { studyId: string; loadsOf?: string } & VerdictChange>({
      query: ({ studyId, ...query }) => ask('lineUp', { params: { id: studyId }, query }),
      transformResponse: (answer: StudyLineUp) => withInfinity(answer),
      providesTags: ['Verdict'],
    }),
    responses: build.query<AnswerOf<'responses'>, { studyId: string; variantId: string; air?: string }>({
      query: ({ studyId, variantId, air }) => ask('responses', { params: { id: studyId, variantId }, query: air ? { air } : {} }),
      transformResponse: (answer: VariantResponses) => withInfinity(answer),
      providesTags: ['Verdict'],
    }),
    setWindow: build.mutation<AnswerOf<'setWindow'>, { id: string; body: ChosenWindowBody }>({
      query: ({ id, body }) => ask('setWindow', { params: { id, phase: String(body.phase) }, body }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    clearWindow: build.mutation<AnswerOf<'clearWindow'>, { id: string; phase: number }>({
      query: ({ id, phase }) => ask('clearWindow', { params: { id, phase: String(phase) } }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    rigs: build.query<AnswerOf<'listRigs'>, void>({ query: () => ask('listRigs', { params: {} }), providesTags: ['Rigs'] }),
    rehearse: build.mutation<AnswerOf<'rehearse'>, { rig: string; loadPercent: number }>({
      query: ({ rig, loadPercent }) => ask('rehearse', { params: { rig }, body: { loadPercent } }),
      invalidatesTags: ['Rigs'],
    }),
    breakOffRehearsal: build.mutation<null, string>({ query: (rig) => ask('breakOffRehearsal', { params: { rig } }), invalidatesTags: ['Rigs'] }),
    rehearsals: build.query<AnswerOf<'listRehearsals'>, string>({ query: (rig) => ask('listRehearsals', { params: { rig } }), providesTags: ['Rigs'] }),
    line: build.query<AnswerOf<'line'>, string>({ query: (id) => ask('line', { params: { id } }), providesTags: (_r, _e, id) => [{ type: 'Run', id }] }),
    networkHosts: build.query<AnswerOf<'networkHosts'>, void>({ query: () => ask('networkHosts', { params: {} }) }),
    backups: build.query<AnswerOf<'listBackups'>, void>({ query: () => ask('listBackups', { params: {} }), providesTags: ['Backups'] }),
    makeBackup: build.mutation<AnswerOf<'makeBackup'>, void>({ query: () => ask('makeBackup', { params: {} }), invalidatesTags: ['Backups'] }),
    restoreBackup: build.mutation<AnswerOf<'restoreBackup'>, string>({ query: (backup) => ask('restoreBackup', { params: { backup } }) }),
    importJob: build.query<AnswerOf<'importJob'>, string>({ query: (job) => ask('importJob', { params: { job } })}),
    cancelImport: build.mutation<AnswerOf<'cancelImport'>, string>({ query: (job) => ask('cancelImport', { params: { job } })}),
    stageLog: build.mutation<AnswerOf<'stageLog'>, { studyId: string; file: File; job: string }>({
      query: ({ studyId, file, job }) => ask('stageLog', { params: { id: studyId }, query: { job, zone: ownZone(), folder: folderOf(file) }, file }),
    }),
    putRight: build.mutation<AnswerOf<'putRight'>, { id: string; body: RunFactsBody }>({
      query: ({ id, body }) => ask('putRight', { params: { id }, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : ['Runs', { type: 'Run', id }, { type: 'Trace', id }, 'Verdict', 'History', 'Mounts', 'Study']),
    }),
    noteLater: build.mutation<AnswerOf<'noteLater'>, { id: string; body: NotedBody }>({
      query: ({ id, body }) => ask('noteLater', { params: { id }, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : [{ type: 'Run', id }, 'Verdict', 'History']),
    }),
    readLater: build.mutation<AnswerOf<'readLater'>, { id: string; body: NotedReadingsBody }>({
      query: ({ id, body }) => ask('readLater', { params: { id }, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : ['Runs', { type: 'Run', id }, { type: 'Trace', id }, 'Verdict', 'History']),
    }),
    takeBackNote: build.mutation<AnswerOf<'takeBackNote'>, { id: string; event: string }>({
      query: ({ id, event }) => ask('takeBackNote', { params: { id, event } }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }, 'Verdict', 'History'],
    }),
    ownValues: build.mutation<AnswerOf<'ownValues'>, { id: string; body: OwnValuesBody }>({
      query: ({ id, body }) => ask('ownValues', { params: { id }, body }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : ['Runs', { type: 'Run', id }, 'Verdict', 'History']),
    }),
    /** A file that ships with the pages, by its name. */
    sampleLog: build.query<string, string>({ query: (name) => ({ url: `${location.origin}/samples/${encodeURIComponent(name)}`, responseHandler: 'text' }) }),
    logs: build.query<AnswerOf<'listLogs'>, void>({ query: () => ask('listLogs', { params: {} }), providesTags: ['Logs'] }),
    logTrace: build.query<AnswerOf<'logTrace'>, string>({ query: (logId) => ask('logTrace', { params: { logId } }) }),
    putLogDown: build.mutation<AnswerOf<'putLogDown'>, { file: File; job: string }>({
      query: ({ file, job }) => ask('putLogDown', { params: {}, query: { job, zone: ownZone(), folder: folderOf(file) }, file }),
    }),
    takeLogUp: build.mutation<null, string>({ query: (logId) => ask('takeLogUp', { params: { logId } }), invalidatesTags: ['Logs'] }),
    glanceAtLogs: build.query<AnswerOf<'glanceAtLogs'>, LogsStudyBody>({ query: (body) => ask('glanceAtLogs', { params: {}, body }), keepUnusedDataFor: 0 }),
    studyOfLogs: build.mutation<AnswerOf<'studyOfLogs'>, { body: LogsStudyBody; job: string }>({
      query: ({ body, job }) => ask('studyOfLogs', { params: {}, query: { job }, body }),
      invalidatesTags: (_r, error) => (error ? [] : ['Logs', 'Shelf', 'Study', 'Mounts', 'Verdict', 'Runs']),
    }),
    alignLog: build.mutation<AnswerOf<'alignLog'>, { studyId: string; logId: string; body: AlignLogBody }>({
      query: ({ studyId, logId, body }) => ask('alignLog', { params: { id: studyId, logId }, body }),
    }),
    joinLog: build.mutation<AnswerOf<'joinLog'>, { studyId: string; logId: string; fileName: string; body: JoinLogBody; job: string }>({
      query: ({ studyId, logId, fileName, body, job }) =>
        ask('joinLog', { params: { id: studyId, logId }, query: { name: fileName, job }, body }),
      invalidatesTags: (_r, _e, { body }) => ['Runs', { type: 'Run', id: body.runId }, 'Verdict'],
    }),
    makeRunOfLog: build.mutation<AnswerOf<'makeRunOfLog'>, { studyId: string; logId: string; fileName: string; body: ImportRunBody; job: string }>({
      query: ({ studyId, logId, fileName, body, job }) =>
        ask('makeRunOfLog', { params: { id: studyId, logId }, query: { name: fileName, job }, body }),
      invalidatesTags: ['Runs', 'Study', 'Shelf', 'Verdict'],
    }),
  }),
});

/** The sentence of a failed request, whatever kind of failure it was. */
export function sentenceOf(error: unknown): string {
  const { data, status } = (error ?? {}) as { data?: Problem | string; status?: number | string };
  if (status === 'FETCH_ERROR') return 'The server does not answer. What you typed is kept here; try again when it is back.';
  if (data && typeof data === 'object' && typeof data.detail === 'string') return data.detail;
  return 'Something went wrong. Nothing was changed.';
}

export function statusOf(error: unknown): number | null {
  const { status } = (error ?? {}) as { status?: number | string };
  return typeof status === 'number' ? status : null;
}

export const {
  useOwnValuesMutation,
  useRehearseMutation,
  useBreakOffRehearsalMutation,
  useRehearsalsQuery,
  useLineQuery,
  useBackupsQuery,
  useNetworkHostsQuery,
  useMakeBackupMutation,
  useRestoreBackupMutation,
  useShelfQuery,
  useStudyQuery,
  useCreateStudyMutation,
  useSaveStudyMutation,
  useTrashStudyMutation,
  useCopyStudyMutation,
  useBeginPracticeMutation,
  useHandInMutation,
  usePracticeHintMutation,
  usePracticeQuery,
  usePracticeSheetQuery,
  usePutPracticeAwayMutation,
  useReadStudyInMutation,
  useHistoryQuery,
  useScatterQuery,
  useTesterRecordQuery,
  useAgreementsQuery,
  useBeingReadQuery,
  useConditionsQuery,
  useLimitsQuery,
  usePutLimitMutation,
  useInstrumentsQuery,
  useCreateInstrumentMutation,
  useSaveInstrumentMutation,
  useTrashInstrumentMutation,
  useRestoreInstrumentMutation,
  useCalibrateMutation,
  useRunsOfChannelQuery,
  useSurveysQuery,
  useSurveyQuery,
  useReadSurveyMutation,
  useSaveSurveyMutation,
  useTrashSurveyMutation,
  useRestoreSurveyMutation,
  useRestoreStudyMutation,
  useMountsQuery,
  useMakeMountMutation,
  useTakeMountBackMutation,
  useSeatQuery,
  useChangeOversQuery,
  useSettledLoadsQuery,
  useAddPhotoMutation,
  useRemovePhotoMutation,
  useBenchMountsQuery,
  useBenchPartsQuery,
  useKeepPartMutation,
  useSaveKeptPartMutation,
  useRemoveKeptPartMutation,
  useAddPartPhotoMutation,
  useRemovePartPhotoMutation,
  useBenchRunsQuery,
  useRunsQuery,
  useRunQuery,
  useStartRunMutation,
  useLookBeforeMutation,
  useInterveneMutation,
  useSteerRunMutation,
  useMoreTimeMutation,
  useReadByHandMutation,
  useTakeBackReadingMutation,
  useMarkRunMutation,
  useSignOffMutation,
  useTagRunMutation,
  useTraceQuery,
  useGlanceAtLogsQuery,
  useHeldBackQuery,
  useResponsesQuery,
  useNormalQuery,
  useSearchQuery,
  useSignatureQuery,
  useReactionsQuery,
  useReadingsQuery,
  useNextQuery,
  useVerdictQuery,
  useLineUpQuery,
  useSetWindowMutation,
  useClearWindowMutation,
  useRigsQuery,
  useImportJobQuery,
  useCancelImportMutation,
  useStageLogMutation,
  useLogsQuery,
  useLazySampleLogQuery,
  usePutRightMutation,
  useNoteLaterMutation,
  useReadLaterMutation,
  useTakeBackNoteMutation,
  useLogTraceQuery,
  usePutLogDownMutation,
  useTakeLogUpMutation,
  useStudyOfLogsMutation,
  useMakeRunOfLogMutation,
  useAlignLogMutation,
  useJoinLogMutation,
} = api;
