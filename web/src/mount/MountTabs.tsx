import { PageTabs } from '../frame/PageTabs.tsx';

/** The pages of Mount: the next change-over, how things are fitted, what lies between part and sink, and what is printed. */
export function MountTabs() {
  return (
    <PageTabs
      station="Mount"
      pages={[
        { path: 'mount', label: 'Card' },
        { path: 'mount/steps', label: 'Steps' },
        { path: 'mount/pads', label: 'Pads and paste' },
        { path: 'mount/paper', label: 'On paper' },
      ]}
    />
  );
}
