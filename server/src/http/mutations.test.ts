import * as fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addressOf, OPERATION_KEYS, OPERATIONS, type Operation, type OperationKey } from '@red-ember/contract';
import { blankPart } from '@red-ember/study';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

/** How many mutated requests are sent; RED_EMBER_MUTATIONS=20000 for the long form. */
const MOST = Number(process.env.RED_EMBER_MUTATIONS ?? 1500);

let bench: TestBench;
let params: Record<string, string>;
const errors: string[] = [];
beforeAll(async () => {
  bench = await testBench();
  const study = (await bench.call('POST', '/api/v1/studies', studyBody())).json;
  const run = madeRun(bench, study.id, 'v-bare', '2026-03-01T08:00:00Z', { top: [30, 40] });
  madeRun(bench, study.id, 'v-lid', '2026-03-01T12:00:00Z', { top: [28, 37] });
  params = { id: study.id, run, phase: '1', reading: 'r', logId: 'l', job: 'j' };
}, 30_000);
afterAll(() => bench.remove());

const deep = (n: number) => `${'['.repeat(n)}${']'.repeat(n)}`;
/** What stands in the place of a value: of another kind, too large, too many, or a name of the program's own. */
const ODD: unknown[] = [
  null, true, 0, -1, 1e308, -1e308, 1e-320, 4294968296, '', ' ', '__proto__', 'constructor', '0x10', '1e5', '\u0000', '\u202e', '../..', '=1+1',
  [], {}, [null], [[]], [{}], [[[[[[[[]]]]]]]], { constructor: 1 }, { length: 5 }, { toString: null }, Array.from({ length: 500 }, () => 7),
  Array.from({ length: 60 }, () => ({})), 'x'.repeat(5000), { a: { b: { c: { d: {} } } } },
]; // prettier-ignore

/** Every place in a body, as a path of keys. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path];
  return [path, ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...path, Array.isArray(value) ? Number(key) : key]))];
}

function withAt(value: unknown, path: readonly (string | number)[], put: unknown): unknown {
  if (path.length === 0) return put;
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }) as Record<string | number, unknown>;
  copy[path[0]!] = withAt(copy[path[0]!], path.slice(1), put);
  return copy;
}

const SOUND: Partial<Record<OperationKey, unknown>> = {
  createStudy: studyBody({ claims: [{ id: 'c', text: 'x', outcome: 'temperature', spotId: 'tc1', direction: 'cooler', leastEffect: 1 }] }),
  saveStudy: studyBody(),
  copyStudy: { title: 'Copy' },
  putLimit: { componentClass: 'flash', limitC: 85, limitSource: 'x', cutOutC: 90, cutOutHoldS: 5, throttleC: null, throttleSource: '' },
  createInstrument: { name: 'Logger', kind: 'x', serial: '1', notes: '', channels: [{ id: 'ch', name: 'TC', quantity: 'temperature', percentOfReading: 0, fixed: 0.5, thermocouple: null, resolution: 0.1, lagS: 2, drift: 0, place: '' }] }, // prettier-ignore
  keepPart: { part: { ...blankPart('p', 'Pad'), kind: 'pad', pad: { widthMm: 20, heightMm: 20, thickMm: 1 } }, currency: 'EUR' },
  saveKeptPart: { part: blankPart('p', 'Pad'), currency: 'EUR' },
  makeMount: { variantId: 'v-bare', confirmed: [], note: '' },
  startRun: { mountId: 'm', timeScale: 1, seed: 1 },
  lookBefore: { mountId: 'm', confirmedLocks: [], faults: [] },
  signOff: { disposition: 'use', reason: '' },
  setWindow: { phase: 1, startS: 700, endS: 900 },
  readSurvey: { text: '1,2,3\n4,5,6\n', name: 'a.csv' },
};

async function send(key: OperationKey, method: string, path: string, body: string | undefined): Promise<void> {
  const response = await fetch(`http://127.0.0.1:${bench.port}${path}`, {
    method,
    headers: { 'content-type': 'application/json', 'if-match': '"1"' },
    ...(body === undefined || method === 'GET' ? {} : { body }),
  });
  const text = await response.text();
  if (response.status >= 500) errors.push(`${key} ${path} ${String(body).slice(0, 300)}: ${response.status} ${text.slice(0, 100)}`);
}

describe('what is not meant', () => {
  // Events without end, and a file of the whole bench: it takes nothing that could be meant otherwise, and packs every study that is made here.
  const asked = OPERATION_KEYS.filter((key) => key !== 'live' && key !== 'benchFile');
  const pathOf = (key: OperationKey, id: string, query: Record<string, string> = {}) => {
    const filled = Object.fromEntries(
      [...OPERATIONS[key].path.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name!, name === 'id' ? id : (params[name!] ?? 'x')]),
    );
    return `/api/v1${addressOf(key, filled as never, query as never)}`;
  };

  it(
    'is answered with a sentence, and never with an error of the server, in any body',
    async () => {
      const one = fc.record({
        key: fc.constantFrom(...asked),
        place: fc.nat(),
        odd: fc.constantFrom(...ODD),
        whole: fc.nat(9),
        id: fc.nat(5),
      });
      for (const { key, place, odd, whole, id } of fc.sample(one, { numRuns: MOST, seed: 5 })) {
        const { method, path } = OPERATIONS[key] as Operation;
        const sound = SOUND[key] ?? {};
        const all = places(sound);
        const body = whole === 0 ? odd : withAt(sound, all[place % all.length]!, odd);
        const ofRun = path.startsWith('/runs');
        await send(key, method.toUpperCase(), pathOf(key, id === 0 ? 'nothing' : ofRun ? params.run! : params.id!), JSON.stringify(body));
      }
      expect(errors).toEqual([]);
    },
    60_000 + 90 * MOST,
  );

  it('nor in names of the program, depth, or what is no JSON', async () => {
    for (const key of Object.keys(SOUND) as OperationKey[]) {
      const { method } = OPERATIONS[key] as Operation;
      for (const body of [
        deep(20_000),
        `{"a":${deep(20_000)}}`,
        '{"__proto__":{"x":1}}',
        '{"constructor":{"prototype":{}}}',
        '{',
        '"text"',
        'null',
        '[]',
        '7',
      ])
        await send(key, method.toUpperCase(), pathOf(key, params.id!), body);
      const sound = JSON.stringify(SOUND[key]);
      for (const name of ['__proto__', 'constructor', 'toString', 'hasOwnProperty'])
        for (const value of ['1', '{}', '[]', 'null'])
          await send(key, method.toUpperCase(), pathOf(key, params.id!), sound.replace('{', `{"${name}":${value},`));
    }
    expect(errors).toEqual([]);
  }, 60_000);

  it('nor in a query', async () => {
    const odd = ['power:1e308:1e308', 'power:-1:1', 'power:0:0', 'power:NaN:1', 'noise:1e308', 'noise:', '__proto__', 'constructor', 'level:__proto__=x', 'run:__proto__', 'study:__proto__:constructor', '1e308', '-1', 'Infinity', '\u0000', 'x'.repeat(3000)]; // prettier-ignore
    for (const key of asked) {
      const { method, query = {}, path } = OPERATIONS[key] as Operation;
      for (const name of Object.keys(query))
        for (const value of odd)
          await send(key, method.toUpperCase(), pathOf(key, path.startsWith('/runs') ? params.run! : params.id!, { [name]: value }), '{}');
    }
    expect(errors).toEqual([]);
  }, 60_000);

  it('nor in an upload that is no form, is cut short, or has fields of other names', async () => {
    const type = 'multipart/form-data; boundary=b';
    const part = (name: string, text = 'x') => `--b\r\nContent-Disposition: form-data; name="${name}"; filename="a.csv"\r\n\r\n${text}\r\n`;
    for (const key of OPERATION_KEYS.filter((entry) => (OPERATIONS[entry] as Operation).upload))
      for (const body of [
        '',
        'x',
        '--b',
        part('log'),
        part('photo'),
        `${part('other')}--b--\r\n`,
        `${part('log')}${part('log')}--b--\r\n`,
        '--b\r\nContent-Disposition: form-data; name="__proto__"\r\n\r\n1\r\n--b--\r\n',
        `${part('log', '\u0000'.repeat(2000))}--b--\r\n`,
        `${part('photo', 'no photograph')}--b--\r\n`,
      ]) {
        const response = await fetch(`http://127.0.0.1:${bench.port}${pathOf(key, params.id!)}`, {
          method: 'POST',
          headers: { 'content-type': type },
          body,
        });
        if (response.status >= 500) errors.push(`${key} ${body.slice(0, 80)}: ${response.status}`);
        await response.text();
      }
    expect(errors).toEqual([]);
  }, 60_000);
});
