import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { type Study } from '@red-ember/contract';
import { useDegrees } from '../../data/useDegrees.ts';
import { sentenceOf } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { EvidencePick, JudgedBy, SignedOffOnly } from '../AskedHow.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { choicesOf, type LineUpView } from './useLineUp.ts';

/** What is looked at, at which load, and of which runs. */
export function FieldBar({
  view,
  pick = true,
  sides = true,
  loads = true,
}: {
  view: LineUpView;
  pick?: boolean;
  sides?: boolean;
  loads?: boolean;
}) {
  const { data } = view;
  if (!data) return null;
  return (
    <div className="no-print mb-5 flex flex-wrap items-center gap-x-6 gap-y-2">
      {pick ? <Pick label="By" value={view.by} options={choicesOf(data)} onChange={(by) => view.put({ by })} /> : null}
      {sides && data.several.length > 0 ? (
        <Pick
          label="Side by side"
          value={view.loadsOf}
          options={[
            { value: '', label: 'the variants' },
            ...data.several.map(({ id: of, name }) => ({ value: of, label: `loads of ${name}` })),
          ]}
          onChange={(of) => view.put({ of })}
        />
      ) : null}
      {loads && data.loads.length > 1 && !view.loadsOf ? (
        <Pick
          label="At load"
          value={view.load}
          options={[{ value: '', label: 'the last' }, ...data.loads.map((name) => ({ value: name, label: name }))]}
          onChange={(load) => view.put({ load })}
        />
      ) : null}
      <EvidencePick value={view.evidence} onChange={(evidence) => view.put({ evidence })} />
      <SignedOffOnly on={view.signedOff} onChange={(on) => view.put({ signed: on ? '1' : '' })} />
    </div>
  );
}

/** What speaks against single runs, and which were left out. */
export function LineUpMargin({ study, view, children }: { study: Study; view: LineUpView; children?: ReactNode }) {
  const { text } = useDegrees();
  const field = view.data?.field;
  const leftOut = field?.sides.flatMap((side) => side.leftOut) ?? [];
  const weak = field?.findings.filter((finding) => finding.severity === 'weakens') ?? [];
  const used = new Set(field?.sides.flatMap((side) => side.runs.map((run) => run.id)));
  // One line a check: the same words for six runs tell nobody more.
  const checks = [...new Set(weak.filter((finding) => finding.runId && used.has(finding.runId)).map((finding) => finding.check))];
  return (
    <>
      {children}
      <MarginGroup title="What qualifies these runs">
        {leftOut.map((entry) => (
          <Note key={entry.runId} tone="heat" lead={`Left out: ${entry.label}.`}>
            {text(entry.reason)} <Link to={`/studies/${study.id}/run/${entry.runId}`}>See trace</Link>
          </Note>
        ))}
        {checks.map((check) => {
          const all = weak.filter((finding) => finding.check === check && finding.runId && used.has(finding.runId));
          const first = all[0]!;
          return (
            <Note key={check} tone="caution">
              {text(first.evidence)} {first.remedy}
              {all.length > 1 ? ` ${all.length - 1} more of this kind.` : ''}{' '}
              <Link to={`/studies/${study.id}/read?run=${first.runId}`}>See readings</Link>
            </Note>
          );
        })}
        {field && leftOut.length === 0 && checks.length === 0 ? <Note>Nothing was found against the runs themselves.</Note> : null}
      </MarginGroup>
    </>
  );
}

/** The frame of every page of Judge that looks at all variants. */
export function LineUpSheet({
  study,
  view,
  page,
  heading,
  margin,
  bar,
  children,
}: {
  study: Study;
  view: LineUpView;
  page: string;
  heading: ReactNode;
  margin?: ReactNode;
  bar?: ReactNode;
  children: ReactNode;
}) {
  const { data, error, isLoading } = view;
  return (
    <Sheet
      crumb={`${study.title} / Judge / ${page}`}
      windowTitle={`${page}, ${study.title}`}
      heading={data?.refusal ?? heading}
      under={<JudgedBy study={study} evidence={data?.field.rules.evidence} />}
      margin={
        <LineUpMargin study={study} view={view}>
          {margin}
        </LineUpMargin>
      }
    >
      <JudgeTabs />
      {isLoading ? <ReadingRuns studyId={study.id} /> : null}
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {data?.refusal ? (
        <Notice
          tone="hint"
          action={
            <ButtonLink to={`/studies/${study.id}/run`} look="strong">
              To Run
            </ButtonLink>
          }
        >
          This page fills itself as soon as runs have ended.
        </Notice>
      ) : data ? (
        <>
          {bar ?? <FieldBar view={view} />}
          {children}
        </>
      ) : null}
    </Sheet>
  );
}
