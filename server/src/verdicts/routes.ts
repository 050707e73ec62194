import { Router } from 'express';
import { unprocessable } from '../http/problems.ts';
import type { JudgeChange, VerdictService } from './service.ts';

const text = (value: unknown) => (typeof value === 'string' && value !== '' ? value : undefined);

const finite = (value: string | undefined, name: string): number => {
  const number = Number(value);
  if (value === undefined || value === '' || !Number.isFinite(number)) throw unprocessable(`${name} must be a number.`);
  return number;
};

/** "power:200:0.8" carries both sides to 200 W, "noise:33" reads both off their sweeps at 33 dB(A). */
function changeOf(query: Record<string, unknown>): JudgeChange {
  const [kind, first, second] = (text(query.restate) ?? '').split(':');
  const load = text(query.load);
  const change: JudgeChange = { signedOffOnly: query.signedOff === '1', ...(load ? { load } : {}) };
  if (kind === 'power') {
    const [targetW, exponent] = [finite(first, 'The power'), finite(second ?? '1', 'The exponent')];
    if (targetW <= 0 || exponent <= 0) throw unprocessable('Power and exponent must be above zero.');
    return { ...change, restate: { kind, targetW, exponent } };
  }
  if (kind === 'noise') return { ...change, restate: { kind, levelDb: finite(first, 'The sound level') } };
  if (kind) throw unprocessable('A verdict can be restated at a power or at a noise level.');
  return change;
}

export function verdictRoutes(verdicts: VerdictService): Router {
  const router = Router();
  router.get('/studies/:id/verdict', (req, res) => {
    res.json(verdicts.pair(req.params.id, text(req.query.a), text(req.query.b), changeOf(req.query)));
  });
  router.get('/studies/:id/field', (req, res) => {
    res.json(verdicts.field(req.params.id, changeOf(req.query), text(req.query.loadsOf)));
  });
  router.get('/studies/:id/scatter', (req, res) => {
    res.json(verdicts.scatter(req.params.id));
  });
  router.get('/record', (_req, res) => {
    res.json(verdicts.record());
  });
  return router;
}
