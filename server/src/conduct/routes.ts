import type { Handlers } from '../http/serve.ts';
import type { LiveHub } from '../live/hub.ts';
import type { PreflightService } from '../preflight/service.ts';
import type { RehearsalService } from '../rehearsals/service.ts';
import type { Conductor } from '../rigs/conductor.ts';
import type { RigHub } from '../rigs/rigHub.ts';
import type { RunService } from '../runs/service.ts';
import type { ConductService } from './service.ts';

export const conductHandlers = (conduct: ConductService, preflights: PreflightService) =>
  ({
    startRun: ({ params, body }) => conduct.start(params.id, body, body.preflightId ? preflights.take(body.preflightId, body) : null),
    stopRun: ({ params, body }) => conduct.stop(params.id, body.reason),
    markRun: ({ params, body }) => conduct.mark(params.id, body),
    intervene: ({ params, body }) => conduct.intervene(params.id, body),
    pauseRun: ({ params }) => conduct.pause(params.id),
    goOn: ({ params, body }) => conduct.goOn(params.id, body.reason),
    runLoad: ({ params }) => conduct.load(params.id),
    moreTime: ({ params, body }) => conduct.moreTime(params.id, body.minutes),
  }) satisfies Partial<Handlers>;

export const liveHandlers = (live: LiveHub, runs: RunService, conductor: Conductor, rigs: RigHub, rehearsals: RehearsalService) =>
  ({
    listRigs: () =>
      rigs.list((id) => conductor.runOnRig(id) ?? rehearsals.runOnRig(id)).map((rig) => ({ ...rig, rehearsal: rehearsals.newest(rig.id) })),
    live: ({ params, res }) => {
      const run = runs.get(params.id);
      live.subscribe(run.id, res);
      res.write(`event: run\ndata: ${JSON.stringify(run)}\n\n`);
      const snapshot = conductor.snapshot(run.id);
      if (snapshot) res.write(`event: snapshot\ndata: ${JSON.stringify(snapshot)}\n\n`);
    },
  }) satisfies Partial<Handlers>;
