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

function zoneOf(asked: string | undefined): string {
  const zone = asked ?? 'UTC';
  try {
    // Refuses what it cannot write a time in. It goes on by the name that was asked for: its own may be an older one of the same zone.
    new Intl.DateTimeFormat('en', { timeZone: zone }).format(0);
    return zone;
  } catch {
    throw unprocessable(`No zone is known by the name ${zone.slice(0, 60)}.`);
  }
}

function formOf(asked: string | undefined): 'whole' | 'short' {
  if (asked === undefined || asked === 'whole' || asked === 'short') return asked ?? 'whole';
  throw unprocessable('A report is whole, or short: a page for each reader.');
}

export const reportHandlers = (reports: ReportService) =>
  ({
    report: ({ params, query }) => {
      const asked = { a: query.a, b: query.b, change: changeOf(query) };
      const { name, text } = reports.page(params.id, asked, {
        degrees: degreesOf(query.degrees),
        zone: zoneOf(query.zone),
        form: formOf(query.form),
      });
      return { content: text, name, inline: query.download !== 'true', headers: { 'Content-Security-Policy': POLICY } };
    },
    readingsCsv: ({ params, query }) => {
      const { name, text } = reports.csv(params.id, { a: query.a, b: query.b, change: changeOf(query) });
      return { content: text, name };
    },
  }) satisfies Partial<Handlers>;
