import { PageTabs } from '../frame/PageTabs.tsx';

/** The four pages of Plan: what is compared, what is changed, what it is made of, and when it is run. */
export function PlanTabs() {
  return (
    <PageTabs
      station="Plan"
      pages={[
        { path: 'plan', label: 'Variants and recipe' },
        { path: 'plan/factors', label: 'Factors' },
        { path: 'plan/parts', label: 'Parts and fit' },
        { path: 'plan/order', label: 'Repeats, order, calendar' },
      ]}
    />
  );
}
