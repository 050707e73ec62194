import { PageTabs } from '../frame/PageTabs.tsx';

/** The pages of Read: one run, and what is usual of all runs of a variant. */
export function ReadTabs() {
  return (
    <PageTabs
      station="Read"
      pages={[
        { path: 'read', label: 'One run' },
        { path: 'read/normal', label: 'What is normal' },
      ]}
    />
  );
}
