import {
  callWords,
  fixed,
  InsufficientDataError,
  ladderSteps,
  measured,
  meanOutcome,
  outcomeKeys,
  outcomeKind,
  rankLineUp,
  reachWords,
  type LineUp,
} from '@red-ember/core';
import { type Study } from '@red-ember/contract';
import { definitionOf, usualSpotId } from '@red-ember/study';
import { html, type Html } from './html.ts';

const unitOf = (study: Study) => (study.rules.basis === 'rise' ? 'K' : '°C');

/** Nothing where there is too little to say; any other trouble is one. */
function orNothing<T>(make: () => T): T | null {
  try {
    return make();
  } catch (error) {
    if (error instanceof InsufficientDataError) return null;
    throw error;
  }
}

/** All variants ranked, with groups that cannot be told apart; nothing where fewer than three have a reading. */
export function rankingSection(study: Study, field: LineUp): Html | null {
  const spotId = usualSpotId(study);
  const ranking = orNothing(() => rankLineUp(field, { spotId }));
  if (!ranking || ranking.sides.length < 3) return null;
  const sideOf = (id: string) => field.sides.find((side) => side.variantId === id)!;
  const beside = outcomeKeys(field.rules).filter((key) => field.sides.some((side) => meanOutcome(side, key) !== null));
  const name = definitionOf(study, spotId)?.name ?? '';
  return html`<h2>All variants by ${name}</h2>
    <table>
      <thead>
        <tr>
          <th>variant</th>
          <th class="n">runs</th>
          <th class="n">${study.rules.basis === 'rise' ? 'rise' : 'temperature'}</th>
          <th>group</th>
          ${beside.map((key) => html`<th class="n">${outcomeKind(key, field.rules).label}, ${outcomeKind(key, field.rules).unit || (field.rules.throughputUnit ?? '')}</th>`)}
        </tr>
      </thead>
      <tbody>
        ${ranking.sides.map((ranked) => {
          const side = sideOf(ranked.variantId);
          return html`<tr>
            <td>${ranked.name}</td>
            <td class="n">${ranked.runs}</td>
            <td class="n">${measured(ranked.mean, ranked.halfWidth, unitOf(study))}</td>
            <td>${ranked.groups}</td>
            ${beside.map((key) => {
              const value = meanOutcome(side, key);
              return html`<td class="n">${value === null ? '' : fixed(value, outcomeKind(key, field.rules).decimals)}</td>`;
            })}
          </tr>`;
        })}
      </tbody>
    </table>
    <p class="dim">
      Two that share a letter cannot be told apart with these runs: each pair as it is judged by itself${ranking.assumed ? ', with an assumed spread between mounts where this bench has shown too little of it' : ''}, corrected for their number by Holm.${ranking.blockedBy.map((found) => html` Ranked apart, because they must not be compared: ${found.evidence}`)}${ranking.withheldBy.map((found) => html` Not called: ${found.evidence}`)}${ranking.without.length > 0 && html` Without a reading: ${ranking.without.join('; ')}.`}
    </p>`;
}

/** The loads of one variant's runs, step by step, at every spot; nothing where a run has only one. */
export function stepsSection(study: Study, name: string, field: LineUp): Html | null {
  const order = field.sides.filter((side) => side.workRuns.length > 0).map((side) => side.variantId);
  const ladders = study.spots.flatMap((spot) => {
    const steps = orNothing(() => ladderSteps(field, order, spot.id));
    return steps && steps.some((step) => step.value !== null) ? [{ spot, steps }] : [];
  });
  if (ladders.length === 0) return null;
  return html`<h2>Load by load, ${name}</h2>
    <table>
      <thead>
        <tr>
          <th>load</th>
          ${ladders.map(({ spot }) => html`<th class="n">${spot.name}</th>`)}
        </tr>
      </thead>
      <tbody>
        ${order.map(
          (_, i) =>
            html`<tr>
              <td>${ladders[0]!.steps[i]!.name}</td>
              ${ladders.map(({ steps }) => {
                const { value, step, call, reach, fanHeld } = steps[i]!;
                const held = fanHeld && `fan held, calculated: ${measured(fanHeld.value, 2 * fanHeld.u, 'K', { sign: true })}`;
                const change =
                  step &&
                  `${reachWords(reach)}${measured(step.difference.value, step.budget.expanded, 'K', { sign: true })}, ${callWords(call!).words}`;
                return html`<td class="n">${value === null ? 'not free' : `${fixed(value, 1)} ${unitOf(study)}`}${change && html`<br /><small>${change}</small>`}${held && html`<br /><small>${held}</small>`}</td>`;
              })}
            </tr>`,
        )}
      </tbody>
    </table>
    <p class="dim">The small figure is the change against the load before it.</p>`;
}
