import { counted, duration } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { familyOf } from '@red-ember/study';
import { useRunsQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { useStudyDraft } from '../study/useStudyDraft.ts';

/** What earlier runs say of the load's length. */
function settledWords(lengthsS: number[]): string {
  const [least, most] = [duration(Math.min(...lengthsS)), duration(Math.max(...lengthsS))];
  const runs = counted(lengthsS.length, 'earlier run');
  return `In ${runs} of this study the load was settled after ${least === most ? least : `${least} to ${most}`}.`;
}

function armedWords(study: Study): string {
  const limits = study.spots.filter((spot) => !spot.byHand).map((spot) => spot.cutOutC);
  return limits.length === 0
    ? 'Every spot is read by hand: nothing but you stops the load.'
    : `${counted(limits.length, 'spot')} with a cut-out, the lowest at ${Math.min(...limits)} °C.`;
}

/** What earlier runs, the arming and the usual cautions say of the plan. */
export function PlanMargin({ study }: { study: Study }) {
  const { recipe } = useStudyDraft(study).body;
  const { data: runs = [] } = useRunsQuery(study.id);
  const settledLoads = runs.flatMap((run) =>
    run.phases
      .filter((phase) => phase.kind === 'load' && phase.endedBy === 'settled' && phase.endS !== null)
      .map((phase) => phase.endS! - phase.startS),
  );
  return (
    <>
      <MarginGroup title="How long it takes">
        {settledLoads.length > 0 ? (
          <Note>{settledWords(settledLoads)}</Note>
        ) : (
          <Note>No run of this study has settled yet, so its length is known only to lie between the least and the cap.</Note>
        )}
      </MarginGroup>
      {recipe.filter((phase) => phase.kind !== 'idle-soak' && phase.kind !== 'cool-down').length > 1 ||
      recipe.some((phase) => phase.kind === 'sweep') ? (
        <MarginGroup title="Several loads">
          <Note>A run is read from its last load unless you say otherwise: Judge and the report take any other under “At load”.</Note>
        </MarginGroup>
      ) : null}
      <MarginGroup title="Variants">
        <Note>Change one thing between two variants. Where two things change, neither can be credited.</Note>
        <Note>Run A, B, B, A over the days: what drifts with time falls out.</Note>
      </MarginGroup>
      <MarginGroup title="Armed in every run">
        {study.spots.length === 0 ? (
          <Note tone="caution">No spots, so nothing is armed: place them at Look.</Note>
        ) : (
          <Note>{armedWords(study)} The load also goes when the room probe or the rig is lost, or a cap is reached.</Note>
        )}
      </MarginGroup>
      <MarginGroup title="Cautions">
        {familyOf(study.family).wearsOut ? (
          <Note tone="caution">Sustained writes wear a drive and destroy its data: a scratch drive only.</Note>
        ) : null}
        <Note tone="caution">Never leave a load unattended without an armed cut-out.</Note>
      </MarginGroup>
    </>
  );
}
