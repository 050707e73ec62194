import type { Segment } from '@red-ember/core';

const TONES: Record<Segment['tone'], string> = {
  plain: '',
  cooler: 'font-semibold text-quench-text',
  warmer: 'font-semibold text-ember-text',
  strong: 'font-semibold',
};

/** A verdict sentence with its tones. */
export function Segments({ segments }: { segments: Segment[] }) {
  return (
    <>
      {segments.map((segment, i) => (
        <span key={i} className={TONES[segment.tone]}>
          {segment.text}
        </span>
      ))}
    </>
  );
}
