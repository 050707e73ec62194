import { plantedIn } from '@red-ember/practice';
import type { PracticeStore } from './store.ts';

/** What the practice bench has wrong in a run: told to the rig, and written down nowhere before the answer is handed in. */
export class Planted {
  constructor(private readonly store: PracticeStore) {}

  in(studyId: string, variantId: string, mountNumber: number | null): string[] {
    const tried = this.store.find(studyId);
    if (!tried) return [];
    const side = (['a', 'b'] as const).find((each) => tried.sides[each] === variantId);
    return side ? plantedIn(tried.drawn, side, mountNumber) : [];
  }
}
