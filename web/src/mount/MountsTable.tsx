import { counted, fixed } from '@red-ember/core';
import type { Mount, Run, Study } from '@red-ember/contract';
import { sentenceOf, useTakeMountBackMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { timeOf } from '../ui/dates.ts';

/** Every mount of the study, the newest first; the last one can be taken back while nothing rests on it. */
export function MountsTable({ study, mounts, runs }: { study: Study; mounts: Mount[]; runs: Run[] }) {
  const [takeBack, taking] = useTakeMountBackMutation();
  if (mounts.length === 0) return null;
  const nameOf = (id: string) => study.variants.find((variant) => variant.id === id)?.name ?? '';
  const ofMount = (id: string) => runs.filter((run) => run.mountId === id);
  const last = mounts.at(-1)!;
  return (
    <Section
      title="Mounts so far"
      action={
        ofMount(last.id).length === 0 ? (
          <Button look="quiet" disabled={taking.isLoading} onClick={() => void takeBack(last.id)}>
            Take the last one back
          </Button>
        ) : undefined
      }
    >
      {taking.error ? <Notice tone="error">{sentenceOf(taking.error)}</Notice> : null}
      <table className="plain-table">
        <thead>
          <tr>
            <th>Variant</th>
            <th>Mount</th>
            <th>Made</th>
            <th className="num">Hands</th>
            <th className="num">Runs</th>
            <th>Note</th>
          </tr>
        </thead>
        <tbody>
          {[...mounts].reverse().map((mount) => (
            <tr key={mount.id}>
              <td>{nameOf(mount.variantId)}</td>
              <td>{mount.number}</td>
              <td>{timeOf(mount.madeAt)}</td>
              <td className="num">{mount.handsMin === null ? '' : `${fixed(mount.handsMin, 0)} min`}</td>
              <td className="num">{ofMount(mount.id).length}</td>
              <td className="text-soft">
                {[
                  mount.note,
                  mount.skipped.length > 0 ? `left out: ${mount.skipped.join('; ')}` : '',
                  mount.photos.length > 0 ? counted(mount.photos.length, 'photograph') : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
