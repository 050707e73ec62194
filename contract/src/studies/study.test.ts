import { describe, expect, it } from 'vitest';
import {
  blankSpot,
  blankStudy,
  cautionsFor,
  FAMILIES,
  HOUSE_RULES,
  lockValue,
  rulesWords,
  START_MAPS,
  startLimits,
  startMap,
  type StartMap,
  startMapsOf,
} from '@red-ember/study';
import {
  CalibrationBody,
  check,
  ImportRunBody,
  InstrumentBody,
  MarkBody,
  MountBody,
  PutLimitBody,
  SignOffBody,
  StudyBody,
  SurveyBody,
} from '../index.ts';

const spot = {
  ...blankSpot('a', 'Controller', 'tc1'),
  componentClass: 'drive controller',
  limitC: 95,
  limitSource: 'data sheet',
  cutOutC: 98,
};
const claim = { id: 'c1', text: 'It cools', outcome: 'temperature', spotId: null, direction: 'cooler', leastEffect: 1 };
const prediction = { id: 'p1', text: '', spotId: 'a', expectedK: -2, plusMinusK: 1 };
const lock = { name: 'Case', value: 'open', unit: '', tolerance: null, channel: '', overrides: [] };

/** Every problem of a study in which one thing is changed, by pointer. */
function problemsWith(change: (body: ReturnType<typeof full>) => void): Record<string, string> {
  const body = full();
  change(body);
  const result = check(StudyBody, JSON.parse(JSON.stringify(body)));
  return result.ok ? {} : Object.fromEntries(result.problems.map(({ pointer, sentence }) => [pointer, sentence]));
}
/** As it comes over the wire: whatever may be in it. */
function full() {
  const variants = [
    { id: 'v1', name: 'bare', subjectId: 'part-1', isReference: true, setup: '', notes: '' },
    { id: 'v2', name: 'lid', subjectId: 'part-1', isReference: false, setup: '', notes: '' },
  ];
  return JSON.parse(
    JSON.stringify({ ...blankStudy('T'), claims: [claim], predictions: [prediction], spots: [spot], variants, locks: [lock] }),
  );
}

const overlapping = (b: any) => {
  b.subjects[0].map = startMap('regulator');
  b.subjects[0].map.parts[1].yMm = b.subjects[0].map.parts[0].yMm + 1;
};
const offTheBoard = (b: any) => (b.subjects[0].map = { ...startMap('card'), placements: [{ spotId: 'a', face: 'top', xMm: 260, yMm: 5 }] });

describe('a study as it is sent', () => {
  it('is accepted when it is whole', () => {
    expect(problemsWith(() => {})).toEqual({});
  });

  it.each<[string, (body: any) => void, string, RegExp]>([
    ['an empty title', (b) => (b.title = ''), '/title', /title of up to 120/],
    ['a family from elsewhere', (b) => (b.family = 'toaster'), '/family', /family of part/],
    ['a question without end', (b) => (b.question = 'x'.repeat(1001)), '/question', /under 1000/],
    ['a claim without words', (b) => (b.claims[0].text = ''), '/claims/0/text', /one sentence/],
    ['a claim without direction', (b) => (b.claims[0].direction = 'better'), '/claims/0/direction', /cooler, warmer or no difference/],
    ['a negative least effect', (b) => (b.claims[0].leastEffect = -1), '/claims/0/leastEffect', /cannot be negative/],
    ['a prediction that is no number', (b) => (b.predictions[0].expectedK = 'cold'), '/predictions/0/expectedK', /must be a number/],
    ['a prediction without margin', (b) => (b.predictions[0].plusMinusK = -0.1), '/predictions/0/plusMinusK', /cannot be negative/],
    ['a threshold of nothing', (b) => (b.rules.practicalK = 0), '/rules/practicalK', /finer than any bench/],
    ['certainty', (b) => (b.rules.coverage = 1), '/rules/coverage', /between 50 and 99.9/],
    ['a room in Fahrenheit', (b) => (b.rules.roomMaxC = 77), '/rules/roomMaxC', /is this °F/],
    ['a band turned round', (b) => (b.rules.roomMaxC = 15), '/rules/roomMaxC', /must end above/],
    ['a gallery in Fahrenheit', (b) => (b.enclosure.airC = 91), '/enclosure/airC', /is this °F/],
    ['heat that runs away', (b) => (b.enclosure.powerTempCo = 0.5), '/enclosure/powerTempCo', /run away/],
    ['a part without a name', (b) => (b.subjects[0].name = ''), '/subjects/0/name', /Name the part/],
    ['a spot without a limit', (b) => (b.spots[0].limitC = null), '/spots/0/limitC', /Give a limit/],
    ['a limit in Fahrenheit', (b) => (b.spots[0].limitC = 203), '/spots/0/limitC', /is this °F/],
    ['a limit below a warm room', (b) => (b.spots[0].limitC = 12), '/spots/0/limitC', /below a warm room/],
    ['a limit without source', (b) => (b.spots[0].limitSource = ''), '/spots/0/limitSource', /where the limit comes from/],
    ['a cut-out under its limit', (b) => (b.spots[0].cutOutC = 95), '/spots/0/cutOutC', /above the limit/],
    ['a hold time that protects nothing', (b) => (b.spots[0].cutOutHoldS = 3600), '/spots/0/cutOutHoldS', /protects nothing/],
    ['a throttling point in Fahrenheit', (b) => (b.spots[0].throttleC = 190), '/spots/0/throttleC', /is this °F/],
    ['a spot without channel', (b) => (b.spots[0].channel = ''), '/spots/0/channel', /Name the channel/],
    ['negative accuracy', (b) => (b.spots[0].accuracyK = -1), '/spots/0/accuracyK', /cannot be negative/],
    ['an id that could be a path', (b) => (b.spots[0].id = '../x'), '/spots/0/id', /./],
    ['spots of one name', (b) => b.spots.push({ ...spot, id: 'b', name: ' controller ' }), '/spots', /share a name/],
    [
      'too many spots',
      (b) => (b.spots = Array.from({ length: 33 }, (_, i) => ({ ...spot, id: `s${i}`, name: `s${i}` }))),
      '/spots',
      /up to 32/,
    ],
    ['no reference', (b) => (b.variants[0].isReference = false), '/variants', /one variant as the reference/],
    [
      'a factor that cannot change',
      (b) => (b.factors = [{ name: 'Pad', levels: ['P6'], changeMin: 1 }]),
      '/factors/0/levels',
      /nothing changes/,
    ],
    [
      'a level twice',
      (b) => (b.factors = [{ name: 'Pad', levels: ['P6', 'p6 '], changeMin: 1 }]),
      '/factors/0/levels',
      /stands there twice/,
    ],
    ['two factors of one name', (b) => (b.factors = [1, 2].map(() => ({ name: 'Pad', levels: ['P6', 'P12'], changeMin: 1 }))), '/factors', /share a name/], // prettier-ignore
    ['a negative change-over', (b) => (b.factors = [{ name: 'Pad', levels: ['P6', 'P12'], changeMin: -1 }]), '/factors/0/changeMin', /less than no time/], // prettier-ignore
    [
      'a rule without reason',
      (b) => (b.impossible = [{ levels: [{ factor: 'Pad', level: 'P6' }], reason: '' }]),
      '/impossible/0/reason',
      /Say why/,
    ],
    [
      'a rule that asks for one factor twice',
      (b) => (b.impossible = [{ levels: ['P6', 'P12'].map((level) => ({ factor: 'Pad', level })), reason: 'never' }]),
      '/impossible/0/levels',
      /name two factors/,
    ],
    [
      'a variant at two levels of one factor',
      (b) => (b.variants[0].levels = ['P6', 'P12'].map((level) => ({ factor: 'Pad', level }))),
      '/variants/0/levels',
      /one level of each factor/,
    ],
    ['half a repeat', (b) => (b.variants[0].repeats = 1.5), '/variants/0/repeats', /whole number/],
    ['too many repeats', (b) => (b.variants[0].repeats = 41), '/variants/0/repeats', /more likely a slip/],
    ['a day that ends before it begins', (b) => (b.plan.toMin = 500), '/plan/toMin', /ends after it begins/],
    ['a week without a day', (b) => (b.plan.weekdays = []), '/plan/weekdays', /at least one day/],
    ['a first day in words', (b) => (b.plan.startOn = 'Monday'), '/plan/startOn', /YYYY-MM-DD/],
    ['no phase', (b) => (b.recipe = []), '/recipe', /at least one phase/],
    ['a phase of no length', (b) => (b.recipe[0].durationS = 0), '/recipe/0/durationS', /shorter than a minute/],
    ['a phase of a day', (b) => (b.recipe[0].durationS = 86_400), '/recipe/0/durationS', /more likely a slip/],
    ['a cap under the least length', (b) => (b.recipe[1].capS = 60), '/recipe/1/capS', /longer than the least length/],
    ['more than full load', (b) => (b.recipe[1].loadPercent = 120), '/recipe/1/loadPercent', /between 0 and 100/],
    ['a lock without value', (b) => (b.locks[0].value = ''), '/locks/0/value', /at what it is held/],
    [
      'a watched lock in words',
      (b) => Object.assign(b.locks[0], { channel: 'fan', tolerance: 1 }),
      '/locks/0/value',
      /only watch a number/,
    ],
    [
      'a watched lock without tolerance',
      (b) => Object.assign(b.locks[0], { channel: 'fan', value: '60' }),
      '/locks/0/tolerance',
      /must be a number/,
    ],
    ['a temperature that becomes less', (b) => (b.claims[0].direction = 'less'), '/claims/0/direction', /cooler, warmer/],
    ['a throughput that becomes cooler', (b) => (b.claims[0].outcome = 'throughput'), '/claims/0/direction', /less, more/],
    [
      'a limit under its throttling point',
      (b) => Object.assign(b.spots[0], { throttleC: 97, throttleSource: 'x' }),
      '/spots/0/throttleC',
      /lies under the throttling point/,
    ],
    ['an advisory without source', (b) => (b.spots[0].advisoryC = 80), '/spots/0/advisorySource', /where the advisory/],
    [
      'an advisory above the limit',
      (b) => Object.assign(b.spots[0], { advisoryC: 99, advisorySource: 'x' }),
      '/spots/0/advisoryC',
      /below the limit/,
    ],
    [
      'a drive that is critical before it warns',
      (b) => (b.subjects[0].drive = { warningC: 82, criticalC: 80, managed1C: null, managed2C: null }),
      '/subjects/0/drive/criticalC',
      /above the warning/,
    ],
    [
      'managed temperatures turned round',
      (b) => (b.subjects[0].drive = { warningC: 82, criticalC: 88, managed1C: 80, managed2C: 75 }),
      '/subjects/0/drive/managed2C',
      /above the first/,
    ],
    ['parts of one board on top of each other', (b) => overlapping(b), '/subjects/0/map', /overlap/],
    ['a spot off the board', (b) => offTheBoard(b), '/subjects/0/map', /off the board/],
    ['no part at all', (b) => (b.subjects = []), '/subjects', /at least one part/],
    ['a field nobody knows', (b) => (b.spots[0].colour = 'red'), '/spots/0/colour', /./],
  ])('refuses %s', (_what, change, pointer, sentence) => {
    const problems = problemsWith(change);
    expect(Object.keys(problems)).toContain(pointer);
    expect(problems[pointer]).toMatch(sentence);
  });

  it('does not mind an equal cap in a fixed phase, nor a throttling point that is unknown', () => {
    expect(problemsWith((b) => (b.recipe[0].capS = b.recipe[0].durationS))).toEqual({});
    expect(problemsWith((b) => Object.assign(b.spots[0], { throttleC: 88, throttleSource: 'data sheet' }))).toEqual({});
    expect(problemsWith((b) => ((b.claims = []), (b.predictions = [])))).toEqual({});
  });
});

describe('smaller bodies', () => {
  it('need a reason to reject, and none to use', () => {
    expect(check(SignOffBody, { disposition: 'reject', reason: '' }).ok).toBe(false);
    expect(check(SignOffBody, { disposition: 'reject', reason: 'door open' }).ok).toBe(true);
    expect(check(SignOffBody, { disposition: 'use', reason: '' }).ok).toBe(true);
    expect(check(SignOffBody, { disposition: 'perhaps', reason: '' }).ok).toBe(false);
  });
  it('say in words what was marked', () => {
    expect(check(MarkBody, { kind: 'change', text: 'Fan on' }).ok).toBe(true);
    expect(check(MarkBody, { kind: 'change', text: '' }).ok).toBe(false);
  });
  it('map a spot only with its id', () => {
    const body = {
      variantId: 'v',
      timeColumn: 0,
      timeFormat: 'iso',
      columns: [{ column: 1, role: 'spot', spotId: null }],
      loadStartS: 0,
      loadEndS: 10,
      acceptOddTemperatures: false,
      note: '',
    };
    const result = check(ImportRunBody, body);
    expect(result.ok ? [] : result.problems).toEqual([
      { pointer: '/columns/0/spotId', sentence: 'Choose the spot that the column was read from.' },
    ]);
    expect(check(ImportRunBody, { ...body, columns: [{ column: 1, role: 'room', spotId: null }] }).ok).toBe(true);
  });
  it('have cautions for every family, each with words, mains first', () => {
    for (const family of FAMILIES) {
      const cautions = cautionsFor(family);
      expect(cautions[0]!.text).toContain('licensed');
      expect(new Set(cautions.map((caution) => caution.key)).size).toBe(cautions.length);
    }
    expect(cautionsFor('drive').some((caution) => caution.text.includes('scratch drive'))).toBe(true);
    expect(check(MountBody, { variantId: 'v', confirmed: ['power'], note: '' }).ok).toBe(true);
  });
});

describe('what a study starts from', () => {
  it.each(Object.keys(START_MAPS) as StartMap[])('the shape %s is sound, and its heat adds up to no more than all of it', (kind) => {
    const body = { ...blankStudy('T'), subjects: [{ ...blankStudy('T').subjects[0]!, map: startMap(kind) }] };
    expect(check(StudyBody, JSON.parse(JSON.stringify(body)))).toMatchObject({ ok: true });
    const share = startMap(kind).parts.reduce((sum, part) => sum + part.heatShare, 0);
    expect(share).toBeGreaterThan(0.8);
    expect(share).toBeLessThanOrEqual(1);
  });
  it('offers shapes of its own family, and limits that are sound', () => {
    expect(startMapsOf('drive')).toContain('m2-2242-one');
    expect(startMapsOf('regulator')).toEqual(['regulator']);
    for (const [componentClass, limit] of Object.entries(startLimits()))
      expect(check(PutLimitBody, { componentClass, ...limit }), componentClass).toMatchObject({ ok: true });
  });
  it('says its rules in one line, and why each school exists', () => {
    expect(rulesWords(blankStudy('T'))).toBe(
      'Rise over room · settled mean · synthetic worst case · no fans · open bench · attached sensors · 95 % · matters from 1.0 K',
    );
    for (const { schools } of Object.values(HOUSE_RULES)) for (const school of schools) expect(school.why).toMatch(/\.$/);
  });
  it('holds a part at its own value where it has one', () => {
    const own = { ...lock, unit: 'V', value: '1.20', overrides: [{ subjectId: 'b', value: '1.25' }] };
    expect([lockValue(own, 'a'), lockValue(own, 'b')]).toEqual(['1.20 V', '1.25 V']);
  });
});

describe('instruments, calibrations and pictures', () => {
  const channel = {
    id: 'c',
    name: 'TC 1',
    quantity: 'temperature',
    percentOfReading: 0,
    fixed: 0.5,
    thermocouple: null,
    resolution: 0.1,
    lagS: 3,
    drift: 0,
    place: '',
  };
  const instrument = { name: 'Logger', kind: 'thermocouple logger', serial: '', notes: '', channels: [channel] };
  const calibration = {
    channelId: 'c',
    madeOn: '2026-02-12',
    dueOn: '2027-02-12',
    referenceAccuracyK: 0.2,
    points: [{ indicatedC: 0.1, referenceC: 0, reference: 'ice point' }],
    note: '',
    applyToRuns: [],
  };
  const survey = {
    name: 'S',
    subjectId: 'part-1',
    face: 'top',
    emissivitySet: 0.95,
    emissivity: 0.9,
    reflectedC: 22,
    minProminenceK: 2,
    regions: [],
    references: [],
    mirrored: false,
  };
  const refused = (type: new () => object, body: object) => {
    const result = check(type, body);
    return result.ok ? {} : Object.fromEntries(result.problems.map(({ pointer, sentence }) => [pointer, sentence]));
  };
  it('are accepted when whole', () => {
    expect([refused(InstrumentBody, instrument), refused(CalibrationBody, calibration), refused(SurveyBody, survey)]).toEqual([{}, {}, {}]);
  });
  it.each<[string, new () => object, object, string, RegExp]>([
    ['channels of one name', InstrumentBody, { ...instrument, channels: [channel, { ...channel, id: 'd' }] }, '/channels', /share a name/],
    ['an instrument that reads nothing', InstrumentBody, { ...instrument, channels: [] }, '/channels', /at least one thing/],
    [
      'a wire nobody draws',
      InstrumentBody,
      { ...instrument, channels: [{ ...channel, thermocouple: { type: 'X', toleranceClass: 1 } }] },
      '/channels/0/thermocouple/type',
      /K, T, J or N/,
    ],
    [
      'points on top of each other',
      CalibrationBody,
      { ...calibration, points: [calibration.points[0], { ...calibration.points[0], referenceC: 1 }] },
      '/points',
      /no line can be drawn/,
    ],
    [
      'a calibration that was due before it was made',
      CalibrationBody,
      { ...calibration, dueOn: '2026-01-01' },
      '/dueOn',
      /after it was made/,
    ],
    ['a day nobody can read', CalibrationBody, { ...calibration, madeOn: '12.2.26' }, '/madeOn', /YYYY-MM-DD/],
    ['no points', CalibrationBody, { ...calibration, points: [] }, '/points', /at least one point/],
    ['emissivity of nothing', SurveyBody, { ...survey, emissivity: 0 }, '/emissivity', /above 0 and up to 1/],
    ['emissivity above 1', SurveyBody, { ...survey, emissivitySet: 1.2 }, '/emissivitySet', /above 0 and up to 1/],
    ['a room reflected in Fahrenheit', SurveyBody, { ...survey, reflectedC: 480 }, '/reflectedC', /is this °F/],
  ])('refuses %s', (_what, type, body, pointer, sentence) => {
    expect(refused(type, body)[pointer]).toMatch(sentence);
  });
});
