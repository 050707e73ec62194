import { mkdirSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import type { LogOfStudyBody, StudySummary } from '@red-ember/contract';
import { asFileName, callWords, counted, fixed, signed } from '@red-ember/core';
import { eachStudyFile } from '@red-ember/server';
import { Refused, type AskedBench } from './bench.ts';

/** What is said on the way out: 0 done, 1 refused, 2 asked wrongly, 3 done, and nothing can be called. */
export const EXIT = { done: 0, refused: 1, usage: 2, uncalled: 3 } as const;

export interface Outcome {
  exit: number;
  /** For people. */
  lines: string[];
  /** For scripts. */
  json: unknown;
}

/** Flags of a command, as they were typed. */
export type Flags = Readonly<Record<string, string | undefined>>;

/** A study by its id, its title, or a part of the title that only one has. @throws Refused */
async function studyOf(bench: AskedBench, asked: string | undefined): Promise<StudySummary> {
  if (!asked) throw new Refused('Say which study: its id or its title.');
  const all = await bench.ask('listStudies', { params: {} });
  const exact = all.filter(({ id, title }) => id === asked || title === asked);
  const found = exact.length > 0 ? exact : all.filter(({ title }) => title.toLowerCase().includes(asked.toLowerCase()));
  if (found.length === 1) return found[0]!;
  throw new Refused(
    found.length === 0
      ? `There is no study called ${asked}.`
      : `${found.length} studies are called so: ${found.map(({ title }) => title).join('; ')}.`,
  );
}

async function studies(bench: AskedBench): Promise<Outcome> {
  const all = await bench.ask('listStudies', { params: {} });
  const rows = all.map(({ id, title, family, runs }) => ({ id, title, family, runs }));
  return { exit: EXIT.done, json: rows, lines: rows.map(({ id, title, runs }) => `${id}  ${title}, ${counted(runs, 'run')}`) };
}

/** Folders below what all files lie in, the innermost three: they may name variants and mounts. Where a bench keeps its files is nobody's business. */
function foldersOf(files: readonly string[]): string[] {
  const paths = files.map((file) => dirname(resolve(file)).split(/[/\\]/));
  let shared = 0;
  while (paths.every((path) => shared < path.length && path[shared] === paths[0]![shared])) shared++;
  return paths.map((path) => path.slice(shared).slice(-3).join('/'));
}

/** Puts logs down and makes a study of them, or adds them to one. What was put down is taken up again where it is refused. */
async function importLogs(bench: AskedBench, files: readonly string[], flags: Flags): Promise<Outcome> {
  if (files.length === 0) throw new Refused('Name the files to import.');
  for (const file of files) if (!statSync(file, { throwIfNoEntry: false })?.isFile()) throw new Refused(`${file} is no file.`);
  if (files.length === 1 && /\.zip$/i.test(files[0]!)) return readBenchIn(bench, files[0]!);
  const zone = flags.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  const into = flags.into ? (await studyOf(bench, flags.into)).id : null;
  const folders = foldersOf(files);
  const put: string[] = [];
  const doubts: { fileName: string; doubts: string[] }[] = [];
  try {
    for (const [i, file] of files.entries()) {
      const log = await bench.ask('putLogDown', { params: {}, query: { zone, folder: folders[i]! }, file });
      put.push(log.id);
      if (log.doubts.length > 0) doubts.push({ fileName: log.fileName, doubts: log.doubts });
    }
    const logs = put.map((id) => ({ id }) as LogOfStudyBody);
    const made = await bench.ask('studyOfLogs', {
      params: {},
      body: { logs, ...(into ? { addTo: into } : {}), ...(flags.title ? { title: flags.title } : {}), zone },
    });
    put.length = 0;
    return {
      exit: EXIT.done,
      json: {
        studyId: made.study.id,
        title: made.study.title,
        runs: made.runs.map(({ id, number, sourceName }) => ({ id, number, sourceName })),
        leftOut: made.leftOut,
        doubts,
      },
      lines: [
        `${made.study.id}  ${made.study.title}, ${counted(made.runs.length, 'run')}`,
        ...made.leftOut.map(({ fileName, reason }) => `left out: ${fileName}, ${reason}`),
        ...doubts.flatMap(({ fileName, doubts: all }) => all.map((doubt) => `${fileName}: ${doubt}`)),
      ],
    };
  } finally {
    for (const id of put) await bench.ask('takeLogUp', { params: { logId: id } }).catch(() => null);
  }
}

/** How a verdict or a report is asked for; sides by the names of variants, or by their ids. @throws Refused */
async function sidesOf(bench: AskedBench, studyId: string, { a, b, load, restate }: Flags) {
  const { variants } = await bench.ask('study', { params: { id: studyId } });
  const idOf = (asked: string) => {
    const found = variants.find(({ id, name }) => id === asked || name.toLowerCase() === asked.toLowerCase());
    if (!found) throw new Refused(`There is no variant ${asked}: ${variants.map(({ name }) => name).join(', ')}.`);
    return found.id;
  };
  return { ...(a ? { a: idOf(a) } : {}), ...(b ? { b: idOf(b) } : {}), ...(load ? { load } : {}), ...(restate ? { restate } : {}) };
}

async function verdict(bench: AskedBench, [asked]: readonly string[], flags: Flags): Promise<Outcome> {
  const { id } = await studyOf(bench, asked);
  const answer = await bench.ask('verdict', { params: { id }, query: await sidesOf(bench, id, flags) });
  const { a, b, spots, leftOut } = answer.judgement;
  const nameOf = (spotId: string) => answer.spots.find((spot) => spot.id === spotId)?.name ?? spotId;
  const rows = spots.map(({ spotId, comparison, call }) => ({
    spot: nameOf(spotId),
    differenceK: comparison?.difference.value ?? null,
    plusMinusK: comparison?.budget.expanded ?? null,
    call: call.kind,
    words: callWords(call, b.name).words,
  }));
  const called = rows.some(({ call }) => call === 'cooler' || call === 'warmer' || call === 'equivalent');
  const sentence = answer.refusal ?? answer.sentence.map(({ text }) => text).join('');
  return {
    exit: called ? EXIT.done : EXIT.uncalled,
    json: {
      a: { name: a.name, runs: a.runIds.length },
      b: { name: b.name, runs: b.runIds.length },
      sentence,
      spots: rows,
      leftOut: leftOut.map(({ reason }) => reason),
    },
    lines: [
      sentence,
      ...rows.map(({ spot, differenceK, plusMinusK, words }) =>
        differenceK === null ? `${spot}: ${words}` : `${spot}: ${signed(differenceK, 1)} ± ${fixed(plusMinusK ?? 0, 1)} K, ${words}`,
      ),
      ...leftOut.map(({ reason }) => `left out: ${reason}`),
    ],
  };
}

function written(path: string, text: string): string {
  mkdirSync(dirname(path), { recursive: true });
  writeFileSync(path, text);
  return path;
}

async function report(bench: AskedBench, [asked]: readonly string[], flags: Flags): Promise<Outcome> {
  const { id, title } = await studyOf(bench, asked);
  const text = await bench.text('report', { params: { id }, query: await sidesOf(bench, id, flags) });
  const path = written(flags.out ?? `${asFileName(title, 'study')}.html`, text);
  return { exit: EXIT.done, json: { file: path }, lines: [path] };
}

/** Every study of the bench, each as its own study file, in one zip. */
async function exportBench(bench: AskedBench, flags: Flags): Promise<Outcome> {
  const to = flags.out ?? 'bench.zip';
  if (statSync(to, { throwIfNoEntry: false })) throw new Refused(`${to} is there already.`);
  mkdirSync(dirname(resolve(to)), { recursive: true });
  await bench.save('benchFile', { params: {} }, to);
  return { exit: EXIT.done, json: { file: to }, lines: [to] };
}

/** Everything of a study in open formats, one zip: definition, runs, samples, readings, report, and what each file holds. */
async function exportStudy(bench: AskedBench, [asked]: readonly string[], flags: Flags): Promise<Outcome> {
  if (asked === undefined) return exportBench(bench, flags);
  const { id, title } = await studyOf(bench, asked);
  const to = flags.out ?? `${asFileName(title, 'study')}.zip`;
  if (statSync(to, { throwIfNoEntry: false })) throw new Refused(`${to} is there already.`);
  mkdirSync(dirname(to), { recursive: true });
  await bench.save('studyFile', { params: { id } }, to);
  return { exit: EXIT.done, json: { file: to }, lines: [to] };
}

/** Studies of another bench, out of one file; one that cannot be read does not keep the others out. */
async function readBenchIn(bench: AskedBench, file: string): Promise<Outcome> {
  const folder = mkdtempSync(join(tmpdir(), 'red-ember-bench-'));
  const made: Outcome[] = [];
  const refused: { file: string; reason: string }[] = [];
  try {
    const studies = await eachStudyFile(file, folder, async (path, name) => {
      try {
        made.push(await readIn(bench, path));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        refused.push({ file: name, reason: error.message });
      }
    });
    if (studies === null) return readIn(bench, file);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return {
    exit: refused.length > 0 ? EXIT.refused : EXIT.done,
    json: { studies: made.map(({ json }) => json), refused },
    lines: [...made.flatMap(({ lines }) => lines), ...refused.map(({ file: name, reason }) => `left out: ${name}, ${reason}`)],
  };
}

/** A study of another bench, out of its file. */
async function readIn(bench: AskedBench, file: string): Promise<Outcome> {
  const made = await bench.ask('readStudyIn', { params: {}, file });
  const anew =
    made.moved.length === 0
      ? `judged anew, ${counted(made.compared, 'spot')} to the same`
      : `judged anew, ${made.moved.length} of ${counted(made.compared, 'spot')} to something else`;
  return {
    exit: EXIT.done,
    json: made,
    lines: [
      `${made.studyId}  ${made.title}, ${counted(made.runs, 'run')}; ${anew}`,
      ...made.moved.map(({ what, before, after }) => `${what}: ${before} there, ${after} here`),
    ],
  };
}

async function backup(bench: AskedBench): Promise<Outcome> {
  const made = await bench.ask('makeBackup', { params: {} });
  return { exit: EXIT.done, json: made, lines: [`A copy of ${Math.round(made.bytes / 1e5) / 10} MB was made: ${made.id}`] };
}

export const COMMANDS: Record<
  string,
  { does: string; run: (bench: AskedBench, rest: readonly string[], flags: Flags) => Promise<Outcome> }
> = {
  studies: { does: 'list the studies', run: studies },
  import: {
    does: 'FILE… [--title T | --into STUDY] [--zone Europe/Berlin]: make a study of logs, or add them to one; of one .zip, read a study file in, or all that a bench was packed into',
    run: importLogs,
  },
  verdict: {
    does: 'STUDY [--a VARIANT --b VARIANT] [--load NAME] [--restate power:180]: which is cooler; ends with 3 where nothing can be called',
    run: verdict,
  },
  report: { does: 'STUDY [--out FILE]: the report, one file of HTML', run: report },
  export: {
    does: '[STUDY] [--out FILE.zip]: the study file, or one file of all of them: definition, runs, samples, readings and report in open formats, described by datapackage.json',
    run: exportStudy,
  },
  backup: { does: 'make a copy of the bench beside its data', run: backup },
};
