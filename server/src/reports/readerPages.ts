import { capital, counted, criterionValue, fixed, listWords, type Criterion, type SpotJudgement } from '@red-ember/core';
import type { PairVerdict, Study } from '@red-ember/contract';
import { cautionAt, idleWords, partsOf, rulesWords, stepsOf, type ChoiceTable, type StepCaution } from '@red-ember/study';
import { html, type Html } from './html.ts';
import { paper, paperFoot, paperHead } from './paper.ts';
import { askedLines, spotSection, type ReportInput } from './report.ts';

export interface ReaderPagesInput extends Pick<ReportInput, 'study' | 'verdict' | 'writtenAt' | 'asked' | 'zone'> {
  table: ChoiceTable;
  /** The temperature that was chosen by: a spot of the study's, or the hottest of several. */
  spotId: string;
  /** One variant held against another. */
  verdictOf: (a: string, b: string) => PairVerdict;
}

type ReaderPick = NonNullable<ChoiceTable['made']>['picks'][number];
type Profile = NonNullable<Study['judging']>['profiles'][number];

/** Rows of a reader's table, and things to know, before the whole report has to be opened. */
const MOST = 5;

const valueIn = (criterion: Criterion, value: number): string => `${criterionValue(criterion, value)} ${criterion.unit}`.trim();

/** What counts for a reader, choice by choice, the best first. */
function weighed({ table }: ReaderPagesInput, pick: ReaderPick, { weights }: Profile): Html {
  const weightOf = ({ key }: Criterion) => weights.find(({ criterion }) => criterion === key)?.weight ?? 0;
  const criteria = table.criteria.filter((criterion) => weightOf(criterion) > 0);
  const all = criteria.reduce((sum, criterion) => sum + weightOf(criterion), 0);
  const shown = pick.scores.slice(0, MOST);
  const hidden = pick.scores.length - shown.length;
  return html`<table>
      <thead>
        <tr>
          <th>choice</th>
          ${criteria.map((criterion) => html`<th class="n">${criterion.label} (${fixed((100 * weightOf(criterion)) / all, 0)} %)</th>`)}
          <th class="n">lost</th>
        </tr>
      </thead>
      <tbody>
        ${shown.map(({ id, name, score }) => {
          const { values } = table.choices.find((choice) => choice.id === id)!;
          return html`<tr>
            <td class="${pick.level.includes(name) ? 'strong' : ''}">${name}</td>
            ${criteria.map((criterion) => html`<td class="n">${valueIn(criterion, values[criterion.key]!)}</td>`)}
            <td class="n">${fixed(score, 2)}</td>
          </tr>`;
        })}
      </tbody>
    </table>
    <p class="dim">
      In brackets what each counts for. Lost is what it gives away against the best on all that counts: 0 is best.${hidden > 0 && ` ${counted(hidden, 'choice')} behind these ${hidden === 1 ? 'is' : 'are'} in the whole report.`}${table.made!.without.map(({ name, missing }) => ` ${name} is not weighed: ${listWords(missing)} ${missing.length === 1 ? 'is' : 'are'} not known of it.`)}
    </p>`;
}

/** What holds a pair back or weakens it, the worst first, and what was left out of it. */
function doubts({ judgement, refusal }: PairVerdict): Html {
  const against = [
    ...judgement.blockedBy.map(({ evidence }) => evidence),
    ...judgement.findings.flatMap(({ severity, evidence }) => (severity === 'weakens' ? [evidence] : [])),
    ...judgement.leftOut.map(({ label, reason }) => `Left out: ${label}. ${reason}`),
  ];
  const said = [...new Set(refusal ? [refusal, ...against] : against)];
  const more = said.length - MOST;
  return said.length === 0
    ? html`<p>Nothing was found that weakens this comparison.</p>`
    : html`<ul>
        ${said.slice(0, MOST).map((sentence) => html`<li>${sentence}</li>`)}${more > 0 && html`<li class="dim">${counted(more, 'more such thing')} in the whole report.</li>`}
      </ul>`;
}

/** What the parts and the cards of these variants warn of: of several that are level any may be put on. */
function cautions(study: Study, variantIds: readonly string[]): Html | null {
  const variants = study.variants.filter(({ id }) => variantIds.includes(id));
  const conducting = study.parts.filter((part) => part.conductive && variants.some((variant) => partsOf(study, variant).includes(part)));
  const keys = new Set<StepCaution>([
    ...variants.flatMap((variant) =>
      (['off', 'on'] as const).flatMap((when) => stepsOf(study, variant, when).map(({ caution }) => caution)),
    ),
    ...(conducting.length > 0 ? (['conductive'] as const) : []),
  ]);
  // Here no step stands beside it that would say what it is.
  const it = `${listWords(conducting.map(({ name }) => name))} ${conducting.length === 1 ? 'conducts' : 'conduct'}`;
  const said = [...keys].flatMap((key) => cautionAt(key)?.text.replace(/^It conducts/, conducting.length > 0 ? capital(it) : '$&') ?? []);
  return said.length === 0
    ? null
    : html`<h2>Before it is put on</h2>
        <ul>
          ${said.map((text) => html`<li>${text}</li>`)}
        </ul>`;
}

/** What stands against what: the choice against the reference, the reference against the next best. */
function held(study: Study, pick: ReaderPick): [string, string] | null {
  const [first, second] = pick.scores;
  const reference = study.variants.find(({ isReference }) => isReference)?.id;
  if (!first) return null;
  if (reference && first.id !== reference && pick.scores.some(({ id }) => id === reference)) return [reference, first.id];
  return second ? [second.id, first.id] : null;
}

/** Why two are level for a reader to whom temperature counts, and yet called apart by themselves; null where they are not. */
function levelYetCalled({ study, table }: ReaderPagesInput, pick: ReaderPick, { weights }: Profile, spot: SpotJudgement): string | null {
  const counts = table.criteria.some(({ key }) => key === 'temperature') && weights.some(({ criterion, weight }) => criterion === 'temperature' && weight > 0); // prettier-ignore
  if (!counts || (spot.call.kind !== 'cooler' && spot.call.kind !== 'warmer')) return null;
  const { practicalK } = study.rules;
  if (Math.abs(spot.comparison!.difference.value) <= practicalK)
    return `These two are told apart, by less than the ${fixed(practicalK, 1)} K that count here.`;
  return pick.scores.length > 2
    ? `By themselves these two are told apart; among ${counted(pick.scores.length, 'choice')} held against each other at once they are not, since with so many some pair differs by chance.`
    : null;
}

/** @param index of the page: what is drawn on two must not share a name */
function readerPage(input: ReaderPagesInput, pick: ReaderPick, profile: Profile, index: number): Html {
  const { study } = input;
  const sides = held(study, pick);
  const pair = sides && input.verdictOf(...sides);
  const spot = pair?.judgement.spots.find(({ spotId }) => spotId === input.spotId) ?? pair?.judgement.spots[0];
  const idle = idleWords(input.table, profile.weights);
  const level = sides?.every((id) => pick.scores.some((score) => score.id === id && pick.level.includes(score.name)));
  const yet = level && spot?.spotId === input.spotId ? levelYetCalled(input, pick, profile, spot) : null;
  return html`<section class="sheet">
    ${paperHead(input)}
    <h1>${profile.name}: ${pick.level.join(' or ')}.</h1>
    <p>${capital(pick.because)}</p>
    ${askedLines(input.asked)}
    <h2>What counts here</h2>
    ${weighed(input, pick, profile)}${idle !== '' && html`<p class="strong">${idle}</p>`}
    ${
      pair &&
      html`<h2>Held against ${pair.judgement.a.name}</h2>
        <p>${pair.refusal ?? pair.sentence.map((segment) => html`<span class="${segment.tone}">${segment.text}</span>`)}</p>
        ${!pair.refusal && spot && (spot.a || spot.b) && spotSection({ study, verdict: pair }, spot, index)}
        ${yet && html`<p class="strong">${yet}</p>`}
        <p class="dim">${rulesWords(study)}</p>
        <h2>To be known beside it</h2>
        ${doubts(pair)}`
    }
    ${cautions(
      study,
      pick.scores.filter(({ name }) => pick.level.includes(name)).map(({ id }) => id),
    )}${paperFoot}
  </section>`;
}

/** A page that chooses nothing: the verdict as it stands, and why there is no more to it. */
const plainPage = (input: ReaderPagesInput, why: string, index: number, heading?: string): Html =>
  html`<section class="sheet">
    ${paperHead(input)}
    ${heading && html`<h1>${heading}</h1>`}
    <p class="${heading ? 'strong' : 'dim'}">${why}</p>
    ${askedLines(input.asked)}
    <h2>What the runs say</h2>
    <p>${input.verdict.refusal ?? input.verdict.sentence.map((segment) => html`<span class="${segment.tone}">${segment.text}</span>`)}</p>
    ${
      !input.verdict.refusal &&
      input.verdict.judgement.spots
        .filter((spot) => spot.a ?? spot.b)
        .slice(0, 3)
        .map((spot, i) => spotSection(input, spot, index + i))
    }
    <p class="dim">${rulesWords(input.study)}</p>
    <h2>To be known beside it</h2>
    ${doubts(input.verdict)}${paperFoot}
  </section>`;

/** The short form: a page for each reader, with what that reader would take and what is known against it. */
export function readerPages(input: ReaderPagesInput, profiles: readonly Profile[]): string {
  const { table, study } = input;
  const pageOf = (profile: Profile, index: number): Html => {
    const pick = table.made?.picks.find((made) => made.profile === profile.name && made.scores.length > 0);
    const why = idleWords(table, profile.weights) || `Nothing is chosen yet: ${table.refusal ?? 'nothing counts for this reader'}.`;
    return pick
      ? readerPage(input, pick, profile, 10 * index)
      : plainPage(input, why, 10 * index, `${profile.name}: nothing to choose by.`);
  };
  const nobody = `${table.refusal ? `Nothing is chosen for anyone yet: ${table.refusal}` : 'Nobody to choose for is written down'}.`;
  const pages = table.refusal || profiles.length === 0 ? [plainPage(input, nobody, 0)] : profiles.map(pageOf);
  return paper(`${study.title}: a page for each reader`, html`${pages}`);
}
