import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type { AlignLogBody, BenchScatter, Calibration, CalibrationBody, ChosenWindowBody, ChangeOverHistory, HandReadingsBody, HistoryEntry, Instrument, InstrumentBody, InterventionBody, JoinLogBody, Limit, LogAlignment, NewSurveyBody, PutLimitBody, RunOfChannel, Survey, SurveyBody, SurveySummary, TesterRecord, TwinReading, ImportRunBody, MarkBody, Mount, MountBody, MountPhoto, PairVerdict, PreflightBody, PreflightReport, Problem, RigStatus, Run, RunReadings, SeatReport, SignOffBody, StagedLog, StartRunBody, Study, StudyBody, StudyLineUp, StudySummary, Trace } from '@red-ember/contract';

/** How a verdict is asked for otherwise than the house rules have it. */
export interface VerdictChange {
  /** "power:200:1" or "noise:33". */
  restate?: string;
  signedOff?: '1';
  /** Every run as it stood at this one of its loads. */
  load?: string;
}

function asText(asked: Record<string, string | undefined>): string {
  return new URLSearchParams(Object.entries(asked).flatMap(([key, value]) => (value ? [[key, value]] : []))).toString();
}

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
  tagTypes: ['Shelf', 'Study', 'Mounts', 'Runs', 'Run', 'Verdict', 'Rigs', 'Limits', 'Instruments', 'Surveys', 'Survey', 'History'],
  endpoints: (build) => ({
    shelf: build.query<StudySummary[], { trash: boolean }>({ query: ({ trash }) => `/studies?trash=${trash}`, providesTags: ['Shelf'] }),
    study: build.query<Study, string>({ query: (id) => `/studies/${id}`, providesTags: (_r, _e, id) => [{ type: 'Study', id }] }),
    createStudy: build.mutation<Study, StudyBody>({
      query: (body) => ({ url: '/studies', method: 'POST', body }),
      invalidatesTags: ['Shelf'],
    }),
    saveStudy: build.mutation<Study, { id: string; version: number; body: StudyBody }>({
      query: ({ id, version, body }) => ({ url: `/studies/${id}`, method: 'PUT', body, headers: { 'If-Match': `"${version}"` } }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : [{ type: 'Study', id }, 'Shelf', 'Verdict', 'History']),
    }),
    trashStudy: build.mutation<void, string>({ query: (id) => ({ url: `/studies/${id}`, method: 'DELETE' }), invalidatesTags: ['Shelf'] }),
    restoreStudy: build.mutation<Study, string>({
      query: (id) => ({ url: `/studies/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Shelf'],
    }),
    copyStudy: build.mutation<Study, { id: string; title: string }>({
      query: ({ id, title }) => ({ url: `/studies/${id}/copy`, method: 'POST', body: { title } }),
      invalidatesTags: ['Shelf'],
    }),
    history: build.query<HistoryEntry[], string>({ query: (id) => `/studies/${id}/history`, providesTags: ['History'] }),
    scatter: build.query<BenchScatter[], string>({ query: (id) => `/studies/${id}/scatter`, providesTags: ['Verdict'] }),
    testerRecord: build.query<TesterRecord, void>({ query: () => '/record', providesTags: ['Verdict'] }),
    agreements: build.query<TwinReading[], string>({ query: (id) => `/studies/${id}/agreements`, providesTags: ['Verdict'] }),
    conditions: build.query<Record<string, string>, string>({ query: (runId) => `/runs/${runId}/conditions`, providesTags: ['Runs'] }),
    limits: build.query<Limit[], void>({ query: () => '/limits', providesTags: ['Limits'] }),
    putLimit: build.mutation<Limit, { version: number; body: PutLimitBody }>({
      query: ({ version, body }) => ({ url: '/limits', method: 'PUT', body, headers: { 'If-Match': `"${version}"` } }),
      invalidatesTags: (_r, error) => (error ? [] : ['Limits']),
    }),
    instruments: build.query<Instrument[], { trash: boolean }>({
      query: ({ trash }) => `/instruments?trash=${trash}`,
      providesTags: ['Instruments'],
    }),
    createInstrument: build.mutation<Instrument, InstrumentBody>({
      query: (body) => ({ url: '/instruments', method: 'POST', body }),
      invalidatesTags: ['Instruments'],
    }),
    saveInstrument: build.mutation<Instrument, { id: string; version: number; body: InstrumentBody }>({
      query: ({ id, version, body }) => ({ url: `/instruments/${id}`, method: 'PUT', body, headers: { 'If-Match': `"${version}"` } }),
      invalidatesTags: (_r, error) => (error ? [] : ['Instruments']),
    }),
    trashInstrument: build.mutation<void, string>({
      query: (id) => ({ url: `/instruments/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Instruments'],
    }),
    restoreInstrument: build.mutation<Instrument, string>({
      query: (id) => ({ url: `/instruments/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Instruments'],
    }),
    calibrate: build.mutation<Calibration, { instrumentId: string; body: CalibrationBody }>({
      query: ({ instrumentId, body }) => ({ url: `/instruments/${instrumentId}/calibrations`, method: 'POST', body }),
      invalidatesTags: ['Instruments', 'Verdict', 'Runs'],
    }),
    runsOfChannel: build.query<RunOfChannel[], string>({
      query: (id) => `/instrument-channels/${id}/runs`,
      providesTags: ['Instruments', 'Runs'],
    }),
    surveys: build.query<SurveySummary[], { studyId: string; trash: boolean }>({
      query: ({ studyId, trash }) => `/studies/${studyId}/surveys?trash=${trash}`,
      providesTags: ['Surveys'],
    }),
    survey: build.query<Survey, string>({ query: (id) => `/surveys/${id}`, providesTags: (_r, _e, id) => [{ type: 'Survey', id }] }),
    readSurvey: build.mutation<Survey, { studyId: string; body: NewSurveyBody }>({
      query: ({ studyId, body }) => ({ url: `/studies/${studyId}/surveys`, method: 'POST', body }),
      invalidatesTags: ['Surveys'],
    }),
    saveSurvey: build.mutation<Survey, { id: string; version: number; body: SurveyBody }>({
      query: ({ id, version, body }) => ({ url: `/surveys/${id}`, method: 'PUT', body, headers: { 'If-Match': `"${version}"` } }),
      invalidatesTags: (_r, error, { id }) => (error ? [] : [{ type: 'Survey', id }, 'Surveys']),
    }),
    trashSurvey: build.mutation<void, string>({
      query: (id) => ({ url: `/surveys/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Surveys'],
    }),
    restoreSurvey: build.mutation<Survey, string>({
      query: (id) => ({ url: `/surveys/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Surveys'],
    }),
    mounts: build.query<Mount[], string>({ query: (id) => `/studies/${id}/mounts`, providesTags: ['Mounts'] }),
    makeMount: build.mutation<Mount, { studyId: string; body: MountBody }>({
      query: ({ studyId, body }) => ({ url: `/studies/${studyId}/mounts`, method: 'POST', body }),
      invalidatesTags: ['Mounts', 'Study'],
    }),
    takeMountBack: build.mutation<void, string>({
      query: (id) => ({ url: `/mounts/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Mounts', 'Study'],
    }),
    seat: build.query<SeatReport, string>({ query: (mountId) => `/mounts/${mountId}/seat`, providesTags: ['Runs', 'Mounts'] }),
    settledLoads: build.query<number[], string>({ query: (id) => `/studies/${id}/settled-loads`, providesTags: ['Runs'] }),
    changeOvers: build.query<ChangeOverHistory, void>({ query: () => '/change-overs', providesTags: ['Mounts'] }),
    addPhoto: build.mutation<MountPhoto, { mountId: string; file: File }>({
      query: ({ mountId, file }) => {
        const body = new FormData();
        body.append('photo', file);
        return { url: `/mounts/${mountId}/photos`, method: 'POST', body };
      },
      invalidatesTags: ['Mounts'],
    }),
    removePhoto: build.mutation<void, string>({
      query: (id) => ({ url: `/mount-photos/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Mounts'],
    }),
    runs: build.query<Run[], string>({ query: (id) => `/studies/${id}/runs`, providesTags: ['Runs'] }),
    run: build.query<Run, string>({ query: (id) => `/runs/${id}`, providesTags: (_r, _e, id) => [{ type: 'Run', id }] }),
    startRun: build.mutation<Run, { studyId: string; body: StartRunBody }>({
      query: ({ studyId, body }) => ({ url: `/studies/${studyId}/runs`, method: 'POST', body }),
      invalidatesTags: ['Runs', 'Study', 'Shelf', 'Rigs'],
    }),
    lookBefore: build.mutation<PreflightReport, { studyId: string; body: PreflightBody }>({
      query: ({ studyId, body }) => ({ url: `/studies/${studyId}/preflight`, method: 'POST', body }),
    }),
    intervene: build.mutation<Run, { id: string; body: InterventionBody }>({
      query: ({ id, body }) => ({ url: `/runs/${id}/interventions`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    steerRun: build.mutation<Run, { id: string; how: 'pause' | 'go-on' }>({
      query: ({ id, how }) => ({ url: `/runs/${id}/${how}`, method: 'POST' }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    moreTime: build.mutation<Run, { id: string; minutes: number }>({
      query: ({ id, minutes }) => ({ url: `/runs/${id}/more-time`, method: 'POST', body: { minutes } }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    readByHand: build.mutation<Run, { id: string; body: HandReadingsBody }>({
      query: ({ id, body }) => ({ url: `/runs/${id}/hand-readings`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    takeBackReading: build.mutation<Run, { id: string; reading: string }>({
      query: ({ id, reading }) => ({ url: `/runs/${id}/hand-readings/${reading}`, method: 'DELETE' }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    stopRun: build.mutation<Run, { id: string; reason: string }>({
      query: ({ id, reason }) => ({ url: `/runs/${id}/stop`, method: 'POST', body: { reason } }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict', 'Rigs'],
    }),
    markRun: build.mutation<Run, { id: string; body: MarkBody }>({
      query: ({ id, body }) => ({ url: `/runs/${id}/events`, method: 'POST', body }),
      invalidatesTags: (_r, _e, { id }) => [{ type: 'Run', id }],
    }),
    signOff: build.mutation<Run, { id: string; body: SignOffBody }>({
      query: ({ id, body }) => ({ url: `/runs/${id}/sign-off`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    trace: build.query<Trace, { runId: string; fromS?: number; toS?: number; points?: number }>({
      query: ({ runId, fromS = 0, toS, points = 500 }) =>
        `/runs/${runId}/trace?from=${fromS}${toS === undefined ? '' : `&to=${toS}`}&points=${points}`,
      keepUnusedDataFor: 20,
    }),
    readings: build.query<RunReadings, string>({ query: (id) => `/runs/${id}/readings`, providesTags: ['Verdict'] }),
    verdict: build.query<PairVerdict, { studyId: string; a?: string; b?: string } & VerdictChange>({
      query: ({ studyId, ...asked }) => `/studies/${studyId}/verdict?${asText(asked)}`,
      providesTags: ['Verdict'],
    }),
    lineUp: build.query<StudyLineUp, { studyId: string; loadsOf?: string } & VerdictChange>({
      query: ({ studyId, ...asked }) => `/studies/${studyId}/field?${asText(asked)}`,
      transformResponse: (answer: StudyLineUp) => withInfinity(answer),
      providesTags: ['Verdict'],
    }),
    setWindow: build.mutation<Run, { id: string; body: ChosenWindowBody }>({
      query: ({ id, body }) => ({ url: `/runs/${id}/windows/${body.phase}`, method: 'PUT', body }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    clearWindow: build.mutation<Run, { id: string; phase: number }>({
      query: ({ id, phase }) => ({ url: `/runs/${id}/windows/${phase}`, method: 'DELETE' }),
      invalidatesTags: (_r, _e, { id }) => ['Runs', { type: 'Run', id }, 'Verdict'],
    }),
    rigs: build.query<RigStatus[], void>({ query: () => '/rigs', providesTags: ['Rigs'] }),
    importJob: build.query<{ share: number }, string>({ query: (job) => `/import-jobs/${job}` }),
    cancelImport: build.mutation<void, string>({ query: (job) => ({ url: `/import-jobs/${job}`, method: 'DELETE' }) }),
    stageLog: build.mutation<StagedLog, { studyId: string; file: File; job: string }>({
      query: ({ studyId, file, job }) => {
        const body = new FormData();
        body.append('log', file);
        return { url: `/studies/${studyId}/logs?job=${job}`, method: 'POST', body };
      },
    }),
    alignLog: build.mutation<LogAlignment, { studyId: string; logId: string; body: AlignLogBody }>({
      query: ({ studyId, logId, body }) => ({ url: `/studies/${studyId}/logs/${logId}/align`, method: 'POST', body }),
    }),
    joinLog: build.mutation<Run, { studyId: string; logId: string; fileName: string; body: JoinLogBody; job: string }>({
      query: ({ studyId, logId, fileName, body, job }) => ({
        url: `/studies/${studyId}/logs/${logId}/join?name=${encodeURIComponent(fileName)}&job=${job}`,
        method: 'POST',
        body,
      }),
      invalidatesTags: (_r, _e, { body }) => ['Runs', { type: 'Run', id: body.runId }, 'Verdict'],
    }),
    makeRunOfLog: build.mutation<Run, { studyId: string; logId: string; fileName: string; body: ImportRunBody; job: string }>({
      query: ({ studyId, logId, fileName, body, job }) => ({
        url: `/studies/${studyId}/logs/${logId}/run?name=${encodeURIComponent(fileName)}&job=${job}`,
        method: 'POST',
        body,
      }),
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
  useShelfQuery,
  useStudyQuery,
  useCreateStudyMutation,
  useSaveStudyMutation,
  useTrashStudyMutation,
  useCopyStudyMutation,
  useHistoryQuery,
  useScatterQuery,
  useTesterRecordQuery,
  useAgreementsQuery,
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
  useRunsQuery,
  useRunQuery,
  useStartRunMutation,
  useLookBeforeMutation,
  useInterveneMutation,
  useSteerRunMutation,
  useMoreTimeMutation,
  useReadByHandMutation,
  useTakeBackReadingMutation,
  useStopRunMutation,
  useMarkRunMutation,
  useSignOffMutation,
  useTraceQuery,
  useReadingsQuery,
  useVerdictQuery,
  useLineUpQuery,
  useSetWindowMutation,
  useClearWindowMutation,
  useRigsQuery,
  useImportJobQuery,
  useCancelImportMutation,
  useStageLogMutation,
  useMakeRunOfLogMutation,
  useAlignLogMutation,
  useJoinLogMutation,
} = api;
