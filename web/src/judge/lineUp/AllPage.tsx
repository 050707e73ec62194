import { Link } from 'react-router';
import {
  counted,
  fixed,
  InsufficientDataError,
  listWords,
  measured,
  meanOutcome,
  outcomeKeys,
  outcomeKind,
  rankLineUp,
  headroomWords,
  inBothAirs,
  type Ranking,
  midSentence,
} from '@red-ember/core';
import { type Study } from '@red-ember/contract';
import { definitionOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { DataTable } from '../../ui/DataTable.tsx';
import { columnsFor, type ColumnOf } from '../../ui/tableColumns.ts';
import { Notice } from '../../ui/Notice.tsx';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Section } from '../../ui/Section.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { LineUpSheet } from './LineUpSheet.tsx';
import { IntervalPlot } from './IntervalPlot.tsx';
import { Term } from '../../words/Term.tsx';
import { useLineUp, type LineUpView } from './useLineUp.ts';

function rankingOf(view: LineUpView): Ranking | string {
  try {
    return rankLineUp(view.data!.field, view.key);
  } catch (error) {
    if (error instanceof InsufficientDataError) return error.message;
    throw error;
  }
}

function headingOf(ranking: Ranking, what: string, { show, stepUnit }: Pick<LineUpView, 'show' | 'stepUnit'>): string {
  const [first] = ranking.sides;
  if (ranking.blockedBy[0]) return `These ${ranking.sides.length} cannot be ranked together. ${ranking.blockedBy[0].evidence}`;
  const withheld = ranking.withheldBy[0]?.withheld;
  if (withheld) return `${first!.name} reads best by ${what}; not called: ${withheld.why}.`;
  const level = ranking.sides.filter((side) => [...side.groups].some((letter) => first!.groups.includes(letter)));
  if (level.length === ranking.sides.length) return `No two of these ${ranking.sides.length} can be told apart by ${what}.`;
  if (level.length > 1) return `${listWords(level.map((side) => side.name))} lead by ${what} and cannot be told apart.`;
  const second = ranking.sides[1]!;
  return `${first!.name} leads by ${what}, ${fixed(Math.abs(show(second.mean) - show(first!.mean)), 1)}${stepUnit ? ` ${stepUnit}` : ''} before ${second.name}.`;
}

interface Row {
  ranked: Ranking['sides'][number];
  side: NonNullable<LineUpView['data']>['field']['sides'][number];
  benchC: number | null;
  warmC: number | null;
}
const column = columnsFor<Row>();

/** Settings of the variant's runs in which it is not as all others. */
const ownSettings = (side: Row['side'], sides: readonly Row['side'][]): string =>
  Object.entries(side.workRuns[0]?.settings ?? {})
    .filter(([name]) => sides.some((other) => other.workRuns[0] && other.workRuns[0].settings[name] !== side.workRuns[0]?.settings[name]))
    .map(([name, value]) => `${name} ${value}`)
    .join('; ') || 'as all others';

/** What stands beside the ranked variants; a column in which none of them has anything to say is left out. */
function columnsOf(study: Study, view: LineUpView, rows: readonly Row[], degrees: ReturnType<typeof useDegrees>): ColumnOf<Row>[] {
  const { rules } = view.data!.field;
  const sides = rows.map(({ side }) => side);
  const settings = sides.some((side) => ownSettings(side, sides) !== 'as all others');
  const keys = outcomeKeys(rules).filter((key) => sides.some((side) => meanOutcome(side, key) !== null));
  const spotId = 'spotId' in view.key ? view.key.spotId : null;
  const limitC = spotId ? definitionOf(study, spotId)?.limitC : undefined;
  const celsius = (id: 'benchC' | 'warmC', header: string) =>
    column.accessor(id, { header, meta: { number: true }, cell: ({ getValue }) => (getValue() === null ? '' : fixed(degrees.temp(getValue()!), 1)) }); // prettier-ignore
  return [
    column.accessor(({ ranked }) => ranked.name, { id: 'variant', header: 'Variant', meta: { className: 'min-w-24 font-semibold' } }),
    column.accessor(({ ranked }) => ranked.runs, {
      id: 'runs',
      header: 'runs',
      meta: { number: true },
      cell: ({ row: { original: row }, getValue }) => (
        <Link to={`/studies/${study.id}/read?run=${row.side.workRuns[0]?.id ?? ''}`}>{getValue()}</Link>
      ),
    }),
    ...(spotId
      ? [
          celsius('benchC', `bench, ${degrees.tempUnit}`),
          celsius('warmC', `${study.enclosure.name}, ${degrees.tempUnit}`),
          column.accessor(({ warmC }) => (warmC === null || limitC === undefined ? null : limitC - warmC), {
            id: 'left',
            header: 'left there',
            meta: { number: true, className: 'whitespace-nowrap' },
            cell: ({ getValue }) => (getValue() === null ? '' : degrees.text(headroomWords(getValue()!))),
          }),
          column.accessor(({ side }) => side.runs[0]?.hottest ?? '', { id: 'hottest', header: 'hottest', meta: { className: 'min-w-32' } }),
        ]
      : []),
    ...keys.map((key) => {
      const { label, unit, decimals } = outcomeKind(key, rules);
      return column.accessor(({ side }) => meanOutcome(side, key), {
        id: key,
        header: unit ? `${label}, ${unit}` : label,
        meta: { number: true },
        cell: ({ getValue }) => (getValue() === null ? '' : fixed(getValue()!, decimals)),
      });
    }),
    ...(settings
      ? [
          column.accessor(({ side }) => ownSettings(side, sides), {
            id: 'settings',
            header: 'settings',
            meta: { className: 'min-w-40 text-[0.87rem] text-soft' },
          }),
        ]
      : []),
  ];
}

/** Where each variant stands in both airs, and what was free to move beside it. */
function Beside({ study, view, ranking }: { study: Study; view: LineUpView; ranking: Ranking }) {
  const degrees = useDegrees();
  const { sides } = view.data!.field;
  const spotId = 'spotId' in view.key ? view.key.spotId : null;
  const rows = ranking.sides.map((ranked): Row => {
    const side = sides.find((candidate) => candidate.variantId === ranked.variantId)!;
    const airs =
      spotId === null ? { benchC: null, warmC: null } : inBothAirs(side, spotId, ranked.mean, study.rules.basis, study.enclosure);
    return { ranked, side, ...airs };
  });
  return (
    <Section
      title="Beside it"
      hint={`on the bench as measured, and restated for the ${study.enclosure.name} at ${degrees.text(`${study.enclosure.airC} °C`)}`}
    >
      {/* Headings of two lines: many columns stand side by side. */}
      <div className="overflow-x-auto [&_th]:whitespace-normal [&_th.num_button]:text-right" tabIndex={0}>
        <DataTable label="Beside the ranking" rows={rows} columns={columnsOf(study, view, rows, degrees)} />
      </div>
    </Section>
  );
}

/** All variants ranked by one figure, with those that cannot be told apart in one group. */
export function AllPage() {
  const study = useStudy();
  const degrees = useDegrees();
  const view = useLineUp(study);
  const ranking = view.data && !view.data.refusal ? rankingOf(view) : null;
  const made = ranking !== null && typeof ranking !== 'string' ? ranking : null;
  // Who never throttled has no time to throttle, and is no worse for that.
  const byTime = 'outcome' in view.key && view.key.outcome === 'time-to-throttle';
  const lasted = (name: string) =>
    view.data?.field.sides.find((side) => side.name === name)?.workRuns.some((run) => run.throttled === false);
  const never = byTime ? (made?.without ?? []).filter(lasted) : [];
  const unread = (made?.without ?? []).filter((name) => !never.includes(name));
  const callable = made?.pairs.filter((pair) => pair.call?.kind !== 'blocked') ?? [];
  const withheld = callable.filter((pair) => pair.call?.kind === 'withheld').length;
  const different = callable.filter((pair) => pair.different).length;
  const sets = made ? [...new Set(made.sides.map((side) => side.set))].map((set) => made.sides.filter((side) => side.set === set)) : [];
  return (
    <LineUpSheet
      study={study}
      view={view}
      page="All at once"
      heading={
        made
          ? headingOf(made, midSentence(view.name), view)
          : typeof ranking === 'string'
            ? `Nothing can be ranked: ${ranking}.`
            : 'All at once'
      }
      margin={
        made ? (
          <MarginGroup title="How it was called">
            <Note>
              {counted(callable.length, 'pair')}, of which {different} {different === 1 ? 'differs' : 'differ'}
              {withheld > 0 ? ` and ${withheld} ${withheld === 1 ? 'is' : 'are'} not called` : ''}: each as it is judged by itself
              {made.assumed ? ', with an assumed spread between mounts where this bench has shown too little of it' : ''}; corrected for
              their number by <Term word="Holm" />.
            </Note>
            <Note>A letter is a group: two that share one cannot be told apart with these runs.</Note>
            {made.blockedBy.map((found) => (
              <Note key={found.evidence} tone="heat" lead="Ranked apart">
                {degrees.text(`${found.evidence} ${found.remedy}`)}
              </Note>
            ))}
            {made.withheldBy.map((found) => (
              <Note key={found.evidence} tone="heat" lead="Not called">
                {degrees.text(`${found.evidence} ${found.remedy}`)}
              </Note>
            ))}
            {never.length > 0 ? <Note tone="cool">{listWords(never)} never throttled while watched: ahead of all that did.</Note> : null}
            {unread.length > 0 ? <Note tone="caution">No usable reading of {listWords(unread)}.</Note> : null}
          </MarginGroup>
        ) : null
      }
    >
      {made ? (
        <>
          <Section title={`Ranked by ${midSentence(view.name)}`} hint="best first, with the interval of each">
            {sets.map((set, i) => (
              <div key={set[0]!.variantId} className={i > 0 ? 'mt-6' : ''}>
                {sets.length > 1 ? (
                  <h3 className="mb-1 text-[0.93rem] text-soft">
                    {i === 0 ? 'These may be held against each other' : 'Not to be held against those above'}
                  </h3>
                ) : null}
                <IntervalPlot
                  label={sets.length > 1 ? `Variants by ${view.name}, set ${i + 1}` : `Variants by ${view.name}`}
                  unit={view.unit}
                  rows={set.map((side) => ({
                    id: side.variantId,
                    name: side.name,
                    value: view.show(side.mean),
                    halfWidth: view.showStep(side.halfWidth),
                    hint: `${side.runs === 1 ? 'one run' : `${side.runs} runs`}, group ${side.groups}`,
                    right: measured(view.show(side.mean), view.showStep(side.halfWidth), view.unit),
                    tone: sets.length === 1 && side.groups.split('').includes('a') ? 'quench' : 'stone',
                  }))}
                />
              </div>
            ))}
          </Section>
          <Beside study={study} view={view} ranking={made} />
        </>
      ) : (
        <Notice tone="hint">
          {typeof ranking === 'string' ? `${ranking}. Choose another figure, or run more variants.` : 'Nothing to rank yet.'}
        </Notice>
      )}
    </LineUpSheet>
  );
}
