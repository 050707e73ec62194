import { Tabs } from '../frame/PageTabs.tsx';

/** What the bench holds over all studies. */
export function BenchTabs() {
  return (
    <Tabs
      label="Lists of the bench"
      pages={[
        { to: '/runs', label: 'Runs' },
        { to: '/runs/mounts', label: 'Mounts' },
        { to: '/runs/parts', label: 'Parts' },
      ]}
    />
  );
}
