import type { Degrees } from '@red-ember/core';
import { unprocessable } from '../http/problems.ts';
import type { Handlers } from '../http/serve.ts';
import { changeOf } from '../verdicts/routes.ts';
import type { ReportService } from './service.ts';

/** The page carries its own style and nothing else: no scripts, no requests. */
const POLICY = "default-src 'none'; style-src 'unsafe-inline'; font-src data:; frame-ancestors 'self'";

function degreesOf(asked: string | undefined): Degrees {
  if (asked === undefined || asked === 'C' || asked === 'F') return asked ?? 'C';
  throw unprocessable('Temperatures are shown in C or F.');
}

export const reportHandlers = (reports: ReportService) =>
  ({
    report: ({ params, query }) => {
      const { name, text } = reports.page(params.id, { a: query.a, b: query.b, change: changeOf(query) }, degreesOf(query.degrees));
      return { content: text, name, inline: query.download !== 'true', headers: { 'Content-Security-Policy': POLICY } };
    },
    readingsCsv: ({ params, query }) => {
      const { name, text } = reports.csv(params.id, { a: query.a, b: query.b, change: changeOf(query) });
      return { content: text, name };
    },
  }) satisfies Partial<Handlers>;
