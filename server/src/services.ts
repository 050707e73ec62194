import type { Database } from 'better-sqlite3';
import type { RestoreOutcome } from '@red-ember/contract';
import { AgreementService } from './agreements/service.ts';
import { HeldBackService } from './heldBack/service.ts';
import { BackupService, RestoreService, type Reopen } from './backups/service.ts';
import { ConductService } from './conduct/service.ts';
import { HandService } from './hand/service.ts';
import { HandStore } from './runs/handStore.ts';
import { HistoryStore } from './history/store.ts';
import { openScratch } from './database/open.ts';
import { GlanceService, type ScratchBench } from './imports/glance.ts';
import { LogStudyService } from './imports/logStudies.ts';
import type { ImportJobs } from './imports/work/jobs.ts';
import { ImportService } from './imports/service.ts';
import { MappingStore } from './imports/store.ts';
import { InstrumentService } from './instruments/service.ts';
import { InstrumentStore } from './instruments/store.ts';
import { LimitService } from './limits/service.ts';
import { LimitStore } from './limits/store.ts';
import { LiveHub } from './live/hub.ts';
import { SeatService } from './mounts/seat.ts';
import { MountService } from './mounts/service.ts';
import { MountStore } from './mounts/store.ts';
import { Planted } from './practice/planted.ts';
import { PracticeService } from './practice/service.ts';
import { PracticeStore } from './practice/store.ts';
import { MountHistory, type KnowsMounts } from './preflight/knowledge.ts';
import { PreflightService } from './preflight/service.ts';
import { SentReviewer, type Reviewer } from './readings/beside/reviewer.ts';
import { ReadingService } from './readings/service.ts';
import { ReviewStore } from './readings/store.ts';
import { RehearsalService } from './rehearsals/service.ts';
import { RehearsalStore } from './rehearsals/store.ts';
import { ReportService } from './reports/service.ts';
import { ResponseService } from './responses/service.ts';
import { Conductor } from './rigs/conductor.ts';
import { FreeRig } from './rigs/freeRig.ts';
import { RigHub } from './rigs/rigHub.ts';
import { judgesHere, JudgesBeside } from './rigs/settling/judge.ts';
import { LineStore } from './runs/lineStore.ts';
import { RunService } from './runs/service.ts';
import { RunStore } from './runs/store.ts';
import { Overviews } from './samples/overviews/store.ts';
import { SampleStore } from './samples/store.ts';
import { PartService } from './parts/service.ts';
import { PartStore } from './parts/store.ts';
import { Album } from './photographs/album.ts';
import { PhotoStore } from './photographs/store.ts';
import { SearchService } from './search/service.ts';
import { SearchStore } from './search/store.ts';
import { KeptSignatures } from './signatures/kept.ts';
import { CleanLoads } from './signatures/loads.ts';
import { SignatureService } from './signatures/service.ts';
import { SignatureStore } from './signatures/store.ts';
import { StudyService } from './studies/service.ts';
import { StudyStore } from './studies/store.ts';
import { StudyFileService } from './studyFiles/service.ts';
import { StudyFileStore } from './studyFiles/store.ts';
import { SurveyService } from './surveys/service.ts';
import { SurveyStore } from './surveys/store.ts';
import { VerdictService } from './verdicts/service.ts';

export type Services = ReturnType<typeof createServices>;
export type Desk = ReturnType<typeof createDesk>;

/** What a desk is given in place of its own. */
interface Lent {
  limits?: LimitService;
  jobs?: ImportJobs;
  /** Reads runs beside the desk; it reads them itself, as they are asked for, where there is none. */
  reviewer?: Reviewer;
}

/** Wires together, over one open database, everything that needs no rig: studies, imports, readings, verdicts, reports. */
export function createDesk(db: Database, dataFolder: string, lent: Lent = {}) {
  const studyStore = new StudyStore(db);
  const mountPhotos = new PhotoStore(db, 'mount');
  const mountStore = new MountStore(db, mountPhotos);
  const handStore = new HandStore(db);
  const runStore = new RunStore(db, handStore);
  const samples = new SampleStore(db);
  const lines = new LineStore(db);
  const history = new HistoryStore(db);
  const instrumentStore = new InstrumentStore(db);
  const surveyStore = new SurveyStore(db);
  const studies = new StudyService(studyStore, history);
  const limits = lent.limits ?? new LimitService(new LimitStore(db), history);
  const instruments = new InstrumentService(instrumentStore, history, studies);
  const surveys = new SurveyService(surveyStore, studies, history);
  const mounts = new MountService(mountStore, studies, new Album(mountPhotos, 'mount'));
  const seats = new SeatService(mounts, studies, runStore, samples);
  const runs = new RunService(runStore, samples, lines, studies, instrumentStore, mounts, handStore, new Overviews(db, samples));
  const readings = new ReadingService(runs, runStore, samples, studies, new ReviewStore(db), instrumentStore, lent.reviewer);
  const loads = new CleanLoads(runStore, readings);
  const signatures = new SignatureService(
    studies,
    runs,
    runStore,
    readings,
    loads,
    new KeptSignatures(new SignatureStore(db), studies, loads, readings),
  );
  const knowledge = new MountHistory(studies, runStore, readings, seats, mountStore, signatures);
  const agreements = new AgreementService(studies, runStore, readings);
  const heldBack = new HeldBackService(studies, runStore, readings, samples);
  const verdicts = new VerdictService(studies, runStore, readings, agreements);
  const responses = new ResponseService(studies, runStore, readings, verdicts, instrumentStore);
  studies.resultsBy(verdicts);
  const reports = new ReportService(studies, runs, mounts, readings, verdicts);
  const practiceStore = new PracticeStore(db);
  const mappings = new MappingStore(db);
  const imports = new ImportService(dataFolder, studies, runStore, samples, runs, mounts, mappings, undefined, lent.jobs);
  const logStudies = new LogStudyService(imports, studies, limits, runStore);
  return {
    stores: {
      studies: studyStore,
      mounts: mountStore,
      runs: runStore,
      samples,
      lines,
      instruments: instrumentStore,
      surveys: surveyStore,
      hand: handStore,
      practice: practiceStore,
    },
    studies,
    limits,
    instruments,
    surveys,
    agreements,
    heldBack,
    responses,
    signatures,
    mounts,
    seats,
    runs,
    readings,
    knowledge,
    verdicts,
    reports,
    imports,
    logStudies,
    glances: new GlanceService(() => scratchBench(dataFolder, { limits, jobs: imports.jobs }, lent.reviewer)),
    search: new SearchService(new SearchStore(db)),
    parts: new PartService(new PartStore(db), new Album(new PhotoStore(db, 'part'), 'part')),
    practice: new PracticeService(practiceStore, { studies, runs, mounts, verdicts }),
    studyFiles: new StudyFileService(dataFolder, new StudyFileStore(db), { studies, runs, mounts, readings, verdicts, reports }),
    backups: new BackupService(db, dataFolder),
  };
}

/** A bench in memory that reads the logs that were put down on this one by the same threads, and goes by its limits. */
function scratchBench(dataFolder: string, lent: { limits: LimitService; jobs: ImportJobs }, threads?: Reviewer): ScratchBench {
  const db = openScratch();
  const reviewer = threads && new SentReviewer(threads, new SampleStore(db));
  const { logStudies, readings, verdicts } = createDesk(db, dataFolder, { ...lent, ...(reviewer && { reviewer }) });
  return { logStudies, readings, verdicts, close: () => db.close() };
}

/** What the watch asks of a desk in another process. */
interface DeskApart extends KnowsMounts {
  tidy(runId: string): void;
}

interface WatchOptions {
  /** The desk as another process, which knows the runs and has the time; this process where there is none. */
  apart?: DeskApart | null;
  /** Closes and opens the whole bench; nobody can where nothing is said. */
  reopen?: Reopen;
  /** How the restore went by which these data came to be opened. */
  restored?: RestoreOutcome | null;
  /** On which address the server listens; its own machine's where nothing is said. */
  host?: string;
}

/** The desk, and beside it the watch: rigs, the conductor of live runs and everything by which somebody's hand gets at them. */
export function createServices(
  db: Database,
  dataFolder: string,
  log: (text: string) => void,
  { apart = null, reopen, restored = null, host = '127.0.0.1' }: WatchOptions = {},
) {
  const desk = createDesk(db, dataFolder);
  const { stores, studies, runs, knowledge } = desk;
  const live = new LiveHub();
  const rigs = new RigHub(log);
  const planted = new Planted(stores.practice);
  const conductor = new Conductor({
    ...stores,
    rigs,
    live,
    log,
    planted,
    judge: apart ? new JudgesBeside() : judgesHere,
    tidy: (runId) => (apart ? apart.tidy(runId) : stores.samples.compact(runId)),
  });
  const rehearsals = new RehearsalService(new RehearsalStore(db), rigs, conductor, log);
  const free = new FreeRig(studies, stores.mounts, rigs, (rigId) => conductor.runOnRig(rigId) ?? rehearsals.runOnRig(rigId));
  const conduct = new ConductService(stores.runs, runs, free, rigs, conductor);
  const hand = new HandService(stores.hand, runs, studies, conductor);
  const preflights = new PreflightService(apart ?? knowledge, rigs, free, rehearsals, planted);
  const restores = new RestoreService(desk.backups, () => conductor.measuring() || rehearsals.goesOn(), reopen ?? null, restored);
  return {
    ...desk,
    host,
    restores,
    live,
    rigs,
    conductor,
    conduct,
    hand,
    preflights,
    rehearsals,
    close(): void {
      desk.imports.jobs.close();
      rehearsals.close();
      conductor.close();
      rigs.close();
      live.closeAll();
    },
  };
}
