import { useEffect, type ReactNode } from 'react';
import { Shown } from '../ui/Shown.tsx';

interface SheetProps {
  /** Where this is, e.g. the study's title. */
  crumb: ReactNode;
  /** Name for the window's title. */
  windowTitle: string;
  heading: ReactNode;
  /** Small line under the heading: what every figure on the page carries. */
  under?: ReactNode;
  actions?: ReactNode;
  margin: ReactNode;
  children: ReactNode;
}

/** A calm page to work down, with everything that qualifies it in the margin at the right. */
export function Sheet({ crumb, windowTitle, heading, under, actions, margin, children }: SheetProps) {
  useEffect(() => {
    document.title = `${windowTitle} · Red Ember`;
  }, [windowTitle]);
  return (
    <div className="min-h-screen xl:grid xl:grid-cols-[minmax(0,1fr)_18.6rem] print:!block print:!min-h-0">
      <main id="sheet" className="px-5 pb-16 pt-6 lg:px-8" tabIndex={-1}>
        <div className="mb-4 border-b border-ink pb-3">
          <div className="flex min-h-6 flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
            <p className="text-[0.93rem] text-soft">{crumb}</p>
            <div className="no-print flex flex-wrap items-center gap-2">{actions}</div>
          </div>
          <h1 className="mt-1 max-w-[52rem] text-balance first-letter:uppercase">
            <Shown>{heading}</Shown>
          </h1>
          {under ? (
            <div className="mt-1.5 text-pretty text-[0.93rem] text-soft">
              <Shown>{under}</Shown>
            </div>
          ) : null}
        </div>
        {children}
      </main>
      <aside aria-label="What qualifies this page" className="bg-margin px-5 pb-12 pt-6 xl:min-h-screen print:!min-h-0">
        <div
          className="grid gap-6 xl:sticky xl:top-6 xl:max-h-[calc(100vh-3rem)] xl:overflow-y-auto print:!static print:!max-h-none"
          tabIndex={0}
        >
          {margin}
        </div>
      </aside>
    </div>
  );
}
