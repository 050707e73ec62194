import type { Segment } from '@red-ember/core';
import { useDegrees } from '../data/useDegrees.ts';

const TONES: Record<Segment['tone'], string> = {
  plain: '',
  cooler: 'font-semibold text-quench-text',
  warmer: 'font-semibold text-ember-text',
  strong: 'font-semibold',
};

/** A verdict sentence with its tones. */
export function Segments({ segments }: { segments: Segment[] }) {
  const { text } = useDegrees();
  return (
    <>
      {segments.map((segment, i) => (
        <span key={i} className={TONES[segment.tone]}>
          {text(segment.text)}
        </span>
      ))}
    </>
  );
}
