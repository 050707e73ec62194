import { useSaveStudyMutation } from './api.ts';
import { useAppSelector } from './store.ts';

/** Saves a study in the name of whoever signed last in this browser; in nobody's where nobody did. */
export function useSaveStudy() {
  const by = useAppSelector((state) => state.settings.initials);
  const [save, saving] = useSaveStudyMutation();
  return [(sent: Omit<Parameters<typeof save>[0], 'by'>) => save({ ...sent, by }), saving] as const;
}
