import { PageTabs } from '../frame/PageTabs.tsx';

/** The pages of Judge: two sides, all of them, steps, factors, what to choose, what is carried, what holds the part back, what would be, and what does not fit in. */
export function JudgeTabs() {
  return (
    <PageTabs
      station="Judge"
      pages={[
        { path: 'judge', label: 'Two sides' },
        { path: 'judge/all', label: 'All at once' },
        { path: 'judge/steps', label: 'Steps' },
        { path: 'judge/factors', label: 'Factors' },
        { path: 'judge/choice', label: 'Choice' },
        { path: 'judge/carry', label: 'Carry' },
        { path: 'judge/held', label: 'Held back' },
        { path: 'judge/what-if', label: 'What if' },
        { path: 'judge/odd', label: 'Odd one out' },
      ]}
    />
  );
}
