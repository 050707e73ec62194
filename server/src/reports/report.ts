import {
  adviceWords,
  callWords,
  likelyWords,
  capital,
  counted,
  clock,
  duration,
  fixed,
  measured,
  phaseInWords,
  recipeLengthS,
  shownStep,
  shownTemperature,
  type CallWords,
  type Degrees,
  type Evidence,
  type LineUp,
  type SideFigure,
  type SpotJudgement,
  headroomWords,
  mountsInWords,
  settledWords,
} from '@red-ember/core';
import { type LockBody, type Mount, type PairVerdict, type Run, type RunReadings, type Study } from '@red-ember/contract';
import {
  beganWords,
  askedWords,
  definitionOf,
  EVIDENCE_WORDS,
  familyOf,
  lockValue,
  rulesWords,
  sinceMade,
  type RestatementName,
} from '@red-ember/study';
import { projected, stripFigure, traceFigure, type FigureTrace, type Tone } from './figures.ts';
import { html, type Html } from './html.ts';
import { paper, paperFoot, paperHead, timeIn } from './paper.ts';
import { rankingSection, stepsSection } from './allVariants.ts';

export interface ReportInput {
  study: Study;
  runs: Run[];
  mounts: Mount[];
  readings: RunReadings[];
  verdict: PairVerdict;
  traces: { spotName: string; lines: FigureTrace[] } | null;
  /** All variants side by side, and of each whose runs have several loads these. */
  field: LineUp;
  loads: { name: string; field: LineUp }[];
  writtenAt: Date;
  /** How the figures were asked for otherwise than they stand. */
  asked: {
    load?: string | undefined;
    restate?: RestatementName | undefined;
    signedOffOnly?: boolean | undefined;
    evidence?: Evidence | undefined;
  };
  /** In which its figures are drawn; C where nothing is said. */
  degrees?: Degrees;
  /** In which its times stand, by name; UTC where nothing is said. */
  zone?: string;
}

const TONES: Record<CallWords['tone'], Tone> = { cooler: 'quench', warmer: 'ember', plain: 'stone' };
const toneOf = (spot: SpotJudgement): Tone => TONES[callWords(spot.call).tone];

/** How the figures were asked for otherwise than they stand, and by which weight of evidence they are called. */
export const askedLines = (asked: ReportInput['asked']): Html =>
  html`${askedWords(asked) !== '' && html`<p class="strong">Figures ${askedWords(asked)}.</p>`}${asked.signedOffOnly && html`<p class="strong">Signed-off runs only.</p>`}
    <p class="${asked.evidence === 'usual' ? 'strong' : 'dim'}">Evidence: ${EVIDENCE_WORDS[asked.evidence ?? 'strict']}.</p>`;

/** Both sides of one spot as strips, with the call. */
export function spotSection(input: Pick<ReportInput, 'study' | 'verdict'>, spot: SpotJudgement, index: number): Html {
  const { study, verdict } = input;
  const { a, b, roomC } = verdict.judgement;
  const definition = definitionOf(study, spot.spotId)!;
  const row = (side: SideFigure | null, name: string, tone: Tone, id: string) => {
    if (!side)
      return html`<tr>
        <td>${name}</td>
        <td colspan="4">${spot.refusal ?? 'no reading'}</td>
      </tr>`;
    const restated = projected(side, roomC, study.enclosure.airC, study.enclosure.powerTempCo);
    return html`<tr>
      <td>${name}</td>
      <td>${stripFigure(side, roomC, definition.limitC, restated, tone, id)}</td>
      <td class="n">${measured(side.figure.value, side.doubtK, study.rules.basis === 'rise' ? 'K' : '°C')}</td>
      <td class="n">${headroomWords(definition.limitC - side.spotC)}</td>
      <td class="n">${restated === null ? 'runs away' : `${fixed(restated, 1)} °C`}</td>
    </tr>`;
  };
  const comparison = spot.comparison;
  return html`<section class="spot">
    <h3>${definition.name} <small>limit ${definition.limitC} °C, ${definition.limitSource}; read by ${definition.sensor}</small></h3>
    <table class="strips">
      <thead>
        <tr>
          <th></th>
          <th>room ${fixed(roomC, 1)} °C to limit</th>
          <th class="n">${study.rules.basis === 'rise' ? 'rise' : 'temperature'}</th>
          <th class="n">headroom</th>
          <th class="n">at ${study.enclosure.airC} °C air</th>
        </tr>
      </thead>
      <tbody>
        ${row(spot.a, a.name, 'stone', `a${index}`)}${row(spot.b, b.name, toneOf(spot), `b${index}`)}
      </tbody>
    </table>
    ${comparison && html`<p class="call ${toneOf(spot)}">${measured(comparison.difference.value, comparison.budget.expanded, 'K', { sign: true })}, ${callWords(spot.call, b.name).words}</p>`}
    ${comparison && spot.call.kind === 'no-call' && html`<p class="dim">${capital(likelyWords(spot.call, study.rules.practicalK))}. ${adviceWords(comparison)}</p>`}
  </section>`;
}

function readingRows(input: ReportInput): Html[] {
  return input.runs.flatMap((run) => {
    const readings = input.readings.find((candidate) => candidate.runId === run.id);
    const variant = input.study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
    return (readings?.review.spots ?? []).map((spot) => {
      const name = input.study.spots.find((candidate) => candidate.id === spot.spotId)?.name ?? '';
      const rise = (reading: typeof spot.load) =>
        reading?.rise ? measured(reading.rise.mean.value, 2 * reading.rise.mean.u, 'K') : 'not read';
      const state = spot.load ? settledWords(spot.load) : '';
      return html`<tr>
        <td>run ${run.number}, ${variant}</td>
        <td>${name}</td>
        <td class="n">${rise(spot.idle)}</td>
        <td class="n">${rise(spot.load)}</td>
        <td class="n">${spot.load ? `${fixed(spot.load.absolute.mean.value, 1)} °C` : ''}</td>
        <td class="n">${spot.load ? `${fixed(spot.load.peakC, 1)} °C` : ''}</td>
        <td>${state}</td>
        <td class="n">${spot.load ? `${clock(spot.load.window.startS)} to ${clock(spot.load.window.endS)}${spot.load.chosen ? ', chosen' : ''}` : ''}</td>
        <td class="n">${spot.load?.spikes ?? ''}</td>
      </tr>`;
    });
  });
}

/** Whether a run stands in the results of this report, and why not where it does not. */
function usedWords({ verdict, field }: ReportInput, run: Run): string {
  const { a, b, leftOut } = verdict.judgement;
  if (run.state === 'failed') return `not used: ${run.endReason || 'it failed'}`;
  const all = [...leftOut, ...field.sides.flatMap((side) => side.leftOut)];
  const left = all.find((entry) => entry.runId === run.id);
  if (left) return `left out: ${left.reason}`;
  const by = run.dispositionBy === '' ? '' : `, ${run.dispositionBy}`;
  const signed = run.disposition === 'undecided' ? 'used' : `${run.disposition}${by}`;
  if ([...a.runIds, ...b.runIds].includes(run.id)) return signed;
  return field.sides.some((side) => side.runs.some((entry) => entry.id === run.id)) ? `${signed}, not in this pair` : 'not used';
}

/** What was set and written down for this run, firmware among it. */
const settingsWords = ({ settings }: Run): string =>
  Object.entries(settings)
    .map(([name, value]) => `${name}: ${value}`)
    .join('; ');

function runRow(input: ReportInput, run: Run): Html {
  const mount = run.mountNumber === null ? 'from a file' : `mount ${run.mountNumber}`;
  const review = input.readings.find((candidate) => candidate.runId === run.id)?.review;
  const since = sinceMade(run.madeAs, input.study, run.variantId);
  return html`<tr>
    <td>${run.number}</td>
    <td>${input.study.variants.find((variant) => variant.id === run.variantId)?.name ?? ''}</td>
    <td>${mount}</td>
    <td>${beganWords(run, (iso) => timeIn(new Date(iso), input.zone ?? 'UTC'))}</td>
    <td class="n">${duration(run.lengthS)}</td>
    <td class="n">${review?.room ? `${fixed(review.room.minC, 1)} to ${fixed(review.room.maxC, 1)} °C` : 'not recorded'}</td>
    <td>${usedWords(input, run)}</td>
  </tr>
  ${
    Object.keys(run.settings).length > 0 &&
    html`<tr class="under">
      <td></td>
      <td colspan="6">${settingsWords(run)}</td>
    </tr>`
  }
  ${
    since.length > 0 &&
    html`<tr class="under">
      <td></td>
      <td colspan="6">${since.join(' ')}</td>
    </tr>`
  }`;
}

function scatterWords(known: { sd: number }[]): string {
  const [least, most] = [Math.min(...known.map((one) => one.sd)), Math.max(...known.map((one) => one.sd))].map((sd) => fixed(sd, 2));
  return least === most ? least! : `${least} to ${most}`;
}

/** At what a lock was held, with the parts that needed another value: boards differ in what holds one voltage. */
function lockWords(study: Study, lock: LockBody): string {
  const others = lock.overrides.map((override) => {
    const name = study.subjects.find((subject) => subject.id === override.subjectId)?.name ?? 'another part';
    return `${name} ${lockValue(lock, override.subjectId)}`;
  });
  const watch = lock.channel ? ` ± ${lock.tolerance ?? 0}, watched by ${lock.channel}` : '';
  return `${lock.name}: ${lockValue(lock, '')}${watch}${others.length > 0 ? ` (${others.join(', ')})` : ''}`;
}

/** One run of each side, in the degrees of the page. */
function traces({ study, degrees = 'C' }: ReportInput, { spotName, lines }: NonNullable<ReportInput['traces']>): Html {
  const rise = study.rules.basis === 'rise';
  const shown = (value: number | null) => (value === null ? null : rise ? shownStep(value, degrees) : shownTemperature(value, degrees));
  const unit = degrees === 'F' ? '°F' : rise ? 'K' : '°C';
  const shownLines = degrees === 'C' ? lines : lines.map((line) => ({ ...line, y: Array.from(line.y, shown) }));
  return traceFigure(`${spotName}, ${rise ? 'rise over room' : 'temperature'}`, shownLines, unit);
}

/** One self-contained page: verdict, figures as inline SVG, readings, conditions, caveats and method. */
export function reportPage(input: ReportInput): string {
  const { study, verdict } = input;
  const { judgement } = verdict;
  const { rules } = study;
  const length = recipeLengthS(study.recipe);
  const known = judgement.spots.flatMap((spot) => spot.repeatability ?? []);
  const findings = judgement.findings.filter((finding) => finding.severity !== 'note');
  const notes = judgement.findings.filter((finding) => finding.severity === 'note');
  return paper(
    `${study.title}: report`,
    html`${paperHead(input)}
        <h1>${verdict.refusal ?? verdict.sentence.map((segment) => html`<span class="${segment.tone}">${segment.text}</span>`)}</h1>
        <p class="dim">
          ${rulesWords(study)} · ${[judgement.a, judgement.b]
            .filter((side) => side.name !== '')
            .map((side) => `${side.name}: ${counted(side.runIds.length, 'run')}, ${mountsInWords(side.mounts)}`)
            .join(' · ')}
        </p>
        ${askedLines(input.asked)}
        ${verdict.elsewhere && html`<p class="dim">The other study is “${verdict.elsewhere.title}”; its figures are read by the rules of this one, its runs are listed there.</p>`}
        <h2>Question, claim and expectation</h2>
        <p>${study.question || 'No question was written down.'}</p>
        ${verdict.claims.length > 0 ? verdict.claims.map((claim) => html`<p>${claim.of ? `${capital(claim.of)}: ` : ''}${claim.sentence}</p>`) : html`<p>No claim was written down.</p>`}
        ${verdict.predictions.map((prediction, i) => html`<p>Before the runs${prediction.of ? `, ${prediction.of}` : ''}: ${prediction.sentence}${study.predictions[i]?.text && html` Reason given: ${study.predictions[i].text}`}</p>`)}
        <h2>Compared</h2>
        ${verdict.refusal ? html`<p>${verdict.refusal}</p>` : judgement.spots.map((spot, i) => spotSection(input, spot, i))}
        ${input.traces && traces(input, input.traces)}
        <p class="dim">
          Strips run from room air at the left to the limit at the right: bar, the part; soft end, ${fixed(100 * rules.coverage, 1)} % doubt; white notch, idle; dashed
          outline, restated for ${study.enclosure.name} air of ${study.enclosure.airC} °C (calculated, not
          measured${study.enclosure.powerTempCo > 0 ? `; heat grows by ${study.enclosure.powerTempCo} per kelvin` : ''}).
        </p>
        ${rankingSection(study, input.field)}${input.loads.map(({ name, field }) => stepsSection(study, name, field))}
        <h2>Caveats</h2>
        ${
          findings.length === 0 && judgement.leftOut.length === 0
            ? html`<p>Nothing was found that weakens the comparison.</p>`
            : html`<ul>
                ${judgement.leftOut.map((entry) => html`<li><b>Left out: ${entry.label}.</b> ${entry.reason}</li>`)}${findings.map((finding) => html`<li>${finding.evidence} ${finding.remedy}</li>`)}
              </ul>`
        }
        ${notes.length > 0 && html`<p>${notes.map((finding) => `${finding.evidence} `)}</p>`}
        ${known.length > 0 && html`<p>Spread between mounts ${known.some((one) => one.assumed) ? 'assumed in part, since the bench has shown too little of it' : 'as the bench shows it elsewhere'}: ${scatterWords(known)} K.</p>`}
        <h2>Readings</h2>
        <table>
          <thead>
            <tr>
              <th>run</th>
              <th>spot</th>
              <th class="n">idle rise</th>
              <th class="n">load rise</th>
              <th class="n">load</th>
              <th class="n">peak</th>
              <th>state</th>
              <th class="n">window of the load</th>
              <th class="n">spikes</th>
            </tr>
          </thead>
          <tbody>
            ${readingRows(input)}
          </tbody>
        </table>
        <p class="dim">
          ± is twice the standard uncertainty of the window's mean, allowing for correlated samples; sensor accuracy and scatter between
          runs are in the comparison above.
        </p>
        <h2>Runs</h2>
        <table>
          <thead>
            <tr>
              <th>no.</th>
              <th>variant</th>
              <th>mount</th>
              <th>started (${input.zone ?? 'UTC'})</th>
              <th class="n">length</th>
              <th class="n">room in window</th>
              <th>used</th>
            </tr>
          </thead>
          <tbody>
            ${input.runs.map((run) => runRow(input, run))}
          </tbody>
        </table>
        <h2>Conditions</h2>
        ${study.subjects.map((subject) => html`<p>${subject.name}. ${subject.details}</p>`)}
        <ul>
          ${study.locks.map((lock) => html`<li>${lockWords(study, lock)}</li>`)}
          <li>Room band ${rules.roomMinC} to ${rules.roomMaxC} °C</li>
          <li>
            Recipe:
            ${study.recipe.map(phaseInWords).join('; ')}
            (${duration(length.leastS)} to ${duration(length.mostS)})
          </li>
        </ul>
        <table>
          <thead>
            <tr>
              <th>spot</th>
              <th>place</th>
              <th>class</th>
              <th>limit</th>
              <th>source</th>
              <th>sensor</th>
              <th class="n">accuracy</th>
              <th class="n">resolution</th>
            </tr>
          </thead>
          <tbody>
            ${study.spots.map(
              (spot) =>
                html`<tr>
                  <td>${spot.name}</td>
                  <td>${spot.place}</td>
                  <td>${spot.componentClass}</td>
                  <td>${spot.limitC} °C</td>
                  <td>${spot.limitSource}</td>
                  <td>${spot.sensor}</td>
                  <td class="n">± ${spot.accuracyK} K</td>
                  <td class="n">${spot.resolutionK} K</td>
                </tr>`,
            )}
          </tbody>
        </table>
        <h2>Method</h2>
        <p>
          Readings are means over the last five minutes of a phase, or over the window that was chosen for it, with spikes left out (Hampel identifier). Rise is taken sample by sample
          against the room probe. Settled means that the slope over five minutes, with its doubt, and what a fitted exponential approach
          says remains are both within 0.5 K. The doubt of a mean allows for correlated samples (Geyer). Differences are compared at
          ${fixed(100 * rules.coverage, 1)} % by Student's t (Welch, or pooled with the bench's history where there is one); sensor
          accuracy cancels where one sensor stays in one place, resolution does not. An interval inside ± ${rules.practicalK} K is called
          equivalent. Method version ${input.readings[0]?.review.methodVersion ?? 'none'}.
        </p>
        ${paperFoot}`,
  );
}

export function readingsTable(input: Pick<ReportInput, 'study' | 'runs' | 'readings' | 'verdict'>): {
  header: string[];
  rows: (string | number | null)[][];
} {
  const header = [
    'run',
    'variant',
    'mount',
    'started',
    'spot',
    'sensor',
    'idle rise K',
    'idle u K',
    'load rise K',
    'load u K',
    'load C',
    'peak C',
    'n effective',
    'state',
    'settled at s',
    'spikes',
    'room mean C',
    `throughput ${familyOf(input.study.family).throughputUnit}`,
    'power W',
    'disposition',
    'signed off by',
    'left out because',
  ];
  const rows = input.runs.flatMap((run) => {
    const review = input.readings.find((candidate) => candidate.runId === run.id)?.review;
    const variant = input.study.variants.find((candidate) => candidate.id === run.variantId)?.name ?? '';
    const left = input.verdict.judgement.leftOut.find((entry) => entry.runId === run.id)?.reason ?? '';
    const round = (value: number | null | undefined, decimals = 3) => (value == null ? null : Number(value.toFixed(decimals)));
    return (review?.spots ?? []).map((spot) => {
      const definition = input.study.spots.find((candidate) => candidate.id === spot.spotId);
      const { idle, load } = spot;
      return [
        run.number,
        variant,
        run.mountNumber,
        run.startKnown ? run.startedAt : null,
        definition?.name ?? '',
        definition?.sensor ?? '',
        round(idle?.rise?.mean.value),
        round(idle?.rise?.mean.u),
        round(load?.rise?.mean.value),
        round(load?.rise?.mean.u),
        round(load?.absolute.mean.value),
        round(load?.peakC),
        round((load?.rise ?? load?.absolute)?.nEffective, 1),
        load?.bound ?? '',
        load?.settling.atS ?? null,
        load?.spikes ?? null,
        round(review?.room?.meanC),
        round(review?.performance?.value, 1),
        round(review?.power?.value),
        run.disposition,
        run.dispositionBy,
        left,
      ];
    });
  });
  return { header, rows };
}
