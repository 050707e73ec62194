import { type Limit, type LimitBody, type PutLimitBody } from '@red-ember/contract';
import { COMPONENT_CLASSES, startLimits } from '@red-ember/study';
import type { HistoryStore } from '../history/store.ts';
import { changedMeanwhile } from '../http/problems.ts';
import type { LimitStore } from './store.ts';

/** The limits library: what each class of component stands, shared by all studies. */
export class LimitService {
  constructor(
    private readonly store: LimitStore,
    private readonly history: HistoryStore,
    private readonly now: () => Date = () => new Date(),
  ) {}

  list(): Limit[] {
    const stored = this.store.all();
    const start = startLimits();
    return COMPONENT_CLASSES.map((componentClass) => {
      const own = stored.get(componentClass);
      return { componentClass, ...(own?.body ?? start[componentClass]), version: own?.version ?? 0, updatedAt: own?.updatedAt ?? null };
    });
  }

  /** Studies keep the values they were written with; a changed library serves the spots to come. @throws HttpProblem 412 */
  put(body: PutLimitBody, expectedVersion: number): Limit {
    const { componentClass, ...limit } = body;
    const before = this.list().find((entry) => entry.componentClass === componentClass)!;
    const at = this.now().toISOString();
    if (!this.store.put(componentClass, limit as LimitBody, expectedVersion, at)) throw changedMeanwhile('This limit');
    this.history.add({ entity: 'limit', entityId: componentClass, at, before });
    return this.list().find((entry) => entry.componentClass === componentClass)!;
  }
}
