import { useState } from 'react';
import { CartesianGrid, LabelList, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts';
import { criterionValue, fixed, HOTTEST_SPOT_ID, listWords, ownIdOf, type Criterion } from '@red-ember/core';
import { type JudgingBody, type ProfileBody, type StudyBody, type StudyLineUp } from '@red-ember/contract';
import { blankJudging, choiceTable, type ChoiceTable, type ChosenBy, type CriterionKey, idleWords, ownFiguresOf } from '@red-ember/study';
import { useDegrees } from '../../data/useDegrees.ts';
import { sentenceOf } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Button } from '../../ui/Button.tsx';
import { NumberField, TextField } from '../../ui/Field.tsx';
import { DataTable } from '../../ui/DataTable.tsx';
import { columnsFor, type ColumnOf } from '../../ui/tableColumns.ts';
import { Notice } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { EditSheet } from '../../study/EditSheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { FieldBar, LineUpMargin } from './LineUpSheet.tsx';
import { JudgedBy } from '../AskedHow.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { labelSides } from './labelSides.ts';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { useLineUp, type LineUpView } from './useLineUp.ts';

const CRITERION_NAMES: Record<CriterionKey, string> = {
  temperature: 'temperature',
  noise: 'noise',
  cost: 'cost',
  minutes: 'refit',
  weight: 'weight',
  throughput: 'throughput',
  conductive: 'not conducting',
  cleaning: 'cleaning',
  cure: 'cure',
};

/** A criterion that was left out, by its key. */
const left = (body: StudyBody, key: string): Pick<Criterion, 'key' | 'label'> => ({
  key,
  label: ownFiguresOf(body).find(({ id }) => id === ownIdOf(key))?.name ?? key,
});

type Weighed = ProfileBody['weights'][number]['criterion'];
/** Known criteria have names of their own here; a figure of the study's own has the one that the study gave it. */
const nameOfCriterion = ({ key, label }: Pick<Criterion, 'key' | 'label'>) =>
  (CRITERION_NAMES as Partial<Record<string, string>>)[key] ?? label;

/** By which temperature: another figure than a spot's is a criterion of its own. */
const chosenBy = ({ key, name }: LineUpView, { field }: StudyLineUp): ChosenBy => ({
  field,
  name,
  spotId: 'spotId' in key ? key.spotId : HOTTEST_SPOT_ID,
});

const judgingOf = ({ judging }: StudyBody) => judging ?? blankJudging();

function headingOf(table: ChoiceTable, profiles: readonly ProfileBody[]): string {
  const { made } = table;
  if (!made) return table.refusal ? `Nothing to choose yet: ${table.refusal}.` : 'Choice';
  const nameOf = (id: string) => table.choices.find((choice) => choice.id === id)!.name;
  const picks = made.picks.flatMap((pick) => (pick.scores[0] ? [{ profile: pick.profile, name: pick.level.join(' or ') }] : []));
  const names = new Set(picks.map((pick) => pick.name));
  // One that has nothing to choose by is not spoken for.
  if (picks.length > 0 && (names.size > 1 || picks.length < profiles.length))
    return picks.map((pick) => `${pick.profile}: ${pick.name}.`).join(' ');
  if (picks.length > 0) return `${picks[0]!.name} for every reader.`;
  return made.front.length === 1 ? `${nameOf(made.front[0]!)} beats all others.` : `Nothing beats ${listWords(made.front.map(nameOf))}.`;
}

const NO_BREAK = '\u00a0';
function Plot({ table, show }: { table: ChoiceTable; show: (value: number) => number }) {
  const { criteria, choices, made } = table;
  // What is yes or no makes no axis.
  const others = criteria.filter((criterion) => criterion.key !== 'temperature' && !criterion.yesNo);
  const [against, setAgainst] = useState(others[0]?.key ?? '');
  const x = others.find((criterion) => criterion.key === against) ?? others[0];
  const y = criteria.find((criterion) => criterion.key === 'temperature');
  if (!x || !y) return null;
  const points = choices.flatMap((choice) => {
    const [px, py] = [choice.values[x.key], choice.values[y.key]];
    return px == null || py == null ? [] : [{ x: px, y: show(py), name: choice.name, front: made?.front.includes(choice.id) ?? false }];
  });
  const sides = labelSides(points);
  return (
    <Section
      title={`${y.label[0]!.toUpperCase()}${y.label.slice(1)} against ${x.label}`}
      hint="filled: beaten by nothing; open: beaten, or not known on all"
      action={
        <Pick label="Against" value={x.key} options={others.map(({ key, label }) => ({ value: key, label }))} onChange={setAgainst} />
      }
    >
      <figure aria-label={`Choices by ${y.label} and ${x.label}`} style={{ height: 240 }}>
        <ResponsiveContainer width="100%" height="100%">
          <ScatterChart margin={{ top: 10, right: 130, bottom: 18, left: 0 }} accessibilityLayer={false}>
            <CartesianGrid stroke="var(--rule)" />
            <XAxis
              dataKey="x"
              type="number"
              domain={['auto', 'auto']}
              stroke="var(--stone)"
              tickLine={false}
              label={{ value: `${x.label}, ${x.unit}`, position: 'insideBottomLeft', offset: -12, fill: 'var(--soft)', fontSize: 13 }}
            />
            <YAxis dataKey="y" type="number" width={48} domain={['auto', 'auto']} axisLine={false} tickLine={false} />
            {[true, false].map((front) => (
              <Scatter
                key={String(front)}
                data={points.filter((point) => point.front === front)}
                fill={front ? 'var(--quench)' : 'var(--paper)'}
                stroke={front ? 'var(--quench)' : 'var(--stone)'}
                strokeWidth={1.6}
                isAnimationActive={false}
              >
                {(['right', 'left', 'top', 'bottom'] as const).map((side) => (
                  <LabelList
                    key={side}
                    valueAccessor={(_entry, i) => {
                      const point = points.filter((one) => one.front === front)[i];
                      return point && sides.get(point.name) === side ? point.name.replaceAll(' ', NO_BREAK) : '';
                    }}
                    position={side}
                    fontSize={13}
                    fill="var(--ink)"
                  />
                ))}
              </Scatter>
            ))}
          </ScatterChart>
        </ResponsiveContainer>
      </figure>
    </Section>
  );
}

function Readers({ judging, criteria, change }: { judging: JudgingBody; criteria: Criterion[]; change: (judging: JudgingBody) => void }) {
  const put = (i: number, profile: Partial<ProfileBody>) =>
    change({ ...judging, profiles: judging.profiles.map((old, k) => (k === i ? { ...old, ...profile } : old)) });
  const weigh = (profile: ProfileBody, criterion: Weighed, weight: number) => [
    ...profile.weights.filter((entry) => entry.criterion !== criterion),
    ...(weight === 0 ? [] : [{ criterion, weight }]),
  ];
  const offered = criteria.map((criterion) => ({ key: criterion.key as Weighed, name: nameOfCriterion(criterion) }));
  return (
    <Section
      title="Readers"
      hint="what counts for whom, in weights of your own"
      action={
        <Button
          onClick={() =>
            change({
              ...judging,
              profiles: [
                ...judging.profiles,
                {
                  id: crypto.randomUUID(),
                  name: `Reader ${judging.profiles.length + 1}`,
                  weights: [{ criterion: 'temperature', weight: 1 }],
                },
              ],
            })
          }
        >
          Add a reader
        </Button>
      }
    >
      <table className="plain-table">
        <thead>
          <tr>
            <th>Reader</th>
            {offered.map(({ key, name }) => (
              <th key={key}>{name}</th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {judging.profiles.map((profile, i) => (
            <tr key={profile.id}>
              <td>
                <TextField
                  hideLabel
                  label={`Name of reader ${i + 1}`}
                  pointer={`/judging/profiles/${i}/name`}
                  value={profile.name}
                  onChange={(name) => put(i, { name })}
                />
              </td>
              {offered.map(({ key, name }) => (
                <td key={key} className="w-24">
                  <NumberField
                    hideLabel
                    label={`${name} for ${profile.name}`}
                    pointer={`/judging/profiles/${i}/weights`}
                    value={profile.weights.find((entry) => entry.criterion === key)?.weight ?? 0}
                    onChange={(weight) => put(i, { weights: weigh(profile, key, weight) })}
                  />
                </td>
              ))}
              <td className="text-right">
                <Button
                  look="quiet"
                  aria-label={`Remove ${profile.name}`}
                  onClick={() => change({ ...judging, profiles: judging.profiles.filter((_, k) => k !== i) })}
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

/** What each kind of reader would pick, and by what. */
function WhoTakesWhat({ table, profiles }: { table: ChoiceTable; profiles: readonly ProfileBody[] }) {
  const { text } = useDegrees();
  const picks = table.made?.picks ?? [];
  if (!table.made || profiles.length === 0) return null;
  return (
    <Section title="Who takes what">
      <ul className="grid gap-2">
        {profiles.map((profile) => {
          const pick = picks.find((made) => made.profile === profile.name);
          const idle = idleWords(table, profile.weights);
          return (
            <li key={profile.id} className="grid grid-cols-[12rem_minmax(0,1fr)] gap-4 border-b border-rule pb-2">
              <span className="text-soft">{profile.name}</span>
              <span>
                {pick ? (
                  <>
                    <b className="font-semibold">{pick.level.join(' or ')}</b>. {text(pick.because)}
                    <span className="block text-[0.87rem] text-soft">
                      {pick.scores.map((score) => `${score.name} ${fixed(score.score, 2)}`).join(' · ')} (0 is best on all that counts)
                    </span>
                  </>
                ) : (
                  'Nothing to choose by.'
                )}
                {idle === '' ? null : <span className="block text-[0.87rem]">{idle}</span>}
              </span>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

type Choice = ChoiceTable['choices'][number];
const column = columnsFor<Choice>();

/** Whether anything beats a choice, in a word. */
const beatenWords = ({ made }: ChoiceTable, choice: Choice): string =>
  !made ? '' : made.front.includes(choice.id) ? 'by nothing' : made.without.some((one) => one.name === choice.name) ? 'not weighed' : 'yes';

function columnsOf(table: ChoiceTable, view: Pick<LineUpView, 'unit' | 'show'>, currency: string): ColumnOf<Choice>[] {
  return [
    column.accessor('name', { header: 'Choice', meta: { className: 'font-semibold' } }),
    ...table.criteria.map((criterion) =>
      column.accessor((choice) => choice.values[criterion.key] ?? null, {
        id: criterion.key,
        header: [criterion.label, criterion.key === 'temperature' ? view.unit : criterion.unit].filter(Boolean).join(', '),
        meta: { number: true },
        cell: ({ getValue }) => {
          const value = getValue();
          if (value === null) return <span className="text-soft">not known</span>;
          return criterionValue(criterion, criterion.key === 'temperature' ? view.show(value) : value);
        },
      }),
    ),
    column.accessor(({ id }) => table.perMoney[id] ?? null, {
      id: 'perMoney',
      header: `K per ${currency}`,
      meta: { number: true },
      cell: ({ getValue }) => (getValue() === null ? '' : fixed(getValue()!, 2)),
    }),
    column.accessor((choice) => beatenWords(table, choice), { id: 'beaten', header: 'beaten', meta: { className: 'text-soft' } }),
  ];
}

/** Criteria that do not count this time, by a tick each. */
function LeaveOut({
  body,
  criteria,
  leave,
  setLeave,
}: {
  body: StudyBody;
  criteria: Criterion[];
  leave: string[];
  setLeave: (leave: string[]) => void;
}) {
  return (
    <p className="mt-2 flex flex-wrap gap-x-5 text-[0.93rem]">
      <span className="text-soft">Leave out:</span>
      {[...new Set([...criteria.map((criterion) => criterion.key), ...leave])].map((key) => (
        <label key={key} className="inline-flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-ink"
            checked={leave.includes(key)}
            onChange={(event) => setLeave(event.target.checked ? [...leave, key] : leave.filter((other) => other !== key))}
          />
          {nameOfCriterion(criteria.find((criterion) => criterion.key === key) ?? left(body, key))}
        </label>
      ))}
    </p>
  );
}

/** What to take: the choices that nothing beats, what a kelvin costs, and what each kind of reader would pick. */
export function ChoicePage() {
  const study = useStudy();
  const { text } = useDegrees();
  const view = useLineUp(study);
  const [leave, setLeave] = useState<string[]>([]);
  const { data } = view;
  const uncalled = data?.field.stands.flatMap(({ by }) => by)[0];
  return (
    <EditSheet
      study={study}
      station="Judge / Choice"
      heading={
        data
          ? (data.refusal ?? headingOf(choiceTable(study, judgingOf(study), chosenBy(view, data), leave), judgingOf(study).profiles))
          : 'Choice'
      }
      under={<JudgedBy study={study} evidence={view.data?.field.rules.evidence} />}
      margin={
        <LineUpMargin study={study} view={view}>
          <MarginGroup title="How choices are weighed">
            <Note>Differences within the house’s threshold, within a decibel, or that are not called, buy nothing.</Note>
            <Note>Cost and weight are those of the parts at Plan, one mount; refit is what fitting that variant takes.</Note>
            <Note>
              Cleaning is what waits when it is taken off: solvents that dry, and the steps of its card. Cure is what waits once it is put
              on.
            </Note>
            {uncalled ? (
              <Note tone="heat" lead="Temperatures are not called:">
                {text(`${uncalled.evidence} Those variants count as equally cool here.`)}
              </Note>
            ) : null}
            <Note>A reader’s score adds what is lost against the best on each criterion, in the weights given.</Note>
          </MarginGroup>
        </LineUpMargin>
      }
    >
      {({ body, change }) => {
        if (!data) return view.error ? <Notice tone="error">{sentenceOf(view.error)}</Notice> : <ReadingRuns studyId={study.id} />;
        const judging = judgingOf(body);
        const table = choiceTable(body, judging, chosenBy(view, data), leave);
        const nameOf = (id: string) => table.choices.find((choice) => choice.id === id)?.name ?? id;
        const currency = body.plan.currency ?? 'EUR';
        return (
          <>
            <JudgeTabs />
            <FieldBar view={view} sides={false} />
            {table.refusal ? <Notice tone="hint">{table.refusal}. Give parts and prices at Plan, or run more variants.</Notice> : null}
            {table.made ? <Plot table={table} show={view.show} /> : null}
            <WhoTakesWhat table={table} profiles={judging.profiles} />
            <Section title="The choices" hint={table.made ? `nothing beats ${listWords(table.made.front.map(nameOf))}` : undefined}>
              <div className="overflow-x-auto" tabIndex={0}>
                <DataTable label="The choices" rows={table.choices} columns={columnsOf(table, view, currency)} />
              </div>
              <LeaveOut body={body} criteria={table.criteria} leave={leave} setLeave={setLeave} />
            </Section>
            <Readers judging={judging} criteria={table.criteria} change={(next) => change({ judging: next })} />
          </>
        );
      }}
    </EditSheet>
  );
}
