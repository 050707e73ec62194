import type { ReactNode } from 'react';
import { Shown } from '../ui/Shown.tsx';

export type NoteTone = 'plain' | 'caution' | 'heat' | 'cool';

const EDGE: Record<NoteTone, string> = {
  plain: 'border-stone/60',
  caution: 'border-ochre note-caution',
  heat: 'border-ember note-heat',
  cool: 'border-quench',
};
const WORD: Record<NoteTone, string> = { plain: '', caution: 'Caution: ', heat: 'Important: ', cool: '' };

export function MarginGroup({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="mb-3 text-[0.87rem] font-semibold text-soft">{title}</h2>
      <div className="grid gap-3.5">{children}</div>
    </section>
  );
}

export function Note({ tone = 'plain', lead, children }: { tone?: NoteTone; lead?: ReactNode; children: ReactNode }) {
  return (
    <div className={`border-l-[3px] pl-3 text-[0.93rem] leading-snug first-letter:uppercase ${EDGE[tone]}`}>
      <span className="sr-only">{WORD[tone]}</span>
      {lead ? (
        <strong className="font-semibold">
          <Shown>{lead}</Shown>{' '}
        </strong>
      ) : null}
      <Shown>{children}</Shown>
    </div>
  );
}
