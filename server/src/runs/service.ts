import {
  capital,
  clock,
  drawable,
  phaseInWords,
  sampleGaps,
  slice,
  sliceToEdges,
  whereLoadsDiffer,
  type LineKind,
  type OwnValue,
} from '@red-ember/core';
import {
  channelWords,
  goesOn,
  notedAfterwards,
  type NotedBody,
  type NotedReadingsBody,
  type Run,
  type RunChannel,
  type RunOfBench,
  type RunFactsBody,
  type RunLine,
  type SignOffBody,
  type Study,
  type TagsBody,
  type Trace,
} from '@red-ember/contract';
import { beganWords, lockValue, madeAs, ownFiguresOf, tagsOf, type MadeAs } from '@red-ember/study';
import { conflict, notFound, unprocessable } from '../http/problems.ts';
import type { InstrumentStore } from '../instruments/store.ts';
import type { Drawn, Overviews } from '../samples/overviews/store.ts';
import type { SampleStore } from '../samples/store.ts';
import { samplesTable, type NamedSeries } from '../samples/table.ts';
import type { StudyService } from '../studies/service.ts';
import { checkedPhases } from './phases.ts';
import { typedReadings } from './typedReadings.ts';
import { channelsInWords, channelsPutRight, settingsInWords, settingsPutRight } from './putRight.ts';
import type { HandStore } from './handStore.ts';
import { refoundPhases } from './refound.ts';
import type { LineStore } from './lineStore.ts';
import { handChannel } from './sensors.ts';
import type { RunStore } from './store.ts';

/** What was held for a variant's part when a run started, by name. */
export function settingsOf(study: Study, variantId: string): Record<string, string> {
  const subjectId = study.variants.find((variant) => variant.id === variantId)?.subjectId ?? '';
  return Object.fromEntries(study.locks.map((lock) => [lock.name, lockValue(lock, subjectId)]));
}

/** What a run keeps of its study as it was when the run was started. */
export function frozenAt(study: Study, variantId: string): { settings: Record<string, string>; madeAs: MadeAs } {
  return { settings: settingsOf(study, variantId), madeAs: madeAs(study, variantId) };
}

/** Locks of which nothing but the tester's word says that they were held. */
export function handHeld(study: Study): string[] {
  return study.locks.filter((lock) => lock.channel === '').map((lock) => lock.name);
}

/** What was put right about a run, in a sentence. */
function factsInWords(
  run: Run,
  study: Study,
  now: { variant: string; number: number | null; startedAt: string; phases: boolean; more: string[] },
): string {
  const variant = study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
  const mount = (number: number | null) => (number === null ? 'mount unknown' : `mount ${number}`);
  const parts = [
    ...(variant === now.variant ? [] : [`${now.variant} instead of ${variant}`]),
    ...(run.mountNumber === now.number ? [] : [`${mount(now.number)} instead of ${mount(run.mountNumber)}`]),
    ...(run.startedAt === now.startedAt ? [] : [`begun ${now.startedAt} instead of ${beganWords(run, (iso) => iso)}`]),
    ...(now.phases ? ['its phases'] : []),
    ...now.more,
  ];
  return `Run ${run.number} put right: ${parts.length === 0 ? 'nothing changed' : parts.join(', ')}.`;
}

/** What a channel's column is called where samples are written down. */
function channelHead(study: Study, channel: RunChannel): string {
  const spot = study.spots.find(({ id }) => id === channel.spotId);
  const name = spot?.name ?? (channel.role === 'beside' ? channelWords(channel) : channel.role);
  return channel.unit ? `${name}, ${channel.unit}` : name;
}

/** A window shorter than this says nothing that its noise would not. */
const LEAST_WINDOW_S = 30;

/** Whoever counts mounts; told of here and not imported, since mounts rest on runs. */
interface NumbersMounts {
  /** The id of a variant's mount by its number, written down where it is named for the first time. */
  numbered(studyId: string, variantId: string, number: number, madeAt: string): string;
}

/** The record of runs: what they hold, how they are signed off, and everything that is read out of them. */
/** Points a channel of a trace has unless somebody asks for more or fewer. */
export const USUAL_POINTS = 600;
/** What the trace of a run shows. */
const isDrawn = ({ role }: Run['channels'][number]) => role !== 'beside' && role !== 'hand';

export class RunService {
  constructor(
    private readonly store: RunStore,
    private readonly samples: SampleStore,
    private readonly lines: LineStore,
    private readonly studies: StudyService,
    private readonly instruments: InstrumentStore,
    private readonly mounts: NumbersMounts,
    private readonly hand: HandStore,
    private readonly overviews: Overviews,
    private readonly now: () => Date = () => new Date(),
  ) {}

  ofBench(): RunOfBench[] {
    return this.store.ofBench();
  }

  ofStudy(studyId: string): Run[] {
    this.studies.get(studyId);
    return this.store.ofStudy(studyId);
  }

  /** Seconds that loads of the bench's other studies of the same family took to settle. */
  settledLoads(studyId: string): number[] {
    this.studies.get(studyId);
    return this.store.otherStudies(studyId).flatMap(({ runId }) =>
      this.get(runId)
        .phases.filter((phase) => phase.kind === 'load' && phase.endedBy === 'settled' && phase.endS !== null)
        .map((phase) => phase.endS! - phase.startS),
    );
  }

  get(id: string): Run {
    const run = this.store.find(id);
    if (!run) throw notFound('This run');
    return run;
  }

  /**
   * Writes down what the study's own figures came to in a run; what is left out is taken back. At any time: a score is often read off a
   * screenshot days later.
   *
   * @throws HttpProblem 422 for a figure or a load that is not there, or one that is said twice
   */
  ownValues(id: string, values: readonly OwnValue[]): Run {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    const figures = new Map(ownFiguresOf(study).map((figure) => [figure.id, figure]));
    // What was typed of a load that is called otherwise now may stay.
    const loads = new Set([...run.phases.map((phase) => phase.name), ...run.own.map(({ load }) => load)]);
    const seen = new Set<string>();
    values.forEach(({ figureId, load }, i) => {
      const wrong = (sentence: string) => unprocessable(sentence, [{ pointer: `/values/${i}`, sentence }]);
      const figure = figures.get(figureId);
      if (!figure) throw wrong('This figure is not in the study.');
      if (load !== null && !loads.has(load)) throw wrong(`This run has no load called ${load}.`);
      const key = JSON.stringify([figureId, load]);
      if (seen.has(key)) throw wrong(`${figure.name} is given twice.`);
      seen.add(key);
    });
    this.studies.withHistory(
      [study.id],
      () => `Figures of run ${run.number} typed.`,
      () => this.store.setOwnValues(id, values, this.now().toISOString()),
    );
    return this.get(id);
  }

  /** What went over the line of a run on a rig, and what is not there. @throws HttpProblem 409 for a run that came from a file */
  line(id: string): RunLine {
    const run = this.get(id);
    if (run.source !== 'rig') throw conflict('This run came from a file: no line was watched.');
    const entries = this.lines.ofRun(id);
    const recorded = this.store.channels(id).find((channel) => channel.role !== 'hand');
    const { stepS, gaps } = sampleGaps(recorded ? this.samples.read(id, recorded.key).t : []);
    const numbers = (kind: LineKind) =>
      entries.reduce((sum, entry) => sum + (entry.kind === kind ? entry.toSeq! - entry.fromSeq! + 1 : 0), 0);
    const end = { atS: run.lengthS, at: run.endedAt ?? this.now().toISOString() };
    return {
      runId: id,
      lastSeq: this.store.plan(id)?.lastSeq ?? 0,
      missing: numbers('missing'),
      again: numbers('again'),
      stepS,
      gaps,
      entries,
      differs: whereLoadsDiffer(entries, end),
    };
  }

  /** The calibrations that hold on a run's day correct it from its start on. */
  correct(id: string): void {
    const run = this.get(id);
    for (const channel of this.store.channels(id)) {
      const calibration = channel.instrumentChannelId && this.instruments.newestOf(channel.instrumentChannelId, run.startedAt.slice(0, 10));
      if (calibration) this.instruments.correct(id, channel.key, calibration.id, this.now().toISOString());
    }
  }

  signOff(id: string, body: SignOffBody): Run {
    const run = this.get(id);
    if (run.state === 'waiting' || run.state === 'recording') throw conflict('Sign a run off when it has ended.');
    this.store.setDisposition(id, body.disposition, body.reason, this.now().toISOString(), body.by);
    return this.get(id);
  }

  /** Tags one by one, each once. */
  tag(id: string, { tags }: TagsBody): Run {
    this.get(id);
    this.store.setTags(id, tagsOf({ tags }).join(', '));
    return this.get(id);
  }

  /**
   * Puts right what is written down of a run that has ended. Figures are read anew; what stood before is kept, and with the study what it moved.
   *
   * @throws HttpProblem 404 another study's variant or spot, 409 while the run goes on, 422 phases, channels or settings that cannot be
   */
  putRight(id: string, body: RunFactsBody): Run {
    const run = this.get(id);
    if (goesOn(run)) throw conflict('What is written down of a run is put right when it has ended.');
    const study = this.studies.get(run.studyId);
    const variant = study.variants.find((candidate) => candidate.id === (body.variantId ?? run.variantId));
    if (!variant) throw notFound('This variant');
    if (body.phases && run.source !== 'file')
      throw conflict('The phases of this run were run by the bench: choose windows of your own within them.');
    const phases = body.phases ? checkedPhases(body.phases, run.lengthS) : null;
    const startedAt = body.startedAt ? new Date(body.startedAt).toISOString() : run.startedAt;
    const startKnown = run.startKnown || body.startedAt !== undefined;
    const number = body.mount === undefined ? run.mountNumber : body.mount;
    const same = number === run.mountNumber && variant.id === run.variantId;
    const before = this.store.channels(id);
    const channels = channelsPutRight(before, body.channels ?? [], study);
    const settings = settingsPutRight(run, body.settings ?? [], study);
    const more = [...channelsInWords(before, channels, study), ...settingsInWords(run.settings, body)];
    this.studies.withHistory(
      [study.id],
      () => factsInWords(run, study, { variant: variant.name, number, startedAt, phases: phases !== null, more }),
      () => {
        const mountId = same ? run.mountId : number === null ? null : this.mounts.numbered(study.id, variant.id, number, startedAt);
        const made = variant.id === run.variantId ? run.madeAs : madeAs(study, variant.id);
        this.store.putRight(
          id,
          { variantId: variant.id, mountId, startedAt, startKnown, phases, madeAs: made, channels, settings },
          this.now().toISOString(),
        );
        for (const { key, instrumentChannelId } of before)
          if (channels.find((channel) => channel.key === key)!.instrumentChannelId !== instrumentChannelId)
            this.instruments.uncorrect(id, key);
        // Another day may have another calibration.
        this.correct(id);
      },
    );
    return this.get(id);
  }

  /** Finds the phases of a run from a file anew by all that is known of it now; windows that somebody chose within them go before. */
  findPhasesAgain(id: string): void {
    const run = this.get(id);
    if (run.source !== 'file' || run.windows.length > 0) return;
    const found = refoundPhases(run, (key) => this.samples.read(id, key));
    if (!found) return;
    const at = this.now().toISOString();
    this.studies.withHistory(
      [run.studyId],
      () => `Run ${run.number}: ${found.said}, by the log that was added.`,
      () => {
        this.store.setPhases(id, found.phases);
        this.store.addEvent(id, 0, at, 'note', `${capital(found.said)}, by the log that was added: its phases were found anew.`);
      },
    );
  }

  /**
   * When something is said to have happened in a run that has ended.
   *
   * @throws HttpProblem 409 while it goes on or once it is signed off, 422 for a time that lies outside
   */
  private past(run: Run, atS: number): number {
    if (goesOn(run)) throw conflict('This run goes on: what happens now is marked with its own clock.');
    // What was signed off rests on what was written down then.
    if (run.disposition !== 'undecided') throw conflict('This run is signed off as it stands; take the sign-off back first.');
    const wrong = (sentence: string) => unprocessable(sentence, [{ pointer: '/atS', sentence }]);
    if (atS > run.lengthS) throw wrong(`This run ended at ${clock(run.lengthS)}.`);
    return atS;
  }

  /** Writes down of a run that has ended what was missed, or stands on paper. @throws HttpProblem as `past` */
  noteLater(id: string, { kind, text, atS }: NotedBody): Run {
    const run = this.get(id);
    const when = this.past(run, atS);
    this.studies.withHistory(
      [run.studyId],
      () => `Run ${run.number}, noted afterwards at ${clock(when)}: ${text}.`,
      () => this.store.addEvent(id, Math.round(1000 * when), this.now().toISOString(), kind, text),
    );
    return this.get(id);
  }

  /** Takes back what was noted after the end. @throws HttpProblem 404 what was not, 409 once the run is signed off */
  takeBackNote(id: string, eventId: string): Run {
    const run = this.get(id);
    const event = run.events.find((candidate) => candidate.id === eventId);
    if (!event || !notedAfterwards(run, event)) throw notFound('A mark that was typed after the end of this run');
    this.past(run, event.atS);
    this.studies.withHistory(
      [run.studyId],
      () => `Run ${run.number}, taken back: ${event.text}.`,
      () => this.store.removeEvent(id, event, this.now().toISOString()),
    );
    return this.get(id);
  }

  /** Writes down readings that stand on paper, of a run that has ended, all of them or none. @throws HttpProblem as `past`, and as `typedReadings` */
  readLater(id: string, body: NotedReadingsBody): Run {
    const run = this.get(id);
    const when = this.past(run, body.atS);
    const study = this.studies.get(run.studyId);
    const readings = typedReadings(study.spots, body);
    const at = this.now().toISOString();
    readings.forEach(({ spotId }, i) => {
      // One place cannot be read from two things at once.
      if (!run.channels.some((channel) => channel.role === 'spot' && channel.spotId === spotId)) return;
      const sentence = `${study.spots.find((spot) => spot.id === spotId)?.name ?? 'This spot'} was recorded in this run.`;
      throw unprocessable(sentence, [{ pointer: `/readings/${i}/spotId`, sentence }]);
    });
    this.studies.withHistory(
      [study.id],
      () =>
        `Run ${run.number}, read by hand at ${clock(when)}, written down afterwards: ${readings.length} ${readings.length === 1 ? 'reading' : 'readings'}.`,
      () => {
        const missing = readings.filter(({ spotId }) => !run.channels.some((channel) => channel.spotId === spotId));
        this.store.addChannels(id, missing.map(({ spotId }) => handChannel(study, spotId))); // prettier-ignore
        this.hand.add(
          id,
          readings.map((reading) => ({ ...reading, atS: when, at })),
        );
        this.correct(id);
      },
    );
    return this.get(id);
  }

  /**
   * Reads a phase over a window of the tester's own, or over its last minutes again.
   *
   * @throws HttpProblem 409 while the run goes on, 422 where the window lies outside the phase or is too short to read
   */
  setWindow(id: string, phase: number, window: { startS: number; endS: number } | null): Run {
    const run = this.get(id);
    if (run.state === 'waiting' || run.state === 'recording') throw conflict('Windows are chosen when a run has ended.');
    const over = run.phases[phase];
    if (!over) throw notFound('This phase');
    if (window) {
      const endS = over.endS ?? run.lengthS;
      if (window.startS < over.startS || window.endS > endS + 0.5)
        throw unprocessable(`The window lies outside ${over.name}, which goes from ${clock(over.startS)} to ${clock(endS)}.`);
      if (window.endS - window.startS < LEAST_WINDOW_S) throw unprocessable('A window is at least half a minute long.');
    }
    this.store.setWindow(id, phase, window, this.now().toISOString());
    return this.get(id);
  }

  /** Everything that was held and used in a run, by name, for the question what else changed. */
  conditions(id: string): Record<string, string> {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    const variant = study.variants.find((candidate) => candidate.id === run.variantId);
    const plan = this.store.plan(id)!;
    const corrections = this.instruments.correctionsOf(id);
    const sensors = this.store.channels(id).flatMap((channel): [string, string][] => {
      const name =
        channel.role === 'spot' ? study.spots.find((spot) => spot.id === channel.spotId)?.name : channel.role === 'room' ? 'Room' : null;
      const made = corrections.get(channel.key)?.madeOn;
      return name ? [[`Sensor, ${name}`, `${channel.sensor}${made ? `, calibrated ${made}` : ''}`]] : [];
    });
    return {
      Variant: variant?.name ?? '',
      Part: study.subjects.find((subject) => subject.id === variant?.subjectId)?.name ?? '',
      ...(run.mountNumber === null ? {} : { Mount: String(run.mountNumber) }),
      ...run.settings,
      Source: run.source === 'file' ? `recorded log ${run.sourceName}` : run.sourceName,
      ...Object.fromEntries(plan.recipe.map((phase, i) => [`Phase ${i + 1}`, phaseInWords(phase)])),
      ...Object.fromEntries(sensors),
      ...Object.fromEntries(plan.armed.map((limit) => [`Cut-out, ${limit.name}`, `${limit.limitC} °C for ${limit.holdS} s`])),
    };
  }

  /**
   * Samples of every channel in [fromS, toS) as they were read, as pieces of one CSV table; above it whose they are, which sensor read
   * each and which correction readings apply to it.
   */
  samplesCsv(id: string, fromS: number, toS: number): Generator<string> {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    const nameOf = (channel: RunChannel) => channelHead(study, channel);
    const recorded = run.channels.filter((channel) => channel.role !== 'hand');
    const sensors = new Map(this.store.channels(id).map(({ key, sensor }) => [key, sensor]));
    const corrections = this.instruments.correctionsOf(id);
    const facts = [
      `Study: ${study.title}`,
      `Run ${run.number}; variant: ${study.variants.find((variant) => variant.id === run.variantId)?.name ?? 'not in the study any more'}; mount: ${run.mountNumber ?? 'unknown'}`,
      `Begun ${beganWords(run, (iso) => iso)}; ${run.source === 'file' ? `recorded log ${run.sourceName}` : `measured on ${run.sourceName}`}`,
      ...recorded.map((channel) => {
        const correction = corrections.get(channel.key);
        return [
          nameOf(channel),
          ...(sensors.get(channel.key) ? [`sensor ${sensors.get(channel.key)}`] : []),
          ...(channel.head ? [`column ${channel.head}`] : []),
          correction
            ? `calibration of ${correction.madeOn} is applied to readings, not to these numbers: ${correction.points.map(({ indicatedC, referenceC }) => `${indicatedC} is ${referenceC}`).join(', ')} °C`
            : 'no correction',
        ].join('; ');
      }),
    ];
    return samplesTable(this.recorded(id, fromS, toS), { facts, phases: run.phases });
  }

  /** Samples of every channel in [fromS, toS) as they were read, under the names that a table of them has. */
  recorded(id: string, fromS: number, toS: number): NamedSeries[] {
    const run = this.get(id);
    const study = this.studies.get(run.studyId);
    // What is stored comes in whole chunks.
    const within = { startS: fromS, endS: toS };
    return run.channels
      .filter((channel) => channel.role !== 'hand')
      .map((channel) => ({
        name: channelHead(study, channel),
        series: slice(this.samples.read(id, channel.key, fromS, toS), within),
      }));
  }

  /** Channels of a run that has ended whose whole trace is yet to be thinned to about `points`. */
  undrawn(id: string, points: number): string[] {
    const run = this.get(id);
    if (goesOn(run)) return [];
    const keys = run.channels.filter(isDrawn).map(({ key }) => key);
    return this.overviews.missing(id, keys, points);
  }

  /** Keeps whole traces that were thinned elsewhere. */
  keepDrawn(id: string, points: number, drawn: ReadonlyMap<string, Drawn>): void {
    for (const [key, trace] of drawn) this.overviews.put(id, key, points, trace);
  }

  /** Traces for drawing: each channel thinned to about `points`, gaps kept, with a sample beyond each edge of a stretch. */
  trace(id: string, fromS: number, toS: number, points: number): Trace {
    const run = this.get(id);
    const channels = run.channels.filter(isDrawn);
    const within = { startS: fromS, endS: toS };
    const kept = fromS <= 0 && toS === Infinity && !goesOn(run);
    const drawn = (key: string): Drawn =>
      kept
        ? this.overviews.of(id, key, points)
        : // What is stored comes in whole chunks.
          drawable(sliceToEdges(this.samples.read(id, key, fromS, toS), within), points);
    const series = channels.map(({ key, role, spotId, unit }) => ({
      key,
      role,
      spotId,
      unit,
      ...drawn(key),
    }));
    return { runId: id, fromS, toS: Number.isFinite(toS) ? toS : run.lengthS, series };
  }
}
