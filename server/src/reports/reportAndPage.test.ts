import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { callWords, inDegrees, measured, meanOutcome } from '@red-ember/core';
import { roleByName, type PairVerdict, type StudyLineUp } from '@red-ember/contract';
import { printSide } from '@red-ember/study';
import { madeRun } from '../tests/madeRun.ts';
import { studyBody } from '@red-ember/testing';
import { testBench, type TestBench } from '../tests/testBench.ts';

let bench: TestBench;
const studies: Record<string, string> = {};
const variants = ['bare', 'lid', 'fin'].map((name, i) => ({
  id: `v-${name}`,
  name,
  subjectId: 'part-1',
  isReference: i === 0,
  setup: '',
  notes: '',
  levels: [{ factor: 'Pad', level: i === 2 ? 'P12' : 'P6' }],
}));
const factors = [{ name: 'Pad', levels: ['P6', 'P12'], changeMin: 5 }];

/** The same four runs of two variants and two of a third; `lid` shows what is given. */
async function study(
  name: string,
  lid: Record<string, [number, number, number]> = {},
  fans: 'locked' | 'not-applicable' = 'not-applicable',
) {
  const own = variants.map((variant) => ({ ...variant, id: `${variant.id}-${name}` }));
  const base = studyBody();
  const spots = base.spots.map((spot) => ({ ...spot, id: `${spot.id}-${name}` }));
  const made = await bench.call(
    'POST',
    '/api/v1/studies',
    studyBody({ title: name, variants: own, factors, spots, rules: { ...base.rules, fans } }),
  );
  expect(made.status, made.text).toBe(201);
  const id = made.json.id as string;
  studies[name] = id;
  const at = (hour: number) => `2026-03-01T${String(hour).padStart(2, '0')}:00:00Z`;
  madeRun(bench, id, own[0]!.id, at(8), { top: [30, 40] });
  madeRun(bench, id, own[1]!.id, at(9), { top: [27, 30.2], more: lid });
  madeRun(bench, id, own[1]!.id, at(10), { top: [27.2, 30], more: lid });
  madeRun(bench, id, own[0]!.id, at(11), { top: [30.2, 40.2] });
  madeRun(bench, id, own[2]!.id, at(12), { top: [29, 38] });
  madeRun(bench, id, own[2]!.id, at(13), { top: [29.2, 38.3] });
}

beforeAll(async () => {
  bench = await testBench();
  await study('fair');
  await study('starved', { utilisation: [1, 60, 60] });
  await study('locked', { fan: [900, 3000, 3000] }, 'locked');
});
afterAll(() => bench.remove());

/** Text of a page as it is read, without its marks. */
const plain = (html: string) =>
  html
    .replace(/<style>[\s\S]*?<\/style>/g, '')
    .replace(/<[^>]+>/g, ' ')
    .replace(/&amp;/g, '&')
    .replace(/&quot;/g, '"')
    .replace(/\s+/g, ' ');

const level = (pad: string) => encodeURIComponent(printSide({ kind: 'level', factor: 'Pad', level: pad }));
const side = (name: string, variant: string) => `v-${variant}-${name}`;

describe('the report says what the page says, for the same query', () => {
  it.each([
    ['fair', ''],
    ['fair', 'load=Quiet'],
    ['fair', 'restate=power:60:0.8'],
    ['fair', 'restate=noise:35'],
    ['fair', 'signedOff=1'],
    ['fair', 'evidence=usual'],
    ['starved', 'evidence=usual'],
    ['fair', 'a=LEVEL:P6&b=LEVEL:P12'],
    ['starved', ''],
    ['locked', ''],
    ['locked', 'load=Quiet&signedOff=0'],
  ])('%s?%s', async (name, raw) => {
    const query = raw.replace(/LEVEL:(\w+)/g, (_, pad: string) => level(pad));
    const id = studies[name]!;
    const verdict = (await bench.call('GET', `/api/v1/studies/${id}/verdict?${query}`)).json as PairVerdict;
    const report = await bench.call('GET', `/api/v1/studies/${id}/report.html?${query}`);
    expect(report.status).toBe(200);
    const text = plain(report.text);
    const { judgement } = verdict;
    for (const spot of judgement.spots) {
      if (!spot.comparison || verdict.refusal) continue;
      const { tone, words } = callWords(spot.call, judgement.b.name);
      const shown = measured(spot.comparison.difference.value, spot.comparison.budget.expanded, 'K', { sign: true });
      expect(text).toContain(`${shown}, ${words}`);
      // A side's colour is on the page of the report only where the call names that side.
      const set = new RegExp(`class="call (\\w+)">${shown.replace(/[+.]/g, '\\$&')}`).exec(report.text)?.[1];
      expect(set).toBe({ cooler: 'quench', warmer: 'ember', plain: 'stone' }[tone]);
    }
    for (const claim of verdict.claims) expect(text).toContain(claim.sentence);
    for (const { label } of judgement.leftOut) expect(text).toContain(label);
    if (raw.includes('restate=power')) expect(text).toContain('Figures restated to 60 W (rise as power to the 0.8), not measured there');
    expect(text).toContain(raw.includes('usual') ? 'Evidence: usual: every spot' : 'Evidence: strict: several');
    if (raw.includes('load=Quiet')) expect(text).toContain('Figures at load “Quiet”');
    const field = ((await bench.call('GET', `/api/v1/studies/${id}/field?${query.replace(/[ab]=[^&]*&?/g, '')}`)).json as StudyLineUp)
      .field;
    expect(text.includes('Ranked apart, because they must not be compared')).toBe(
      field.stands.some(({ by }) => by.some(({ severity }) => severity === 'blocks')) && text.includes('All variants by'),
    );
  });

  it('says it in °F where that is asked for, and leaves alone what was typed', async () => {
    const id = studies.fair!;
    const body = (await bench.call('GET', `/api/v1/studies/${id}`)).json;
    const {
      id: _id,
      version,
      createdAt: _c,
      updatedAt: _u,
      predictionLockedAt: _l,
      predictionStamps: _s,
      variantsWithRuns: _w,
      ...sent
    } = body;
    const question = 'Is it 5 K cooler than <the lid> & 61 °C?';
    expect((await bench.call('PUT', `/api/v1/studies/${id}`, { ...sent, question }, { 'if-match': `"${version}"` })).status).toBe(200);
    const [, second] = (await bench.call('GET', `/api/v1/studies/${id}/runs`)).json as { id: string }[];
    const rejected = (disposition: string, reason: string) =>
      bench.call('PUT', `/api/v1/runs/${second!.id}/sign-off`, { disposition, reason });
    await rejected('reject', 'Door open at 61 °C.');
    const withReason = plain((await bench.call('GET', `/api/v1/studies/${id}/report.html?degrees=F`)).text);
    expect(withReason).toContain('Door open at 61 °C');
    await rejected('undecided', '');
    const { text } = await bench.call('GET', `/api/v1/studies/${id}/report.html?degrees=F`);
    const said = plain(text.replaceAll('Is it 5 K cooler than &lt;the lid&gt; &amp; 61 °C?', 'TYPED'));
    expect(said).toContain('TYPED');
    expect(said).toContain('°F');
    expect(/\d\s?(?:°C|K)(?![\w/])/.exec(said)).toBeNull();
    const [spot] = ((await bench.call('GET', `/api/v1/studies/${id}/verdict`)).json as PairVerdict).judgement.spots;
    expect(said).toContain(
      `${inDegrees(measured(spot!.comparison!.difference.value, spot!.comparison!.budget.expanded, 'K', { sign: true }), 'F')}`,
    );
    expect((await bench.call('GET', `/api/v1/studies/${id}/report.html?degrees=X`)).status).toBe(422);
  });

  it('tells the time by the clocks of whoever reads it, and says of which', async () => {
    const page = async (zone: string) => bench.call('GET', `/api/v1/studies/${studies.fair}/report.html${zone && `?zone=${zone}`}`);
    const [{ startedAt }] = (await bench.call('GET', `/api/v1/studies/${studies.fair}/runs`)).json as [{ startedAt: string }];
    const utc = startedAt.slice(0, 16).replace('T', ' ');
    // India keeps one time all the year, 5 h 30 min before UTC.
    const there = new Date(Date.parse(startedAt) + 5.5 * 3_600_000).toISOString().slice(0, 16).replace('T', ' ');
    const [plainly, named] = [(await page('')).text, (await page('Asia/Kolkata')).text];
    expect(plainly).toContain('started (UTC)');
    expect(plainly).toContain(`<td>${utc}</td>`);
    expect(named).toContain('started (Asia/Kolkata)');
    expect(named).toContain(`<td>${there}</td>`);
    expect(named).toMatch(/written \d{4}-\d\d-\d\d \d\d:\d\d Asia\/Kolkata by/);
    for (const zone of ['Nowhere/At-all', '-08', 'toString']) {
      const refused = await page(zone);
      expect(refused.status, zone).toBe(422);
      expect(refused.text).toContain(`No zone is known by the name ${zone}.`);
    }
  });

  it('blocks on both what the pair blocks: one side that was 60 % busy', async () => {
    const verdict = (await bench.call('GET', `/api/v1/studies/${studies.starved}/verdict`)).json as PairVerdict;
    expect(verdict.judgement.spots[0]!.call.kind).toBe('blocked');
    const text = plain((await bench.call('GET', `/api/v1/studies/${studies.starved}/report.html`)).text);
    expect(text).toContain('blocked, not called');
    expect(text).not.toContain(`${verdict.judgement.b.name} cooler`);
  });
});

describe('sides of the address', () => {
  const verdict = async (name: string, a: string, b: string) =>
    (await bench.call('GET', `/api/v1/studies/${studies[name]}/verdict?a=${a}&b=${b}`)).json as PairVerdict;
  it('are blocked against another study alike, whether a variant or the level that it stands at', async () => {
    const other = encodeURIComponent(`study:${studies.locked}:${side('locked', 'lid')}`);
    const variant = await verdict('fair', side('fair', 'bare'), other);
    const atLevel = await verdict('fair', level('P6'), other);
    expect(variant.judgement.blockedBy.map((finding) => finding.evidence)).toContain(
      'House rules differ, fans: not there here; locked at equal duty there.',
    );
    expect(atLevel.judgement.blockedBy.map((finding) => finding.check)).toEqual(
      variant.judgement.blockedBy.map((finding) => finding.check),
    );
  });
  it('are blocked where they share a run: a variant against one of its own', async () => {
    const run = (await bench.call('GET', `/api/v1/studies/${studies.fair}/runs`)).json[0].id as string;
    const shared = await verdict('fair', side('fair', 'bare'), `run:${run}`);
    expect(shared.judgement.blockedBy.map((finding) => finding.check)).toEqual(['shared-runs']);
    expect(shared.judgement.spots.every((spot) => spot.call.kind === 'blocked')).toBe(true);
  });
});

describe('a quantity that is added to the tables', () => {
  it('goes from its channel to the readings, the page and the report: coil whine', async () => {
    expect(roleByName('coil whine db a', new Set())).toBe('whine');
    await study('whining', { whine: [20, 31, 35.5] });
    const id = studies.whining!;
    const lineUp = (await bench.call('GET', `/api/v1/studies/${id}/field`)).json as StudyLineUp;
    const lid = lineUp.field.sides.find((found) => found.variantId === side('whining', 'lid'))!;
    expect(meanOutcome(lid, 'whine')).toBeCloseTo(35.5, 1);
    const report = await bench.call('GET', `/api/v1/studies/${id}/report.html`);
    expect(plain(report.text)).toMatch(/coil whine, dB\(A\)/);
    expect(plain(report.text)).toContain('35.5');
  });
});

describe('the short form', () => {
  const short = async (name: string, query = '') => bench.call('GET', `/api/v1/studies/${studies[name]}/report.html?form=short${query}`);
  /** What stands on each reader's page. */
  const pagesOf = (page: string) =>
    page
      .split('<section class="sheet">')
      .slice(1)
      .map((piece) => plain(piece));

  it('is a page for each reader, with what Choice would have that reader take, and the pair’s own words', async () => {
    const { status, text, headers } = await short('fair');
    expect(status).toBe(200);
    expect(headers.get('content-security-policy')).toContain("default-src 'none'");
    const pages = pagesOf(text);
    expect(pages.map((page) => /Red Ember (.+?)\. /.exec(page)?.[1])).toEqual([
      'Wants it coolest: lid',
      expect.stringMatching(/^Fits hundreds: /),
    ]);
    const { sentence } = (await bench.call('GET', `/api/v1/studies/${studies.fair}/verdict?a=${side('fair', 'bare')}&b=${side('fair', 'lid')}`)).json as PairVerdict; // prettier-ignore
    expect(pages[0]).toContain(sentence.map(({ text: piece }) => piece).join(' ').replace(/\s+/g, ' ').trim().slice(0, 40)); // prettier-ignore
    expect(pages[0]).toContain('Held against bare');
    for (const page of pages) expect(page).toContain('the tester decides');
    const drawn = [...text.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    expect(drawn.length).toBeGreaterThan(2);
    expect(new Set(drawn).size).toBe(drawn.length);
  });
  it('says at what load, and in which degrees, as the whole does', async () => {
    const [first] = pagesOf((await short('fair', '&load=Quiet&signedOff=0&evidence=usual')).text);
    expect(first).toContain('Figures at load “Quiet”');
    expect(first).toContain('Evidence: usual: every spot');
    const inF = pagesOf((await short('fair', '&degrees=F')).text)[0]!;
    expect(inF).toMatch(/\d °F/);
    expect(inF).not.toMatch(/\d °C/);
  });
  it('has its verdict on one page where nobody can choose, and chooses nothing where nothing is called', async () => {
    const empty = (await bench.call('POST', '/api/v1/studies', studyBody({ title: 'Nothing yet' }))).json.id as string;
    studies.empty = empty;
    const [page, ...more] = pagesOf((await short('empty')).text);
    expect(more).toEqual([]);
    expect(page).toContain('Nothing is chosen for anyone yet');
    // A side that was kept less busy is as cool as the others here, and its page says why.
    const starved = pagesOf((await short('starved')).text)[0]!;
    expect(starved).toContain('Wants it coolest: lid or fin or bare.');
    expect(starved).toContain('kept busy only 60 %');
  });
  it('is refused in a form that there is none of', async () => {
    expect((await bench.call('GET', `/api/v1/studies/${studies.fair}/report.html?form=long`)).status).toBe(422);
  });
});
