import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { strangerRun, WRITTEN } from '@red-ember/testing/strangerLogs';
import type { LogStudy, StagedLog, Study, VariantResponses } from '@red-ember/contract';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await testBench();
});
afterAll(() => bench.remove());

async function studyOf(files: [string, string][]): Promise<Study> {
  const ids: string[] = [];
  for (const [name, content] of files) {
    const form = new FormData();
    form.append('log', new Blob([content]), name);
    ids.push(((await bench.call('POST', '/api/v1/logs', form)).json as StagedLog).id);
  }
  const made = await bench.call('POST', '/api/v1/logs/study', { logs: ids.map((id) => ({ id })) });
  expect(made.status, made.text).toBe(201);
  return (made.json as LogStudy).study;
}

const responsesOf = async (study: Study, name: string): Promise<VariantResponses> => {
  const { id } = study.variants.find((variant) => variant.name === name)!;
  return (await bench.call('GET', `/api/v1/studies/${study.id}/variants/${id}/responses`)).json as VariantResponses;
};
const spotOf = (study: Study, answer: VariantResponses, name: RegExp) =>
  answer.spots.find(({ spotId }) => name.test(study.spots.find(({ id }) => id === spotId)!.name))!;

/** A drive without a watt: rest, then writes for so many seconds. */
function drive(riseK: number): string {
  const rows = Array.from({ length: 2700 }, (_, s) => {
    const up = s < 600 ? 0 : 1 - Math.exp(-(s - 600) / 200);
    return [s, 27 + riseK * up + 0.05 * Math.sin(1.7 * s), 22, s < 600 ? 0 : 3000 + 10 * Math.sin(s)].map((v) => v.toFixed(2)).join(',');
  });
  return ['time s,Controller C,Room C,MB/s', ...rows].join('\n');
}

describe('how the spots of a variant answer', () => {
  it('is fitted from a stranger’s logs by their watts, each run foretold from the other', async () => {
    const study = await studyOf([
      ['V stock m1.csv', WRITTEN.kelvin(strangerRun({ seed: 1, riseK: 40 }), 0)],
      ['V stock m2.csv', WRITTEN.kelvin(strangerRun({ seed: 2, riseK: 40.4 }), 0)],
      ['V pad m1.csv', WRITTEN.kelvin(strangerRun({ seed: 3, riseK: 37 }), 0)],
    ]);
    const stock = await responsesOf(study, 'stock');
    expect(stock).toMatchObject({ drivenBy: 'watts', leftOut: [] });
    expect(stock.runs).toHaveLength(2);
    const { response, unseen, why } = spotOf(study, stock, /die/i);
    expect(why).toBe('');
    // 180 W bring 40 K and 24 W the 5 K of rest: whole degrees, a room that rises.
    expect(Math.abs(response!.gain.value * 180 + response!.rest.value - 40.2)).toBeLessThan(0.8);
    expect(response!.fan).toMatchObject({ told: false });
    expect(unseen).toHaveLength(2);
    for (const { offK, bandK } of unseen) expect(Math.abs(offK)).toBeLessThan(bandK);
    const one = await responsesOf(study, 'pad');
    expect(spotOf(study, one, /die/i)).toMatchObject({ unseen: [], response: { runs: 1 } });
  });

  it('is fitted by how far the load was on where nobody recorded watts', async () => {
    const study = await studyOf([
      ['Thistle bare.csv', drive(30)],
      ['Thistle lid.csv', drive(24)],
    ]);
    const lid = await responsesOf(study, 'lid');
    expect(lid.drivenBy).toBe('load');
    const { response } = spotOf(study, lid, /controller/i);
    expect(response!.gain.value * 100).toBeCloseTo(24, 0);
    expect(response!.rest.value).toBeCloseTo(5, 0);
  });

  it('stands on the air that is breathed where that is asked for, or where nobody recorded the room', async () => {
    const [file, headless] = [drive(31), drive(32).replace('Room C', 'Intake C')];
    const both = file.split('\n').map((row, i) => `${row},${i === 0 ? 'Intake C' : 28}`).join('\n'); // prettier-ignore
    const study = await studyOf([['Thistle both.csv', both]]);
    const [{ id }] = study.variants as [Study['variants'][number]];
    const of = async (air: string) => bench.call('GET', `/api/v1/studies/${study.id}/variants/${id}/responses${air}`);
    const room = (await of('')).json as VariantResponses;
    expect(room).toMatchObject({ standsOn: 'room', airs: ['room', 'intake'] });
    const intake = (await of('?air=intake')).json as VariantResponses;
    expect(intake.standsOn).toBe('intake');
    // Twenty-seven degrees at rest: five over the room, one below what was breathed.
    const rest = (answer: VariantResponses) => spotOf(study, answer, /controller/i).response!.rest.value;
    expect(rest(room) - rest(intake)).toBeCloseTo(6, 1);
    expect((await of('?air=draught')).json).toMatchObject({ detail: 'Rises stand on room or intake, not on draught.' });
    const alone = await studyOf([['Thistle alone.csv', headless]]);
    expect(await responsesOf(alone, alone.variants[0]!.name)).toMatchObject({ standsOn: 'intake', airs: ['intake'] });
  });

  it('leaves a run out that is another set-up, and says why there is nothing left', async () => {
    const study = await studyOf([
      ['V stock m1.csv', WRITTEN.kelvin(strangerRun({ seed: 4, riseK: 40, lengthS: 1500 }), 0)],
      ['V pad m1.csv', WRITTEN.kelvin(strangerRun({ seed: 5, riseK: 37, lengthS: 1500 }), 0)],
    ]);
    const [run] = (await bench.call('GET', `/api/v1/studies/${study.id}/runs`)).json as { id: string; number: number; variantId: string }[];
    const signed = await bench.call('PUT', `/api/v1/runs/${run!.id}/sign-off`, { disposition: 'reject', reason: 'film left on' });
    expect(signed.status, signed.text).toBeLessThan(300);
    const answer = await responsesOf(study, study.variants.find(({ id }) => id === run!.variantId)!.name);
    expect(answer).toMatchObject({ runs: [], leftOut: [{ number: run!.number, why: 'Rejected at sign-off: film left on.' }] });
    expect(answer.spots[0]).toMatchObject({ response: null, why: 'No run of it can be used.' });
    expect((await bench.call('GET', `/api/v1/studies/${study.id}/variants/nobody/responses`)).status).toBe(404);
  });
});
