import type { BenchRig, Study } from '@red-ember/contract';
import { ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';

/** Nothing lies on the bench that could be run. */
export function NothingMounted({ study, allRetired }: { study: Study; allRetired: boolean }) {
  return (
    <Notice
      tone="hint"
      action={
        <ButtonLink to={`/studies/${study.id}/mount`} look="strong">
          To Mount
        </ButtonLink>
      }
    >
      {allRetired
        ? 'Every variant that was mounted is retired. Take one up again at Plan, or mount another.'
        : 'Nothing is mounted yet. Mount a variant first, or import a recorded log.'}
    </Notice>
  );
}

/** Why this rig, or none, takes a run now, and where to go instead. */
export function RigNotFree({ study, rig }: { study: Study; rig: BenchRig | undefined }) {
  if (!rig)
    return (
      <Notice tone="hint">
        No rig is connected. <code className="bg-margin px-1">npm run demo</code> starts the simulated benches beside the server; a recorded
        log can be imported without one.
      </Notice>
    );
  const [to, label, why] = rig.rehearsal?.trying
    ? ['/bench', 'To the bench', 'is rehearsing how its load goes off.']
    : [`/studies/${study.id}/run/${rig.busyRunId}`, 'Watch it', 'is busy with a run.'];
  return (
    <Notice
      tone="hint"
      action={
        <ButtonLink to={to} look="strong">
          {label}
        </ButtonLink>
      }
    >
      {rig.name} {why}
    </Notice>
  );
}
