import type { ReactNode } from 'react';
import { Shown } from './Shown.tsx';

export function Section({
  title,
  hint,
  action,
  children,
}: {
  title: ReactNode;
  hint?: ReactNode;
  action?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="mb-8">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>
          <Shown>{title}</Shown>
          {hint ? (
            <span className="ml-3 text-[0.9rem] font-normal text-soft">
              <Shown>{hint}</Shown>
            </span>
          ) : null}
        </h2>
        {action}
      </div>
      {children}
    </section>
  );
}
