import { PageTabs } from '../frame/PageTabs.tsx';

/** The three pages of Mount: the next change-over, how things are fitted, and what lies between part and sink. */
export function MountTabs() {
  return (
    <PageTabs
      station="Mount"
      pages={[
        { path: 'mount', label: 'Card' },
        { path: 'mount/steps', label: 'Steps' },
        { path: 'mount/pads', label: 'Pads and paste' },
      ]}
    />
  );
}
