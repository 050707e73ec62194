// Node hands no loader on to worker threads, so the worker registers the one that the server itself was started with.
import { register } from 'tsx/esm/api';

register();
const { default: work } = await import('./worker.ts');
export default work;
