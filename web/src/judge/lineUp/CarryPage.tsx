import { carryOfSide, fixed, roomOfSide, type Carry, midSentence } from '@red-ember/core';
import { blankJudging } from '@red-ember/study';
import { sentenceOf } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { NumberField } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { EditSheet } from '../../study/EditSheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { CapacitorLife, CarriedComponents } from './CarriedComponents.tsx';
import { CarriedLoads, FanNeeded } from './CarriedLoads.tsx';
import { FieldBar, LineUpMargin } from './LineUpSheet.tsx';
import { JudgedBy } from '../AskedHow.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { JudgeTabs } from '../JudgeTabs.tsx';
import { ReadingRuns } from '../ReadingRuns.tsx';
import { useLineUp } from './useLineUp.ts';

function headingOf(made: Carry, sideName: string, place: string): string {
  const { binding } = made;
  if (!binding?.maxW) return `What ${sideName} carries cannot be said yet.`;
  return `In the ${place}, ${midSentence(binding.name)} binds: ${sideName} carries ${fixed(binding.maxW.value, 0)} ± ${fixed(binding.doubtW, 0)} W.`;
}

function HowWatts({ unsettled }: { unsettled: number }) {
  return (
    <MarginGroup title="How watts are worked out">
      <Note>
        Rise = r0 + a·P + c·P², none of them below zero, through every load of every run and what was read at rest; half of what a power law
        says otherwise is in the doubt. With fewer than three powers the power law alone speaks, with one its exponent is 1 and doubted. The
        limit, less the margin and the air, gives the most.
      </Note>
      {unsettled > 0 ? (
        <Note tone="heat">
          {unsettled} of the points were not settled when they were read: each counts as what it was likely to come to, with that doubt.
        </Note>
      ) : null}
      <Note tone="caution">
        Carried beyond 1.3 times the highest power that was measured, a figure is far: measure nearer to it. Count on the lower end.
      </Note>
      <Note tone="caution">
        Never run an unattended load without a cut-out. Mains wiring and the inside of power supplies are not covered here: follow local
        electrical codes.
      </Note>
    </MarginGroup>
  );
}

/** How many watts a part carries, which component binds, on the bench and in the enclosure, and what of the loads it may be given. */
export function CarryPage() {
  const study = useStudy();
  const view = useLineUp(study);
  const { data } = view;
  const sides = data?.field.sides.filter((side) => side.workRuns.length > 0) ?? [];
  const side = sides.find((candidate) => candidate.variantId === view.get('side')) ?? sides[0];
  const unsettled = side ? side.workRuns.flatMap((run) => Object.values(run.points).flat()).filter((point) => !point.settled).length : 0;
  const saved = study.judging ?? blankJudging();
  return (
    <EditSheet
      study={study}
      station="Judge / Carry"
      heading={
        side
          ? headingOf(carryOfSide(data!.field, side, study.spots, study.enclosure.airC, saved.marginK), side.name, study.enclosure.name)
          : (data?.refusal ?? 'Carry')
      }
      under={<JudgedBy study={study} evidence={view.data?.field.rules.evidence} />}
      margin={
        <LineUpMargin study={study} view={view}>
          <HowWatts unsettled={unsettled} />
        </LineUpMargin>
      }
    >
      {({ body, change }) => {
        if (!data) return view.error ? <Notice tone="error">{sentenceOf(view.error)}</Notice> : <ReadingRuns studyId={study.id} />;
        const judging = body.judging ?? blankJudging();
        if (!side)
          return (
            <>
              <JudgeTabs />
              <Notice tone="hint">This page fills itself as soon as runs with a power reading have ended.</Notice>
            </>
          );
        const margin = Number.isFinite(judging.marginK) ? Math.max(0, judging.marginK) : 0;
        const bench = carryOfSide(data.field, side, body.spots, roomOfSide(side), margin);
        const warm = carryOfSide(data.field, side, body.spots, body.enclosure.airC, margin);
        return (
          <>
            <JudgeTabs />
            <div className="mb-5 flex flex-wrap items-end gap-x-6 gap-y-2">
              <Pick
                label="Of"
                value={side.variantId}
                options={sides.map(({ variantId, name }) => ({ value: variantId, label: name }))}
                onChange={(chosen) => view.put({ side: chosen })}
              />
              <NumberField
                label="Kept free below every limit"
                unit="K"
                pointer="/judging/marginK"
                className="w-44"
                value={judging.marginK}
                onChange={(marginK) => change({ judging: { ...judging, marginK } })}
              />
              <NumberField
                label={`Air in the ${body.enclosure.name}`}
                unit="°C"
                pointer="/enclosure/airC"
                className="w-44"
                value={body.enclosure.airC}
                onChange={(airC) => change({ enclosure: { ...body.enclosure, airC } })}
              />
              <FieldBar view={view} pick={false} sides={false} loads={false} />
            </div>
            <CarriedComponents field={data.field} body={body} side={side} bench={bench} warm={warm} marginK={margin} />
            <CarriedLoads
              side={side}
              judging={judging}
              change={(next) => change({ judging: next })}
              airs={[
                { name: 'on the bench', made: bench, airC: roomOfSide(side) },
                { name: `in the ${body.enclosure.name}`, made: warm, airC: body.enclosure.airC },
              ]}
            />
            <FanNeeded body={body} side={side} judging={judging} marginK={margin} />
            <CapacitorLife body={body} side={side} />
          </>
        );
      }}
    </EditSheet>
  );
}
