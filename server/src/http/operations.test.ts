import Ajv from 'ajv';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addressOf, OPERATION_KEYS, OPERATIONS, type Operation, type OperationKey } from '@red-ember/contract';
import { blankPart, bodyOf, cautionsFor } from '@red-ember/study';
import { handlersOf } from '../app.ts';
import { answerSchema, openApiDocument } from '../openapi/routes.ts';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { FakeRig, testBench, type TestBench } from '../tests/testBench.ts';

type Document = {
  paths: Record<string, Record<string, { operationId: string; parameters: object[]; responses: Record<string, { content?: object }> }>>;
  components: { schemas: Record<string, object> };
};
const document = openApiDocument() as Document;

describe('the OpenAPI document', () => {
  it('names every operation once, with a schema for what it answers', () => {
    const all = Object.values(document.paths).flatMap((methods) => Object.values(methods));
    expect(all.map(({ operationId }) => operationId).sort()).toEqual([...OPERATION_KEYS].sort());
    for (const operation of all) {
      const { answer }: Operation = OPERATIONS[operation.operationId as OperationKey];
      const status = Object.keys(operation.responses)[0]!;
      if (answer === 'nothing') expect(status).toBe('204');
      else
        expect(JSON.stringify(operation.responses[status]!.content)).toMatch(
          /"schema":\{"(\$ref|type|items|properties|additionalProperties)"/,
        );
    }
  });
  it('refers to nothing that is not in it, and says what may be asked', () => {
    const text = JSON.stringify(document);
    const missing = [...text.matchAll(/#\/components\/schemas\/([\w.-]+)/g)].filter(([, name]) => !document.components.schemas[name!]);
    expect(missing.map(([, name]) => name)).toEqual([]);
    const verdict = document.paths['/studies/{id}/verdict']!.get!;
    expect(JSON.stringify(verdict.parameters)).toContain('level:FACTOR=LEVEL');
    const save = document.paths['/studies/{id}']!.put!;
    expect(JSON.stringify(save.parameters)).toContain('If-Match');
  });
});

describe('operations and answers', () => {
  let bench: TestBench;
  let rig: FakeRig;
  const asked = new Set<OperationKey>();
  const ids: Record<string, string> = {};
  const ajv = new Ajv({ strict: false, validateFormats: false });

  beforeAll(async () => {
    bench = await testBench();
    ajv.addSchema({ $id: 'doc', components: document.components });
    rig = await FakeRig.connect(bench.port);
  });
  afterAll(async () => {
    rig.close();
    await bench.remove();
  });

  /** Asks an operation, and holds what it answers against its schema. */
  async function ask(
    key: OperationKey,
    params: Record<string, string>,
    body?: unknown,
    options: { query?: object; version?: number } = {},
  ) {
    const { method, status, answer }: Operation = OPERATIONS[key];
    const path = `/api/v1${addressOf(key, params as never, (options.query ?? {}) as never)}`;
    const headers: Record<string, string> = options.version === undefined ? {} : { 'if-match': `"${options.version}"` };
    const response = await bench.call(method.toUpperCase(), path, body, headers);
    asked.add(key);
    expect(response.status, `${key}: ${response.text.slice(0, 300)}`).toBe(answer === 'nothing' ? 204 : (status ?? 200));
    const schema = answerSchema(answer);
    if (schema) {
      const validate = ajv.compile(JSON.parse(JSON.stringify(schema).replaceAll('#/components', 'doc#/components')) as object);
      expect(validate(response.json) ? '' : `${key}: ${JSON.stringify(validate.errors)}`).toBe('');
    }
    return response.json;
  }
  const file = (name: string, type: string, content: BlobPart, field: string) => {
    const form = new FormData();
    form.append(field, new Blob([content], { type }), name);
    return form;
  };
  const photograph = async () => {
    const grey = sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } });
    return file('a.png', 'image/png', new Uint8Array(await grey.png().toBuffer()), 'photo');
  };

  it('agree for studies, limits and instruments', async () => {
    const study = await ask('createStudy', {}, studyBody({ title: 'Operations' }));
    ids.study = study.id;
    expect(await ask('listStudies', {}, undefined, { query: { trash: '' } })).toHaveLength(1);
    await ask('study', { id: study.id });
    await ask('saveStudy', { id: study.id }, { ...bodyOf(study), question: 'Why?' }, { version: study.version });
    const copy = await ask('copyStudy', { id: study.id }, { title: 'Copy' });
    await ask('trashStudy', { id: copy.id });
    expect(await ask('listStudies', {}, undefined, { query: { trash: 'true' } })).toHaveLength(1);
    await ask('restoreStudy', { id: copy.id });
    const limits = await ask('listLimits', {});
    const { componentClass, version, updatedAt: _u, ...limit } = limits[0];
    await ask('putLimit', {}, { componentClass, ...limit }, { version });
    const channel = { id: 'ch-1', name: 'TC 1', quantity: 'temperature', percentOfReading: 0, fixed: 0.5, thermocouple: null, resolution: 0.1, lagS: 2, drift: 0, place: '' }; // prettier-ignore
    const body = { name: 'Logger', kind: 'thermocouple logger', serial: '1', notes: '', channels: [channel] };
    const instrument = await ask('createInstrument', {}, body);
    await ask('saveInstrument', { id: instrument.id }, { ...body, notes: 'x' }, { version: instrument.version });
    await ask('listInstruments', {});
    await ask('runsOfChannel', { id: 'ch-1' });
    await ask(
      'calibrate',
      { id: instrument.id },
      {
        channelId: 'ch-1',
        madeOn: '2026-01-01',
        dueOn: '2027-01-01',
        referenceAccuracyK: 0.1,
        points: [
          { indicatedC: 0.2, referenceC: 0, reference: 'ice' },
          { indicatedC: 99.8, referenceC: 100, reference: 'boiling' },
        ],
        note: '',
        applyToRuns: [],
      },
    );
    await ask('trashInstrument', { id: instrument.id });
    await ask('restoreInstrument', { id: instrument.id });
    const matrix = Array.from({ length: 12 }, () => Array.from({ length: 16 }, (_, i) => 30 + i).join(',')).join('\n');
    const survey = await ask('readSurvey', { id: study.id }, { name: 'Bare', text: matrix, unit: 'C', subjectId: 'part-1', face: 'top' });
    await ask('survey', { id: survey.id });
    await ask('listSurveys', { id: study.id });
    const { id: _i, studyId: _s, version: v, createdAt: _c, rows: _r, columns: _k, deletedAt: _d, matrix: _m, ...said } = survey;
    await ask('saveSurvey', { id: survey.id }, said, { version: v });
    await ask('trashSurvey', { id: survey.id });
    await ask('restoreSurvey', { id: survey.id });
  });

  it('agree for mounts and a run on a rig', async () => {
    const studyId = ids.study!;
    const [bare, lid] = (await ask('study', { id: studyId })).variants as { id: string }[];
    const confirmed = cautionsFor('drive').map((caution) => caution.key);
    const mountId = (await ask('makeMount', { id: studyId }, { variantId: bare!.id, confirmed, note: '' })).id as string;
    await ask('listMounts', { id: studyId });
    await ask('changeOvers', {});
    await ask('seat', { id: mountId });
    const photo = await ask('addPhoto', { id: mountId }, await photograph());
    await ask('photo', { id: photo.id });
    await ask('removePhoto', { id: photo.id });
    const second = await ask('makeMount', { id: studyId }, { variantId: lid!.id, confirmed, note: '' });
    await ask('takeMountBack', { id: second.id });
    const waiting = ask('lookBefore', { id: studyId }, { mountId, confirmedLocks: [] });
    const look = (await rig.hears((message) => message.type === 'command' && message.command === 'look')) as { lookId: string };
    const tMs = [0, 1000, 2000, 3000];
    rig.say({
      type: 'look',
      lookId: look.lookId,
      tMs,
      values: Object.fromEntries(['tc1', 'tc2', 'room'].map((key) => [key, [22, 22, 22, 22]])),
    });
    await waiting;
    const run = await ask('startRun', { id: studyId }, { mountId, timeScale: 1, seed: 5 });
    await rig.hears((message) => message.type === 'command' && message.command === 'start');
    rig.samples(run.id, 1, 0, 20);
    await rig.hears((message) => message.type === 'ack' && message.seq === 1);
    await ask('listRigs', {});
    await ask('listRehearsals', { rig: 'fake' });
    await ask('markRun', { id: run.id }, { kind: 'note', text: 'seen' });
    await ask('moreTime', { id: run.id }, { minutes: 5 });
    await ask('pauseRun', { id: run.id });
    await ask('goOn', { id: run.id }, { reason: 'seen to' });
    await ask('runLoad', { id: run.id });
    await ask('intervene', { id: run.id }, { text: 'Vent blocked', set: [] });
    await ask('stopRun', { id: run.id }, { reason: '' });
    await ask('rehearse', { rig: 'fake' }, { loadPercent: 20 });
    await ask('signOff', { id: run.id }, { disposition: 'caution', reason: '' });
    await ask('conditions', { id: run.id });
    await ask('line', { id: run.id });
  });

  it('agree for what is read and judged', async () => {
    const id = ids.study!;
    const made = ['v-bare', 'v-lid', 'v-lid', 'v-bare'];
    const own = (await ask('study', { id })).variants as { id: string; name: string }[];
    made.forEach((name, i) =>
      madeRun(bench, id, own.find((variant) => name.endsWith(variant.name))!.id, `2026-03-01T0${i + 1}:00:00Z`, {
        top: name === 'v-lid' ? [27 + 0.1 * i, 36] : [30, 40 + 0.1 * i],
      }),
    );
    await ask('benchRuns', {});
    await ask('benchMounts', {});
    await ask('benchParts', {});
    const part = { part: blankPart('p', 'Kept'), currency: 'EUR' };
    const kept = await ask('keepPart', {}, part);
    await ask('saveKeptPart', { id: kept.id }, part, { version: kept.version });
    const shot = await ask('addPartPhoto', { id: kept.id }, await photograph());
    await ask('partPhoto', { id: shot.id });
    await ask('removePartPhoto', { id: shot.id });
    await ask('removeKeptPart', { id: kept.id });
    const run = (await ask('listRuns', { id })).find((one: { lengthS: number }) => one.lengthS === 3000);
    await ask('run', { id: run.id });
    await ask('tagRun', { id: run.id }, { tags: 'spare' });
    await ask('readings', { id: run.id });
    await ask('heldBack', { id: run.studyId });
    await ask('reactions', { id: run.id });
    await ask('signature', { id: run.id });
    await ask('responses', { id: run.studyId, variantId: run.variantId });
    await ask('trace', { id: run.id }, undefined, { query: { from: '10', to: '600', points: '50' } });
    await ask('samplesCsv', { id: run.id }, undefined, { query: { from: '0', to: '20' } });
    await ask('ownValues', { id: run.id }, { values: [] });
    await ask('setWindow', { id: run.id, phase: '2' }, { phase: 2, startS: 2000, endS: 2500 });
    await ask('clearWindow', { id: run.id, phase: '2' });
    await ask('settledLoads', { id });
    await ask('verdict', { id });
    await ask('verdict', { id }, undefined, { query: { load: 'Quiet', restate: 'power:80:1' } });
    await ask('next', { id });
    await ask('lineUp', { id });
    await ask('lineUp', { id }, undefined, { query: { loadsOf: own[0]!.id } });
    await ask('beingRead', { id });
    await ask('agreements', { id });
    await ask('scatter', { id });
    await ask('testerRecord', {});
    await ask('report', { id });
    await ask('readingsCsv', { id });
    await ask('studyHistory', { id });
  });

  it('agree for logs', async () => {
    const id = ids.study!;
    const study = await ask('study', { id });
    const rows = Array.from({ length: 400 }, (_, i) => [
      i * 5,
      i > 60 && i < 340 ? 60 : 30,
      i > 60 && i < 340 ? 58 : 29,
      22,
      i > 60 && i < 340 ? 100 : 10,
    ]);
    const text = ['time s,tc1,tc2,room,power', ...rows.map((row) => row.join(','))].join('\n');
    const staged = await ask('stageLog', { id }, file('log.csv', 'text/csv', text, 'log'), { query: { job: 'j1' } });
    const { timeColumn, timeFormat, columns, loadStartS, loadEndS } = staged.guess;
    const variantId = study.variants[0].id as string;
    const run = await ask(
      'makeRunOfLog',
      { id, logId: staged.id },
      { variantId, timeColumn, timeFormat, columns, loadStartS, loadEndS, acceptOddTemperatures: false, note: '' },
      { query: { name: 'log.csv' } },
    );
    const other = await ask(
      'stageLog',
      { id },
      file('more.csv', 'text/csv', text.replace('time s,tc1,tc2,room,power', 'time s,a,b,c,work'), 'log'),
    );
    await ask('alignLog', { id, logId: other.id }, { runId: run.id, timeColumn: 0, timeFormat: 'elapsed-s', column: 4, channel: run.channels.find((channel: { role: string }) => channel.role === 'power').key }); // prettier-ignore
    const join = { runId: run.id, timeColumn: 0, timeFormat: 'elapsed-s', columns: [{ column: 4, role: 'clock', spotId: null }], offsetS: 0, acceptOddTemperatures: false }; // prettier-ignore
    await ask('joinLog', { id, logId: other.id }, join, { query: { name: 'more.csv' } });
    const down = await ask('putLogDown', {}, file('bare m1.csv', 'text/csv', text, 'log'), { query: { zone: 'Europe/Berlin' } });
    const again = await ask('putLogDown', {}, file('lid m1.csv', 'text/csv', text.replaceAll(',60,', ',61,'), 'log'));
    await ask('listLogs', {});
    await ask('logTrace', { logId: down.id });
    await ask('glanceAtLogs', {}, { logs: [{ id: again.id }] });
    const { runs: ofLogs } = await ask('studyOfLogs', {}, { logs: [{ id: again.id }] });
    await ask('putRight', { id: ofLogs[0].id }, { mount: 3 });
    const { events } = await ask('noteLater', { id: ofLogs[0].id }, { kind: 'note', text: 'the door was open', atS: 30 });
    await ask('takeBackNote', { id: ofLogs[0].id, event: events.find(({ text }: { text: string }) => text === 'the door was open').id });
    await ask('takeLogUp', { logId: down.id });
  });

  it('agree for practice', async () => {
    const { studyId } = await ask('beginPractice', {}, { exercise: 'cover', seed: 3 });
    await ask('practice', {});
    await ask('search', {}, undefined, { query: { q: 'lid' } });
    await ask('normal', { id: ids.study! });
    await ask('practiceSheet', { id: studyId });
    await ask('practiceHint', { id: studyId });
    await ask('handIn', { id: studyId }, { call: 'cannot', differenceK: null, plusMinusK: null, found: [], sentence: '' });
    await ask('putPracticeAway', { id: studyId });
  });

  it('agree for copies of the bench and files of studies', async () => {
    await ask('studyFile', { id: ids.study! });
    await ask('benchFile', {});
    const packed = Buffer.from(await (await fetch(`http://127.0.0.1:${bench.port}/api/v1/studies/${ids.study}/study.zip`)).arrayBuffer());
    await ask('readStudyIn', {}, file('study.zip', 'application/zip', packed, 'studyFile'));
    await ask('networkHosts', {});
    await ask('listBackups', {});
    await ask('makeBackup', {});
    // Every study of the bench is packed.
  }, 180_000);

  it('were all asked but for those that need what a test cannot have, each with a handler', () => {
    // Progress of an import that is over, events without end, readings typed by hand, a restore, which closes the
    // bench, and breaking a rehearsal off have tests of their own.
    const elsewhere: OperationKey[] = ['importJob', 'cancelImport', 'live', 'readByHand', 'readLater', 'takeBackReading', 'restoreBackup', 'breakOffRehearsal']; // prettier-ignore
    expect(OPERATION_KEYS.filter((key) => !asked.has(key)).sort()).toEqual(elsewhere.sort());
    expect(Object.keys(handlersOf(bench.services)).sort()).toEqual([...OPERATION_KEYS].sort());
  });
});
