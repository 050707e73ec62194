import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Study } from '@red-ember/contract';
import { EMBER, INK, QUENCH, STONE } from './figures.ts';
import { Html, html } from './html.ts';

/** The product's own face inside the file, so that the report looks the same on a machine that has never seen it. */
const FACE = readFileSync(
  fileURLToPath(import.meta.resolve('@fontsource-variable/commissioner/files/commissioner-latin-wght-normal.woff2')),
).toString('base64');

const STYLE = `@font-face{font-family:Commissioner;font-weight:100 900;src:url(data:font/woff2;base64,${FACE}) format('woff2')}
:root{color-scheme:light}body{font:15px/1.5 Commissioner,"Segoe UI",system-ui,sans-serif;color:${INK};background:#fff;max-width:860px;margin:32px auto;padding:0 24px;font-variant-numeric:tabular-nums}
h1{font-size:27px;font-weight:400;line-height:1.3;margin:6px 0 10px}h2{font-size:17px;margin:30px 0 8px;border-top:1px solid ${INK};padding-top:8px}h3{font-size:15px;margin:18px 0 4px}small,.dim,figcaption{color:${STONE};font-weight:400;font-size:13px}
table{border-collapse:collapse;width:100%;font-size:13px}th{text-align:left;color:${STONE};font-weight:400}td,th{padding:3px 8px 3px 0;border-bottom:1px solid #ece6da;vertical-align:top}.strips td{border:0;vertical-align:middle}.n{text-align:right;white-space:nowrap}
.cooler,.quench{color:${QUENCH};font-weight:600}.warmer,.ember{color:${EMBER};font-weight:600}.strong{font-weight:600}.under td{padding-top:0;font-size:.85em;color:#5c544c}.call{margin:2px 0 0;font-weight:600}figure{margin:12px 0}svg{max-width:100%;height:auto}ul{padding-left:18px;margin:6px 0}
.sheet+.sheet{break-before:page;border-top:3px solid ${INK};margin-top:48px;padding-top:24px}.spot,figure,tr{break-inside:avoid}@media print{body{margin:0;max-width:none}.sheet+.sheet{border:0;margin:0;padding:0}.sheet{font-size:12.5px;line-height:1.4}.sheet h1{font-size:22px}.sheet h2{margin:14px 0 4px;padding-top:5px;font-size:14px}.sheet p{margin:5px 0}.sheet table,.sheet .dim,.sheet small{font-size:11.5px}.sheet h3{font-size:13px;margin:8px 0 2px}h2{break-after:avoid}}`;

/** 2026-11-30 14:05, on the clocks of a zone. */
export const timeIn = (moment: Date, zone: string): string =>
  // The one common way of writing that puts the year first and needs no letters.
  new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' }).format(moment);

/** Of which study and parts it speaks, and when it was written. */
export const paperHead = ({ study, writtenAt, zone = 'UTC' }: { study: Study; writtenAt: Date; zone?: string }): Html =>
  html`<p class="dim">
    ${study.title} / ${study.subjects.map((subject) => subject.name).join(', ')} / written ${timeIn(writtenAt, zone)} ${zone} by Red Ember
  </p>`;

/** Whose the decision is. */
export const paperFoot: Html = html`<p class="dim">
  This report advises; the tester decides. Over-temperature shortens a part's life; follow the maker's service instructions, local
  electrical codes and licensed practice.
</p>`;

/** A page that is a file of its own: its style and its face are in it, and it asks nothing of anyone. */
export const paper = (title: string, body: Html): string =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <style>
          ${new Html(STYLE)}
        </style>
      </head>
      <body>
        ${body}
      </body>
    </html>`.text;
