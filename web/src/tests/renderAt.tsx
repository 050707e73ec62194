import { cleanup, render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { Provider } from 'react-redux';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { vi } from 'vitest';
import type { Problem, Study } from '@red-ember/contract';
import { api } from '../data/api.ts';
import { stopSettled } from '../data/stops.ts';
import { store } from '../data/store.ts';
import { StopKeeper } from '../frame/StopKeeper.tsx';
import { cardDone } from '../mount/cardSlice.ts';
import { discarded } from '../study/draftSlice.ts';
import { StudyFrame } from '../study/StudyFrame.tsx';
import * as made from '@red-ember/testing';

export interface Asked {
  method: string;
  path: string;
  search: string;
  headers: Headers;
  body: unknown;
}

type Answer = unknown | ((asked: Asked) => unknown);

/** An answer that is a problem. */
export function problem(status: number, detail: string, errors?: Problem['errors']): { problem: Problem } {
  return { problem: { type: 'about:blank', title: 'Problem', status, detail, ...(errors ? { errors } : {}) } };
}

/** A server in the page's memory: what it was asked, and what it answers by "METHOD /path". */
export class FakeServer {
  readonly asked: Asked[] = [];
  private readonly answers = new Map<string, Answer>();

  constructor(study: Study = made.study()) {
    const at = `/studies/${study.id}`;
    this.on(`GET ${at}`, study)
      .on(`GET ${at}/mounts`, [made.mount('m-bare', 'bare'), made.mount('m-lid', 'lid')])
      .on(`GET ${at}/runs`, made.runs)
      .on(`GET ${at}/verdict`, made.verdict(study))
      .on(`GET ${at}/history`, [])
      .on(`GET ${at}/agreements`, [])
      .on(`GET ${at}/surveys`, [])
      .on(`GET ${at}/scatter`, [])
      .on(`GET ${at}/settled-loads`, [])
      .on('GET /record', { record: { right: 0, missed: 0, open: 0, shareRight: null, meanErrorK: null, biasK: null }, predictions: [] })
      .on('GET /change-overs', {})
      .on('GET /limits', made.limits)
      .on('GET /instruments', [made.logger])
      .on('GET /rigs', [made.rig])
      .on('GET /studies', [made.summary({ runs: 4 })]);
    for (const id of ['m-bare', 'm-lid', 'm1'])
      this.on(`GET /mounts/${id}/seat`, { mountId: id, runId: null, atMin: 3, check: null, sentence: 'No run yet.' });
    for (const run of made.runs) {
      this.on(`GET /runs/${run.id}`, run)
        .on(`GET /runs/${run.id}/conditions`, { Variant: run.variantId, Firmware: '2.4' })
        .on(`GET /runs/${run.id}/readings`, made.readings(run.id))
        .on(`GET /runs/${run.id}/trace`, made.trace(run.id));
    }
  }

  on(key: string, answer: Answer): this {
    this.answers.set(key, answer);
    return this;
  }

  /** The last request of this kind. */
  last(method: string, path: string): Asked | undefined {
    return this.asked.findLast((asked) => asked.method === method && asked.path === path);
  }

  async fetch(request: Request): Promise<Response> {
    const { pathname, search } = new URL(request.url);
    const path = pathname.replace(/^\/api\/v1/, '');
    const text = await request.clone().text();
    let body: unknown = text;
    try {
      body = JSON.parse(text);
    } catch {
      // forms and empty bodies stay text
    }
    const asked = { method: request.method, path, search, headers: request.headers, body };
    this.asked.push(asked);
    const key = `${request.method} ${path}`;
    if (!this.answers.has(key)) return this.respond(problem(404, `nothing at ${key}`));
    const answer = this.answers.get(key);
    return this.respond(await (typeof answer === 'function' ? (answer as (asked: Asked) => unknown)(asked) : answer));
  }

  private respond(answer: unknown): Response {
    const failed = (answer as { problem?: Problem } | null)?.problem;
    if (failed)
      return new Response(JSON.stringify(failed), { status: failed.status, headers: { 'content-type': 'application/problem+json' } });
    return new Response(JSON.stringify(answer ?? null), { status: 200, headers: { 'content-type': 'application/json' } });
  }
}

/** Shows a page at an address, with the study loaded where the address has one. */
export function renderAt(path: string, page: ReactElement, server: FakeServer = new FakeServer()): FakeServer {
  cleanup();
  vi.stubGlobal('fetch', (request: Request) => server.fetch(request));
  store.dispatch(api.util.resetApiState());
  store.dispatch(discarded('s1'));
  store.dispatch(cardDone('s1'));
  for (const { runId } of store.getState().stops) store.dispatch(stopSettled(runId));
  const [, rest = ''] = /^\/studies\/[^/]+\/([^?]*)/.exec(path) ?? [];
  const pattern = /^run\/(?!import)/.test(rest) ? 'run/:runId' : rest;
  const router = createMemoryRouter(
    [
      { path: '/studies/:studyId', element: <StudyFrame />, children: [{ path: pattern, element: page }] },
      { path: '/', element: page },
      { path: '*', element: <p>elsewhere</p> },
    ],
    { initialEntries: [path] },
  );
  render(
    <Provider store={store}>
      <StopKeeper />
      <RouterProvider router={router} />
    </Provider>,
  );
  return server;
}
