import { orderRuns, type OrderInput, type RunOrder } from '@red-ember/core';
import { asSentence } from '../ui/asSentence.ts';

/** Answers a question of least teardown off the page's own thread. */
self.onmessage = (message: MessageEvent<OrderInput>) => {
  let answer: { order: RunOrder } | { sentence: string };
  try {
    answer = { order: orderRuns(message.data) };
  } catch (error) {
    answer = { sentence: asSentence((error as Error).message) };
  }
  self.postMessage(answer);
};
