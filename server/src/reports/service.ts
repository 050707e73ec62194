import { asFileName, drawable, inDegrees, namesWithDegrees, riseOverAmbient, textsIn, type Degrees } from '@red-ember/core';
import { goesOn, type Run, type Study, type StudyLineUp } from '@red-ember/contract';
import { blankJudging, choiceTable, definitionOf, usualSpotId } from '@red-ember/study';
import type { MountService } from '../mounts/service.ts';
import type { ReadingService } from '../readings/service.ts';
import type { RunService } from '../runs/service.ts';
import type { StudyService } from '../studies/service.ts';
import type { JudgeChange, VerdictService } from '../verdicts/service.ts';
import { csvTable } from '../samples/csv.ts';
import type { FigureTrace } from './figures.ts';
import { eachText, escaped } from './html.ts';
import { readerPages } from './readerPages.ts';
import { readingsTable, reportPage, type ReportInput } from './report.ts';

const TRACE_POINTS = 300;

/** What a report is about: the same that a page of Judge is asked for. */
export interface ReportAsk {
  a?: string | undefined;
  b?: string | undefined;
  change?: JudgeChange;
}

/** What every form of a report rests on. */
type Judged = Omit<ReportInput, 'readings' | 'traces' | 'loads'> & Pick<StudyLineUp, 'several'>;

/** Puts a study's results into files that need nothing else to be read. */
export class ReportService {
  constructor(
    private readonly studies: StudyService,
    private readonly runs: RunService,
    private readonly mounts: MountService,
    private readonly readings: ReadingService,
    private readonly verdicts: VerdictService,
    private readonly now: () => Date = () => new Date(),
  ) {}

  /** @param shown in which degrees its temperatures are said, what the tester typed staying as it was typed, and in which zone its times */
  page(
    studyId: string,
    asked: ReportAsk = {},
    { degrees = 'C', zone = 'UTC', form = 'whole' }: { degrees?: Degrees; zone?: string; form?: 'whole' | 'short' } = {},
  ): { name: string; text: string } {
    const input = this.judged(studyId, asked);
    const page = form === 'short' ? this.short(input, asked, zone) : reportPage({ ...this.withReadings(input), degrees, zone });
    const names = degrees === 'C' ? [] : namesWithDegrees(textsIn([input.study, input.runs, input.mounts])).map(escaped);
    const text = degrees === 'C' ? page : eachText(page, (piece) => inDegrees(piece, degrees, names));
    const called = form === 'short' ? `${input.study.title}, a page for each reader` : input.study.title;
    return { name: `${asFileName(called, 'study')}.html`, text };
  }

  private short({ study, verdict, field, writtenAt, asked }: Judged, { change = {} }: ReportAsk, zone: string): string {
    const spotId = usualSpotId(study);
    const judging = study.judging ?? blankJudging();
    const table = choiceTable(study, judging, { field, spotId, name: definitionOf(study, spotId)?.name ?? 'temperature' });
    const verdictOf = (a: string, b: string) => this.verdicts.pair(study.id, a, b, change);
    return readerPages({ study, verdict, writtenAt, asked, zone, table, spotId, verdictOf }, judging.profiles);
  }

  csv(studyId: string, asked: ReportAsk = {}): { name: string; text: string } {
    const input = this.judged(studyId, asked);
    const { header, rows } = readingsTable(this.withReadings(input));
    return { name: `${asFileName(input.study.title, 'study')} readings.csv`, text: csvTable(header, rows) };
  }

  private judged(studyId: string, { a, b, change = {} }: ReportAsk): Judged {
    const study = this.studies.get(studyId);
    const runs = this.runs.ofStudy(studyId).filter((run) => run.purpose === 'measure' && !goesOn(run));
    const verdict = this.verdicts.pair(studyId, a, b, change);
    const { field, several } = this.verdicts.lineUp(studyId, change);
    return {
      study,
      runs,
      mounts: this.mounts.ofStudy(studyId),
      verdict,
      field,
      several,
      writtenAt: this.now(),
      asked: change,
    };
  }

  /** With every reading and trace, of which the short form needs none. */
  private withReadings({ several, ...judged }: Judged): ReportInput {
    const { study, runs, verdict } = judged;
    return {
      ...judged,
      readings: runs.map((run) => this.readings.readings(run.id)),
      traces: this.traces(study, runs, verdict.judgement),
      loads: several.map(({ id, name }) => ({ name, field: this.verdicts.lineUp(study.id, {}, id).field })),
    };
  }

  /** The spot that differs most, one run of each side. */
  private traces(study: Study, runs: Run[], judgement: ReportInput['verdict']['judgement']): ReportInput['traces'] {
    const size = (id: string) => Math.abs(judgement.spots.find((spot) => spot.spotId === id)?.comparison?.difference.value ?? 0);
    const spot = [...study.spots].sort((p, q) => size(q.id) - size(p.id))[0];
    if (!spot) return null;
    const cooler = judgement.spots.find((entry) => entry.spotId === spot.id)?.comparison?.verdict === 'b-cooler';
    const lines = (
      [
        ['a', 'stone'],
        ['b', cooler ? 'quench' : 'ember'],
      ] as const
    ).flatMap(([side, tone]): FigureTrace[] => {
      const run = runs.find((candidate) => candidate.id === judgement[side].runIds[0]);
      const channel = run?.channels.find((candidate) => candidate.spotId === spot.id);
      const room = run?.channels.find((candidate) => candidate.role === 'room');
      if (!run || !channel) return [];
      const series = this.readings.corrected(run, channel.key);
      const shown = study.rules.basis === 'rise' && room ? riseOverAmbient(series, this.readings.corrected(run, room.key)) : series;
      return [{ name: `${judgement[side].name}, run ${run.number}`, tone, dash: side === 'a', ...drawable(shown, TRACE_POINTS) }];
    });
    return { spotName: spot.name, lines };
  }
}
