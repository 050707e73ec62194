import { PageTabs } from '../frame/PageTabs.tsx';

/** The three pages of Plan: what is compared, what it is made of, and when it is run. */
export function PlanTabs() {
  return (
    <PageTabs
      station="Plan"
      pages={[
        { path: 'plan', label: 'Variants and recipe' },
        { path: 'plan/factors', label: 'Factors' },
        { path: 'plan/order', label: 'Repeats, order, calendar' },
      ]}
    />
  );
}
