import { ChevronDown, ChevronRight } from 'lucide-react';
import { useContext } from 'react';
import { ProblemsContext } from './Field.tsx';

/** What opens the fields beneath a row of a table; says so where a problem hides in a closed one. */
export function Opener({ name, pointer, open, onToggle }: { name: string; pointer: string; open: boolean; onToggle: () => void }) {
  const bad = useContext(ProblemsContext).some((problem) => problem.pointer.startsWith(`${pointer}/`));
  const Arrow = open ? ChevronDown : ChevronRight;
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        className="inline-flex items-baseline gap-1.5 text-left font-semibold hover:underline"
        onClick={onToggle}
      >
        <Arrow size={15} className="shrink-0 self-center" aria-hidden />
        {name || 'unnamed'}
      </button>
      {bad && !open ? <span className="ml-2 text-[0.87rem] text-ember-text">needs attention</span> : null}
    </>
  );
}
