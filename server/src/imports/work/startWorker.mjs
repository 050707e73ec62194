// Node hands no loader on to worker threads, so the worker registers the one that the server itself was started with.
import { register } from 'tsx/esm/api';

register();
await import('./worker.ts');
