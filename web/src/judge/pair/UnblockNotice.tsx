import { useState } from 'react';
import { type PairVerdict, type Study } from '@red-ember/contract';
import { fixed } from '@red-ember/core';
import { bodyOf, printRestatement, USUAL_REPEATS } from '@red-ember/study';
import { middleOf } from './restate.ts';
import { sentenceOf } from '../../data/api.ts';
import { useSaveStudy } from '../../data/useSaveStudy.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';

/** A comparison that does not stand, with what would let it: one more run of either side goes into the plan. */
export function UnblockNotice({ study, verdict, onRestate }: { study: Study; verdict: PairVerdict; onRestate: (restate: string) => void }) {
  const [save, saving] = useSaveStudy();
  const [done, setDone] = useState(false);
  const { a, b } = verdict.judgement;
  const stands = [...verdict.judgement.blockedBy, ...verdict.judgement.withheldBy];
  if (stands.length === 0) return null;
  const noise = verdict.commonNoise;
  // Fans that differ are no matter where both sides were swept: they are read at one level.
  const atDb = noise && stands.every(({ check }) => check === 'fan-policy') ? middleOf(noise) : null;
  if (atDb !== null)
    return (
      <Notice
        tone="hint"
        action={
          <Button look="strong" onClick={() => onRestate(printRestatement({ kind: 'noise', levelDb: atDb }))}>
            Read both at {fixed(atDb, 1)} dB(A)
          </Button>
        }
      >
        Both were swept, and stand here at the last of their steps. At one level they can be compared.
      </Notice>
    );
  // Single runs and whole levels are nothing that a plan could repeat.
  const planned = [a, b].every((side) => study.variants.some((variant) => variant.id === side.variantId));
  const add = async () => {
    const sides = new Set([a.variantId, b.variantId]);
    const variants = study.variants.map((variant) =>
      sides.has(variant.id) ? { ...variant, repeats: (variant.repeats ?? USUAL_REPEATS) + 1 } : variant,
    );
    const result = await save({ id: study.id, version: study.version, body: { ...bodyOf(study), variants } });
    setDone(!('error' in result));
  };
  return (
    <Notice
      tone="error"
      action={
        !planned ? undefined : done ? (
          <ButtonLink to={`/studies/${study.id}/plan/order`}>To the plan</ButtonLink>
        ) : (
          <Button disabled={saving.isLoading} onClick={() => void add()}>
            Add one run of each to the plan
          </Button>
        )
      }
    >
      {saving.error
        ? sentenceOf(saving.error)
        : done
          ? 'One more run of either side is in the plan.'
          : `${stands.map((finding) => finding.remedy).join(' ')} Until then temperatures below are shown, and not called.`}
    </Notice>
  );
}
