import { parse } from 'csv-parse/sync';
import type { AskedBench } from './bench.ts';

export interface PackedFile {
  path: string;
  text: string;
}

interface Field {
  name: string;
  type: 'number' | 'string';
}

/** Texts among the numbers of a run's samples. */
const TEXTS = ['phase'];

const table = (path: string, title: string, csv: string, type: Field['type']) => ({
  name: path
    .replace(/\.csv$/, '')
    .replace(/[^a-z0-9]+/gi, '-')
    .toLowerCase(),
  path,
  title,
  profile: 'tabular-data-resource',
  format: 'csv',
  mediatype: 'text/csv',
  encoding: 'utf-8',
  dialect: { commentChar: '#' },
  schema: {
    fields: (parse(csv, { to: 1, comment: '#', comment_no_infix: true })[0] ?? []).map((name): Field => ({
      name,
      type: TEXTS.includes(name) ? 'string' : type,
    })),
    missingValues: [''],
  },
});
const document = (path: string, title: string, mediatype: string) => ({
  name: path.replace(/[^a-z0-9]+/gi, '-').toLowerCase(),
  path,
  title,
  profile: 'data-resource',
  mediatype,
  encoding: 'utf-8',
});

/**
 * A study as files that need nothing else to be read, one after the other: samples of many runs are never held at once. What describes them
 * comes last, so that a folder without it is known to be unfinished.
 *
 * @see Data Package, Frictionless Data, specs.frictionlessdata.io
 */
export async function* dataPackage(bench: AskedBench, studyId: string): AsyncGenerator<PackedFile> {
  const params = { id: studyId };
  const study = await bench.ask('study', { params });
  const runs = await bench.ask('listRuns', { params });
  const pretty = (value: unknown) => `${JSON.stringify(value, null, 2)}\n`;
  const resources: object[] = [];
  const described = (path: string, title: string, mediatype: string, text: string): PackedFile => {
    resources.push(document(path, title, mediatype));
    return { path, text };
  };
  const tabled = (path: string, title: string, text: string, type: Field['type']): PackedFile => {
    resources.push(table(path, title, text, type));
    return { path, text };
  };
  const json = 'application/json';
  yield described('study.json', 'The study as it was written down', json, pretty(study));
  yield described('runs.json', 'Its runs: phases, marks, channels, what was held', json, pretty(runs));
  yield described('mounts.json', 'Its mounts', json, pretty(await bench.ask('listMounts', { params })));
  yield described('history.json', 'What was changed, and what it moved', json, pretty(await bench.ask('studyHistory', { params })));
  yield described('report.html', 'The report', 'text/html', await bench.text('report', { params }));
  yield tabled('readings.csv', 'Readings of every run, texts and numbers', await bench.text('readingsCsv', { params }), 'string');
  for (const run of runs) {
    // A run of figures that were given has no samples.
    if (run.figures || run.state === 'waiting') continue;
    const text = await bench.text('samplesCsv', { params: { id: run.id } });
    yield tabled(`samples/run-${run.number}.csv`, `Samples of run ${run.number} as they were read`, text, 'number');
  }
  const name = `red-ember-${studyId.toLowerCase()}`;
  const description = { name, title: study.title, profile: 'data-package', created: new Date().toISOString(), resources };
  yield { path: 'datapackage.json', text: pretty(description) };
}
