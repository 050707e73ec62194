import type { AskedBench } from './bench.ts';

export interface PackedFile {
  path: string;
  text: string;
}

interface Field {
  name: string;
  type: 'number' | 'string';
}

/** Cells of the first line of a CSV table. */
function headerOf(csv: string): string[] {
  const line = csv.slice(0, csv.indexOf('\n')).replace(/\r$/, '');
  return [...line.matchAll(/("(?:[^"]|"")*"|[^,]*)(?:,|$)/g)]
    .slice(0, -1)
    .map(([, cell = '']) => (cell.startsWith('"') ? cell.slice(1, -1).replace(/""/g, '"') : cell));
}

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
  schema: { fields: headerOf(csv).map((name): Field => ({ name, type })), missingValues: [''] },
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
 * A study as files that need nothing else to be read.
 *
 * @see Data Package, Frictionless Data, specs.frictionlessdata.io
 */
export async function dataPackage(bench: AskedBench, studyId: string): Promise<PackedFile[]> {
  const params = { id: studyId };
  const study = await bench.ask('study', { params });
  const runs = await bench.ask('listRuns', { params });
  const pretty = (value: unknown) => `${JSON.stringify(value, null, 2)}\n`;
  const files: PackedFile[] = [
    { path: 'study.json', text: pretty(study) },
    { path: 'runs.json', text: pretty(runs) },
    { path: 'mounts.json', text: pretty(await bench.ask('listMounts', { params })) },
    { path: 'history.json', text: pretty(await bench.ask('studyHistory', { params })) },
    { path: 'report.html', text: await bench.text('report', { params }) },
  ];
  const resources = [
    document('study.json', 'The study as it was written down', 'application/json'),
    document('runs.json', 'Its runs: phases, marks, channels, what was held', 'application/json'),
    document('mounts.json', 'Its mounts', 'application/json'),
    document('history.json', 'What was changed, and what it moved', 'application/json'),
    document('report.html', 'The report', 'text/html'),
  ] as object[];
  const add = (path: string, title: string, text: string, type: Field['type']) => {
    files.push({ path, text });
    resources.push(table(path, title, text, type));
  };
  add('readings.csv', 'Readings of every run, mixed texts and numbers', await bench.text('readingsCsv', { params }), 'string');
  for (const run of runs) {
    // A run of figures that were given has no samples.
    if (run.figures || run.state === 'waiting') continue;
    const path = `samples/run-${run.number}.csv`;
    add(path, `Samples of run ${run.number} as they were read`, await bench.text('samplesCsv', { params: { id: run.id } }), 'number');
  }
  const description = {
    name: `red-ember-${studyId.toLowerCase()}`,
    title: study.title,
    profile: 'data-package',
    created: new Date().toISOString(),
    resources,
  };
  return [{ path: 'datapackage.json', text: pretty(description) }, ...files];
}
