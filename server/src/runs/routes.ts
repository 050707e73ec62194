import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { ChosenWindowBody, SignOffBody } from '@red-ember/contract';
import { body, unprocessable } from '../http/problems.ts';
import type { RunService } from './service.ts';

function queryNumber(value: unknown, fallback: number, name: string): number {
  if (value === undefined) return fallback;
  const number = Number(value);
  if (!Number.isFinite(number) || number < 0) throw unprocessable(`${name} must be a number of 0 or more.`);
  return number;
}

export function runRoutes(runs: RunService): Router {
  const router = Router();
  router.get('/studies/:id/runs', (req, res) => {
    res.json(runs.ofStudy(req.params.id));
  });
  router.get('/studies/:id/settled-loads', (req, res) => {
    res.json(runs.settledLoads(req.params.id));
  });
  router.get('/runs/:id', (req, res) => {
    res.json(runs.get(req.params.id));
  });
  router.get('/runs/:id/conditions', (req, res) => {
    res.json(runs.conditions(req.params.id));
  });
  router.put('/runs/:id/sign-off', (req, res) => {
    res.json(runs.signOff(req.params.id, body(SignOffBody, req)));
  });
  router.put('/runs/:id/windows/:phase', (req, res) => {
    const window = body(ChosenWindowBody, req);
    res.json(runs.setWindow(req.params.id, Number(req.params.phase), window));
  });
  router.delete('/runs/:id/windows/:phase', (req, res) => {
    res.json(runs.setWindow(req.params.id, Number(req.params.phase), null));
  });
  router.get('/runs/:id/samples.csv', async (req, res) => {
    const rows = runs.samplesCsv(req.params.id, queryNumber(req.query.from, 0, 'from'), queryNumber(req.query.to, Infinity, 'to'));
    res.attachment(`run-${runs.get(req.params.id).number}-samples.csv`).type('text/csv; charset=utf-8');
    await pipeline(Readable.from(rows), res);
  });
  router.get('/runs/:id/trace', (req, res) => {
    const points = Math.min(4000, Math.max(20, queryNumber(req.query.points, 600, 'points')));
    res.json(runs.trace(req.params.id, queryNumber(req.query.from, 0, 'from'), queryNumber(req.query.to, Infinity, 'to'), points));
  });
  return router;
}
