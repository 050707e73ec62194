import { PageTabs } from '../frame/PageTabs.tsx';

/** The three pages of Look: what is read, where it lies, and what the camera saw. */
export function LookTabs() {
  return (
    <PageTabs
      station="Look"
      pages={[
        { path: 'look', label: 'Spots and limits' },
        { path: 'look/map', label: 'Board map' },
        { path: 'look/camera', label: 'Camera survey' },
      ]}
    />
  );
}
