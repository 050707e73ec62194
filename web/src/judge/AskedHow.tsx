import { useId } from 'react';
import type { Evidence } from '@red-ember/core';
import type { Study } from '@red-ember/contract';
import { EVIDENCE_WORDS, rulesWords } from '@red-ember/study';
import { useDegrees } from '../data/useDegrees.ts';
import { Pick } from '../ui/Pick.tsx';

/** By which weights what stands against a call is taken; 'usual', or empty for strict. */
export function EvidencePick({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <Pick
      label="Evidence"
      value={value || 'strict'}
      options={[
        { value: 'strict', label: 'strict' },
        { value: 'usual', label: 'usual' },
      ]}
      onChange={(evidence) => onChange(evidence === 'usual' ? 'usual' : '')}
    />
  );
}

/** By which of them a page speaks, in words. */
export function EvidenceLine({ evidence = 'strict' }: { evidence?: Evidence | undefined }) {
  const loud = evidence === 'usual' ? 'font-semibold text-ochre-text' : '';
  return <span className={`block ${loud}`}>Evidence: {EVIDENCE_WORDS[evidence]}.</span>;
}

/** What every figure of a page over several variants carries: the house rules, and the weights. */
export function JudgedBy({ study, evidence }: { study: Study; evidence?: Evidence | undefined }) {
  const { text } = useDegrees();
  return (
    <>
      {text(rulesWords(study))}
      <EvidenceLine evidence={evidence} />
    </>
  );
}

/** Only runs that the tester signed off take part. */
export function SignedOffOnly({ on, onChange }: { on: boolean; onChange: (on: boolean) => void }) {
  const id = useId();
  return (
    <span className="inline-flex items-center gap-2">
      <input id={id} type="checkbox" className="size-4 accent-ink" checked={on} onChange={(event) => onChange(event.target.checked)} />
      <label htmlFor={id} className="text-[0.93rem]">
        signed-off runs only
      </label>
    </span>
  );
}
