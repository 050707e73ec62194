import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startBench } from '@red-ember/server';

const root = join(import.meta.dirname, '../..');
const samples = join(root, 'web/public/samples');
const day = readdirSync(samples)
  .filter((name) => name.endsWith('.csv'))
  .map((name) => join(samples, name));
let folder: string;
let data: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'red-ember-cli-'));
  data = join(folder, 'data');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** The command as a process of its own, as a script would call it. */
function redEmber(...args: string[]): Promise<{ exit: number | null; out: string; err: string }> {
  const child = spawn(process.execPath, [join(root, 'cli/bin/red-ember.mjs'), ...args], { cwd: folder });
  const said = { out: '', err: '' };
  child.stdout.on('data', (piece) => (said.out += String(piece)));
  child.stderr.on('data', (piece) => (said.err += String(piece)));
  return new Promise((resolve) => child.on('close', (exit) => resolve({ exit, ...said })));
}

describe('the command line', () => {
  it('makes a study of a day’s logs, judges it, reports it and packs it up', async () => {
    const made = await redEmber('import', ...day, '--data', data, '--title', 'A day at the bench', '--json');
    expect(made.err).toBe('');
    expect(made.exit).toBe(0);
    const { studyId, runs } = JSON.parse(made.out) as { studyId: string; runs: unknown[] };
    expect(runs.length).toBe(day.length);

    const verdict = await redEmber('verdict', 'a day', '--data', data, '--json', '--a', 'stock paste', '--b', 'paste L');
    expect(verdict.exit, verdict.err).toBe(0);
    const judged = JSON.parse(verdict.out) as { b: { name: string }; spots: { spot: string; call: string; differenceK: number }[] };
    expect(judged.b.name).toBe('paste L');
    expect(judged.spots.find(({ spot }) => spot === 'Chip')).toMatchObject({ call: 'cooler' });
    const words = await redEmber('verdict', studyId, '--data', data);
    expect(words.out).toMatch(/Chip: −\d+\.\d ± \d\.\d K, paste L cooler/);

    const report = await redEmber('report', studyId, '--data', data, '--out', join(folder, 'r.html'));
    expect(report.exit, report.err).toBe(0);
    expect(readFileSync(join(folder, 'r.html'), 'utf8')).toContain('<svg');

    const pack = join(folder, 'packed.zip');
    expect((await redEmber('export', studyId, '--data', data, '--out', pack)).exit).toBe(0);
    expect((await redEmber('export', studyId, '--data', data, '--out', pack)).err).toContain('is there already');
    const elsewhere = await redEmber('import', pack, '--data', join(folder, 'elsewhere'), '--json');
    expect(elsewhere.exit, elsewhere.err).toBe(0);
    expect(JSON.parse(elsewhere.out)).toMatchObject({ runs: day.length, moved: [], sameMethod: true });
    const whole = join(folder, 'whole.zip');
    expect((await redEmber('export', '--data', data, '--out', whole)).exit).toBe(0);
    const all = await redEmber('import', whole, '--data', join(folder, 'elsewhere'), '--json');
    expect(all.exit, all.err).toBe(0);
    expect(JSON.parse(all.out)).toMatchObject({ refused: [], studies: [{ runs: day.length, moved: [], title: 'A day at the bench' }] });
    expect((await redEmber('backup', '--data', data)).exit).toBe(0);
  }, 300_000);

  it('takes variants from folders, and adds to a study that is there', async () => {
    const tree = join(folder, 'logs');
    for (const path of day.filter((name) => /m1/.test(name)))
      cpSync(path, join(tree, /stock/.test(path) ? 'stock paste' : 'paste L', 'm3.csv'));
    const files = ['stock paste', 'paste L'].map((variant) => join(tree, variant, 'm3.csv'));
    const made = await redEmber('import', ...files, '--data', join(folder, 'other'), '--json');
    expect(made.exit, made.err).toBe(0);
    const { studyId } = JSON.parse(made.out) as { studyId: string };
    const studies = await redEmber('studies', '--data', join(folder, 'other'), '--json');
    expect(JSON.parse(studies.out)).toMatchObject([{ title: expect.stringContaining('paste L') as string, runs: 2 }]);
    const second = day.find((name) => /stock paste m2/.test(name))!;
    const added = await redEmber('import', second, '--into', studyId, '--data', join(folder, 'other'), '--json');
    expect(added.exit, added.err).toBe(0);
    expect(JSON.parse(added.out)).toMatchObject({ studyId, runs: [{ number: 3 }] });
  }, 60_000);

  it('refuses in a sentence, ends with 1, and leaves nothing put down', async () => {
    const broken = join(folder, 'broken.csv');
    writeFileSync(broken, 'nothing\nat all\n');
    const fresh = join(folder, 'fresh');
    const refused = await redEmber('import', day[0]!, broken, '--data', fresh);
    expect([refused.exit, refused.out]).toEqual([1, '']);
    expect(refused.err).toMatch(/broken\.csv was not imported\. /);
    expect(readdirSync(join(fresh, 'imports'))).toEqual([]);
    expect((await redEmber('import', 'nowhere.csv', '--data', fresh)).err).toBe('nowhere.csv is no file.\n');
    expect((await redEmber('verdict', 'none such', '--data', fresh)).err).toBe('There is no study called none such.\n');
    expect((await redEmber('verdict', 'x', '--url', 'http://127.0.0.1:1')).err).toContain('does not answer');
  }, 60_000);

  it('says how it is asked where it was asked wrongly, and ends with 2', async () => {
    for (const args of [[], ['constructor'], ['verdict', '--frob']]) {
      const { exit, err } = await redEmber(...args);
      expect(exit).toBe(2);
      expect(err).toContain('npx red-ember COMMAND');
    }
    expect((await redEmber('help')).exit).toBe(0);
  }, 30_000);

  it('asks a server that runs, and does not open its data beside it', async () => {
    const held = join(folder, 'held');
    const access = { host: '127.0.0.1', passphrase: null };
    const server = await startBench({ dataFolder: held, webFolder: null, access, port: 0, log: () => {}, logError: () => {} });
    try {
      const beside = await redEmber('studies', '--data', held);
      expect(beside.exit).toBe(1);
      expect(beside.err).toMatch(/server/);
      const url = `http://127.0.0.1:${server.port}`;
      const made = await redEmber('import', ...day.slice(0, 2), '--url', url);
      expect(made.exit, made.err).toBe(0);
      expect(JSON.parse((await redEmber('studies', '--url', url, '--json')).out)).toHaveLength(1);
    } finally {
      await server.close();
    }
  }, 60_000);
});
