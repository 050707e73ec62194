import type { SettlingTask } from './judge.ts';
import { settlingOf } from './judge.ts';

export default (task: SettlingTask) => settlingOf(task);
