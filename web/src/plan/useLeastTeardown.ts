import { useEffect, useState } from 'react';
import type { OrderInput, RunOrder } from '@red-ember/core';

export type Ordered = { state: 'working' } | { state: 'done'; order: RunOrder } | { state: 'failed'; sentence: string };

/** Orders runs in a worker. A new question ends the old one: nobody waits for an answer that is not wanted any more. */
export function useLeastTeardown(input: OrderInput | null): Ordered {
  const key = input === null ? '' : JSON.stringify(input);
  const [answered, setAnswered] = useState<{ key: string; answer: Ordered }>({ key: '', answer: { state: 'working' } });
  useEffect(() => {
    if (key === '') return;
    const worker = new Worker(new URL('./orderWorker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ order: RunOrder } | { sentence: string }>) =>
      setAnswered({ key, answer: 'order' in data ? { state: 'done', order: data.order } : { state: 'failed', sentence: data.sentence } });
    worker.onerror = () => setAnswered({ key, answer: { state: 'failed', sentence: 'The order could not be computed.' } });
    worker.postMessage(JSON.parse(key));
    return () => worker.terminate();
  }, [key]);
  return answered.key === key ? answered.answer : { state: 'working' };
}
