import type { ReactNode } from 'react';
import { Shown } from './Shown.tsx';

/** Something that went wrong, or what to do next; never colour alone. */
export function Notice({ tone, children, action }: { tone: 'error' | 'hint'; children: ReactNode; action?: ReactNode }) {
  return (
    <div
      role={tone === 'error' ? 'alert' : undefined}
      className={`my-3 flex flex-wrap items-center justify-between gap-3 border-l-[3px] bg-margin px-4 py-3 ${tone === 'error' ? 'border-ember' : 'border-quench'}`}
    >
      <div className="max-w-prose first-letter:uppercase">
        <Shown>{children}</Shown>
      </div>
      {action}
    </div>
  );
}

export function Waiting({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-soft">
      {what}…
    </p>
  );
}
