import type { QueryOf } from '@red-ember/contract/operations';

/** What a pair is asked for with, as the addresses of Judge and Report have it; empty where nothing is said. */
export interface PairAsk {
  a: string;
  b: string;
  load: string;
  restate: string;
  signedOff: boolean;
  /** 'usual', or empty for strict. */
  evidence: string;
}

export const pairAskOf = (search: URLSearchParams): PairAsk => ({
  a: search.get('a') ?? '',
  b: search.get('b') ?? '',
  load: search.get('load') ?? '',
  restate: search.get('restate') ?? '',
  signedOff: search.get('signed') === '1',
  evidence: search.get('evidence') ?? '',
});

/** As the server is asked. */
export function queryOfAsk({ a, b, load, restate, signedOff, evidence }: PairAsk): QueryOf<'verdict'> {
  return {
    ...(a ? { a } : {}),
    ...(b ? { b } : {}),
    ...(load ? { load } : {}),
    ...(restate ? { restate } : {}),
    ...(signedOff ? { signedOff: '1' } : {}),
    ...(evidence ? { evidence } : {}),
  };
}

/** As an address of the client has it; empty where nothing is asked otherwise than usual. */
export function searchOfAsk({ signedOff, ...texts }: PairAsk): string {
  const entries = Object.entries(texts).filter(([, value]) => value !== '');
  const search = new URLSearchParams([...entries, ...(signedOff ? [['signed', '1']] : [])]).toString();
  return search === '' ? '' : `?${search}`;
}
