import { columnsFor } from '../../ui/tableColumns.ts';
import { Link, useSearchParams } from 'react-router';
import { counted, fixed, listWords, type ControlledPoint } from '@red-ember/core';
import type { ControlRun, SpotControl, VariantNormal } from '@red-ember/contract';
import { sentenceOf, useNormalQuery } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { DataTable } from '../../ui/DataTable.tsx';
import { Notice, Waiting } from '../../ui/Notice.tsx';
import { Section } from '../../ui/Section.tsx';
import { ReadTabs } from '../ReadTabs.tsx';
import { ControlPlot } from './ControlPlot.tsx';
import { rowsOfNormals, type NormalRow } from './featureWords.ts';
import { Versions } from './Versions.tsx';
import { timeOf } from '../../ui/dates.ts';

const normalColumn = columnsFor<NormalRow>();
const normalColumns = [
  normalColumn.accessor('of', { header: 'Of' }),
  normalColumn.accessor('label', { header: 'What' }),
  normalColumn.accessor('normal', { header: 'Normal', meta: { number: true }, enableSorting: false }),
  normalColumn.accessor('within', { header: 'One more run within', meta: { number: true }, enableSorting: false }),
  normalColumn.accessor('runs', { header: 'Runs', meta: { number: true } }),
];

type Repeat = ControlRun & { point: ControlledPoint | null; studyId: string };
const repeatColumn = columnsFor<Repeat>();
const OFF_WORDS = { beyond: 'beyond the limits', drifts: 'the mean drifts', 'one-side': 'ninth on one side' } as const;
const repeatColumns = [
  repeatColumn.accessor('number', {
    header: 'Run',
    cell: ({ row: { original: run } }) => <Link to={`/studies/${run.studyId}/read?run=${run.runId}`}>run {run.number}</Link>,
  }),
  repeatColumn.accessor('at', { header: 'Started', cell: ({ getValue }) => timeOf(getValue()) }),
  repeatColumn.accessor((run) => run.mountNumber ?? '', { id: 'mount', header: 'Mount', meta: { number: true } }),
  repeatColumn.accessor((run) => run.point?.value ?? null, {
    id: 'value',
    header: 'Figure, K',
    cell: ({ getValue }) => (getValue() === null ? '' : fixed(getValue()!, 2)),
    meta: { number: true },
  }),
  repeatColumn.accessor((run) => run.why || listWords((run.point?.off ?? []).map((why) => OFF_WORDS[why])), {
    id: 'off',
    header: 'Said of it',
  }),
];

/** One spot's figure over all repeats. */
function Control({ control, studyId }: { control: SpotControl; studyId: string }) {
  const { chart, runs } = control;
  const repeats = runs.map((run, i): Repeat => ({ ...run, studyId, point: chart?.points[i] ?? null }));
  return (
    <>
      <p className={control.off ? 'font-semibold text-ember-text' : ''}>{control.sentence}</p>
      {chart ? (
        <>
          <p className="mb-2 text-[0.93rem] text-soft">
            {fixed(chart.centre, 2)} ± {fixed(chart.within, 2)} K, by the first {chart.base} clean repeats. Band: what a single run may come
            to; line: the weighted mean of the last runs; diamond: off; hollow: sets no limits.
          </p>
          <ControlPlot control={control} />
          <details className="mt-2">
            <summary className="cursor-pointer text-[0.93rem] underline">As a table</summary>
            <div className="mt-2 overflow-x-auto" tabIndex={0}>
              <DataTable label={`Repeats at ${control.name}`} rows={repeats} columns={repeatColumns} sorted={[{ id: 'at', desc: true }]} />
            </div>
          </details>
        </>
      ) : null}
    </>
  );
}

function headingOf(data: VariantNormal, name: string): string {
  const off = data.control.filter((control) => control.off);
  if (off.length > 0) return `${name} no longer comes to what it did, at ${listWords(off.map((control) => control.name))}.`;
  if (data.control.some(({ chart }) => chart !== null)) return `${name} still comes to what it did.`;
  return data.why === '' ? `What is normal of ${name}` : `It is not known yet what is normal of ${name}.`;
}

/** What is normal of a variant by its clean runs, and whether its repeats stay what they were. */
export function NormalPage() {
  const study = useStudy();
  const [search, setSearch] = useSearchParams();
  const { currentData: data, error } = useNormalQuery({
    studyId: study.id,
    ...(search.get('variant') ? { variant: search.get('variant')! } : {}),
  });
  const name = data?.variants.find(({ id }) => id === data.variantId)?.name ?? 'this variant';
  const shown =
    data?.control.find(({ spotId }) => spotId === search.get('spot')) ?? data?.control.find(({ off }) => off) ?? data?.control[0];
  const nameOf = (id: string) =>
    study.spots.find((spot) => spot.id === id)?.name ?? { fan: 'Fan', fan2: 'Second fan', fan3: 'Third fan' }[id] ?? id;
  const put = (key: string, value: string) =>
    setSearch(
      (before) => {
        before.set(key, value);
        return before;
      },
      { replace: true },
    );
  return (
    <Sheet
      crumb={`${study.title} / Read / What is normal`}
      windowTitle={`What is normal, ${study.title}`}
      heading={data ? headingOf(data, name) : 'What is normal'}
      actions={
        data && data.variants.length > 0 ? (
          <>
            <label htmlFor="normal-variant" className="text-[0.93rem] text-soft">
              Variant
            </label>
            <select
              id="normal-variant"
              className="field-box !w-auto"
              value={data.variantId}
              onChange={(event) => put('variant', event.target.value)}
            >
              {data.variants.map((variant) => (
                <option key={variant.id} value={variant.id}>
                  {variant.name}, {counted(variant.runs, 'run')}
                </option>
              ))}
            </select>
          </>
        ) : null
      }
      margin={
        <>
          <MarginGroup title="What it rests on">
            {data ? (
              <Note>
                {data.of.length === 0
                  ? 'No clean run yet.'
                  : `${data.kept ? `This study has too few clean runs of its own yet: learnt in “${data.kept.study.title}”, of the same part and set-up. Clean` : 'Clean'} ${data.of.length === 1 ? 'run' : 'runs'} ${listWords(data.of.map(String))}: finished, as planned, and nothing planted or changed.`}
              </Note>
            ) : null}
            <Note>A run that has ended is held against this at Read, and a fan’s speed for its duty before a run.</Note>
          </MarginGroup>
          <MarginGroup title="A control run">
            <Note>
              The reference repeated now and then, after a move or a new instrument, says whether the bench is still the bench it was. It
              takes six clean repeats until limits can be told from luck.
            </Note>
          </MarginGroup>
        </>
      }
    >
      <ReadTabs />
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {!data && !error ? <Waiting what="Reading the runs" /> : null}
      {data && shown ? (
        <Section title="Over time">
          <div className="mb-2 flex flex-wrap items-center gap-3">
            <label htmlFor="normal-spot" className="text-[0.93rem] text-soft">
              Spot
            </label>
            <select
              id="normal-spot"
              className="field-box !w-auto"
              value={shown.spotId}
              onChange={(event) => put('spot', event.target.value)}
            >
              {data.control.map(({ spotId, name: spot, off }) => (
                <option key={spotId} value={spotId}>
                  {spot}
                  {off ? ', off' : ''}
                </option>
              ))}
            </select>
          </div>
          <Control control={shown} studyId={study.id} />
        </Section>
      ) : null}
      {data ? (
        <Section title="What is normal">
          {data.why ? (
            <p className="text-soft">{data.why}</p>
          ) : (
            <div className="overflow-x-auto" tabIndex={0}>
              <DataTable label="What is normal" rows={rowsOfNormals(data.normals, nameOf)} columns={normalColumns} />
            </div>
          )}
        </Section>
      ) : null}
      {data ? <Versions normal={data} studyId={study.id} nameOf={nameOf} /> : null}
    </Sheet>
  );
}
