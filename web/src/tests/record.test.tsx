// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import { INITIALS, type BoardMapBody } from '@red-ember/contract';
import { startMap } from '@red-ember/study';
import { initialsTyped } from '../data/settings.ts';
import { store } from '../data/store.ts';
import { AskPage } from '../ask/AskPage.tsx';
import { EquipPage } from '../equip/EquipPage.tsx';
import { HoldPage } from '../hold/HoldPage.tsx';
import { InstrumentsPage } from '../instruments/InstrumentsPage.tsx';
import { LimitsPage } from '../limits/LimitsPage.tsx';
import { CameraPage } from '../look/CameraPage.tsx';
import { LookPage } from '../look/LookPage.tsx';
import { withoutSpot } from '../look/SpotTable.tsx';
import { MapPage } from '../look/MapPage.tsx';
import { limited, newSpot, renamed } from '../look/spots.ts';
import { moved, newCover, placed, unplaced, withoutEntry } from '../map/edits.ts';
import { ShelfPage } from '../shelf/ShelfPage.tsx';
import { readPicture, contourLines } from '../survey/picture.ts';
import { saidOf } from '../survey/useSurveyDraft.ts';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { textOf } from './textOf.ts';

const user = userEvent.setup();
beforeEach(() => localStorage.clear());
const margin = () => screen.getByLabelText('What qualifies this page');
const withMap = (map: BoardMapBody) => made.study({ subjects: [{ id: 'part-1', name: 'Thistle 4T', details: '', drive: null, map }] });

it('keeps of initials the first four letters, as capitals, whatever was typed', () => {
  for (const [typed, kept] of [
    ['j. d.', 'JD'],
    ['öäß', 'ÖÄSS'],
    ['Anna M', 'ANNA'],
    ['12', ''],
  ] as const) {
    // prettier-ignore
    store.dispatch(initialsTyped(typed));
    expect(store.getState().settings.initials).toBe(kept);
    expect(INITIALS.test(kept)).toBe(true);
  }
});

describe('Ask', () => {
  it('holds several parts and claims, each claim in the unit of what it is about', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    server.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Add a part' }));
    await user.clear(screen.getByLabelText('Part 2'));
    await user.type(screen.getByLabelText('Part 2'), 'Quarry C1');
    await user.click(screen.getByRole('button', { name: 'Another claim' }));
    const second = screen.getByRole('group', { name: 'Claim 2' });
    await user.type(within(second).getByLabelText('In one sentence'), 'It writes faster');
    await user.selectOptions(within(second).getByLabelText('About'), 'throughput');
    expect(within(second).getByText('MB/s')).toBeTruthy();
    expect(within(second).queryByLabelText('Where')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect(server.last('PUT', '/studies/s1')!.body).toMatchObject({
      subjects: [{ name: 'Thistle 4T' }, { name: 'Quarry C1' }],
      claims: [{ outcome: 'temperature' }, { outcome: 'throughput', direction: 'more', spotId: null }],
    });
  });
  it('says of every school why it exists and what it costs', async () => {
    renderAt('/studies/s1/ask', <AskPage />);
    await user.selectOptions(await screen.findByLabelText('The figure of a run is'), 'hottest');
    expect(screen.getByText(/Costs a like-for-like place/)).toBeTruthy();
  });
  it('refuses managed temperatures that are turned round', async () => {
    renderAt('/studies/s1/ask', <AskPage />);
    await user.click(await screen.findByRole('button', { name: 'Temperatures the drive publishes' }));
    await user.type(screen.getByLabelText('Managed 1'), '80');
    await user.type(screen.getByLabelText('Managed 2'), '75');
    expect(screen.getByText('The second managed temperature lies above the first.')).toBeTruthy();
  });
  it('shows the tester’s record and what a change moved', async () => {
    const record = { right: 3, missed: 1, open: 2, shareRight: 0.75, meanErrorK: 1.4, biasK: 1.1 };
    const entry = {
      id: 'h1',
      at: '2026-03-06T10:00:00Z',
      changed: ['house rules'],
      moved: [{ what: 'Flash', before: '+1.0 K, warmer', after: '+1.0 K, equivalent' }],
    };
    renderAt(
      '/studies/s1/ask',
      <AskPage />,
      new FakeServer().on('GET /record', { record, predictions: [] }).on('GET /studies/s1/history', [entry]),
    );
    expect(await screen.findByText('3 of 4 predictions right.')).toBeTruthy();
    expect(textOf(margin())).toContain('parts come out warmer than you expect');
    await user.click(screen.getByRole('button', { name: 'History' }));
    expect(textOf(await screen.findByRole('dialog'))).toContain('+1.0 K, equivalent');
  });
});

describe('Look', () => {
  it('adds a dozen spots from their names, each with limits of its class', async () => {
    renderAt('/studies/s1/look', <LookPage />);
    await user.click(await screen.findByRole('button', { name: 'Add several' }));
    await user.type(screen.getByLabelText('Names, one a line'), 'Power stage 1{Enter}Inductor, upper{Enter}{Enter}Hub chip');
    await user.selectOptions(screen.getByLabelText('Read by'), 'own');
    await user.click(screen.getByRole('button', { name: 'Add 3 spots' }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    const row = screen.getByRole('row', { name: /Hub chip/ });
    expect(textOf(row)).toContain('100 °C');
    expect(textOf(row)).toContain('own s3');
    expect(screen.getByRole('heading', { name: '5 spots' })).toBeTruthy();
  });
  it('takes away with a spot everything that names it', () => {
    const study = withMap({ ...startMap('m2-2280-two'), placements: [{ spotId: 'under', face: 'under', xMm: 69, yMm: 11 }] });
    study.spots[0]!.twinOf = 'under';
    const rest = withoutSpot(study, 'under');
    expect(rest.spots).toMatchObject([{ id: 'top', twinOf: null }]);
    expect(rest.predictions).toEqual([]);
    expect(rest.subjects![0]!.map!.placements).toEqual([]);
  });
  it('takes what a drive publishes before any general figure', () => {
    const drive = { warningC: 80, criticalC: 86, managed1C: 76, managed2C: 79 };
    const spot = newSpot([], made.limits, 'Drive’s own sensor', [], 'own', drive);
    expect(spot).toMatchObject({
      componentClass: 'drive sensor',
      limitC: 80,
      throttleC: 76,
      cutOutC: 86,
      limitSource: expect.stringContaining('published by the drive'),
    });
    expect(newSpot([], made.limits, 'Drive’s own sensor', [], 'own').limitC).toBe(82);
    const board = newSpot([], made.limits, 'Somewhere');
    // A typed limit takes along a cut-out that nobody set, and is no general figure any more; emptied and typed anew it does so still.
    const typed = { ...board, ...limited(board, NaN, made.limits) };
    expect({ ...typed, ...limited(typed, 91, made.limits) }).toMatchObject({ limitC: 91, cutOutC: 94, limitSource: 'typed by the tester' });
    const own = { ...board, cutOutC: board.limitC + 10, limitSource: 'data sheet of the board' };
    expect(limited(own, 91, made.limits)).toEqual({ limitC: 91 });
    // Another name gives another class with its limits, until a class was chosen by hand or a limit typed.
    const flash = { ...board, ...renamed(board, 'Flash, top face', made.limits, 'drive') };
    expect([flash.componentClass, flash.limitC]).toEqual(['flash', made.limits.find(({ componentClass }) => componentClass === 'flash')!.neverExceedC]); // prettier-ignore
    expect(renamed({ ...flash, componentClass: 'memory' }, 'Controller', made.limits, 'drive')).toEqual({ name: 'Controller' });
    expect(renamed({ ...flash, limitC: 71, limitSource: 'typed' }, 'Controller', made.limits, 'drive')).toEqual({
      name: 'Controller',
      componentClass: 'drive controller',
    });
  });
  it('guesses the class by name and never gives two spots one channel', () => {
    expect(['GPU die', 'VRAM 3', 'Choke', 'Chipset', 'Somewhere'].map((name) => newSpot([], [], name).componentClass)).toEqual([
      'graphics core',
      'memory',
      'inductor',
      'hub chip',
      'board',
    ]);
    const spots = [made.spot('a', { name: 'A', channel: 'tc1' })];
    expect(newSpot(spots, made.limits, 'B', ['tc1', 'tc7']).channel).toBe('tc7');
    // The bench that is there has no more: none is made up.
    expect(newSpot(spots, made.limits, 'B', ['tc1']).channel).toBe('to choose 1');
    expect(newSpot([...spots, made.spot('b', { name: 'B', channel: 'to choose 1' })], made.limits, 'C', ['tc1']).channel).toBe(
      'to choose 2',
    );
    expect(newSpot(spots, made.limits, 'B').channel).toBe('tc2');
    expect(newSpot(spots, made.limits, 'Sink', [], 'infrared')).toMatchObject({ byHand: true, method: 'infrared', placementK: 1.5 });
  });
});

describe('Board map', () => {
  it('starts from a shape, and says what a cover touches, traps and leaves bare', async () => {
    renderAt('/studies/s1/look/map', <MapPage />);
    await user.click(await screen.findByRole('button', { name: 'M.2 2280, parts on both faces' }));
    expect(screen.getByRole('button', { name: 'Part Controller' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add a cover' }));
    expect(textOf(margin())).toContain('71 % of the heat comes from parts that a cover touches');
    expect(textOf(margin())).toContain('19 % is left bare: Flash 3, Flash 4');
    await user.click(screen.getByRole('button', { name: 'Cover 1 pad' }));
    await user.clear(screen.getByLabelText('Thickness'));
    await user.type(screen.getByLabelText('Thickness'), '0.5');
    expect(textOf(margin())).toContain('71 % is trapped');
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    await user.keyboard('{Control>}z{/Control}');
  });
  it('is worked by keys: focus picks, arrows move, Delete takes off, undo brings back', async () => {
    renderAt('/studies/s1/look/map', <MapPage />, new FakeServer(withMap(startMap('m2-2242-one'))));
    const part = await screen.findByRole('button', { name: 'Part Controller' });
    part.focus();
    expect(await screen.findByLabelText('From the left')).toHaveProperty('value', '5');
    await user.keyboard('{ArrowRight}{ArrowRight}{Shift>}{ArrowDown}{/Shift}');
    expect(screen.getByLabelText('From the left')).toHaveProperty('value', '7');
    expect(screen.getByLabelText('From above')).toHaveProperty('value', '9');
    await user.keyboard('{Delete}');
    expect(screen.queryByRole('button', { name: 'Part Controller' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.getByRole('button', { name: 'Part Controller' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Redo' }));
    expect(screen.queryByRole('button', { name: 'Part Controller' })).toBeNull();
  });
  it('shows every figure of a part, a cover and a pad in its own unit, and keeps shares as parts of one', async () => {
    const fake = renderAt('/studies/s1/look/map', <MapPage />, new FakeServer(withMap(startMap('m2-2242-one'))));
    fake.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
    (await screen.findByRole('button', { name: 'Part Controller' })).focus();
    const share = await screen.findByLabelText('Share of the heat');
    await user.clear(share);
    await user.type(share, '33,3');
    await user.click(screen.getByRole('button', { name: 'Add a cover' }));
    const below = await screen.findByLabelText('Lower face above board');
    await user.clear(below);
    await user.type(below, '2.5');
    screen.getByRole('button', { name: /^Pad / }).focus();
    const conductivity = await screen.findByLabelText('Conductivity');
    await user.clear(conductivity);
    await user.type(conductivity, '12');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(fake.last('PUT', '/studies/s1')).toBeTruthy());
    const map = (fake.last('PUT', '/studies/s1')!.body as ReturnType<typeof made.study>).subjects[0]!.map!;
    expect(map.parts.find((part) => part.name === 'Controller')!.heatShare).toBeCloseTo(0.333, 9);
    expect(map.covers[0]!.undersideMm).toBe(2.5);
    expect(map.pads[0]!.conductivityWPerMK).toBe(12);
  });
  it('names parts that overlap and keeps them on the page', async () => {
    renderAt('/studies/s1/look/map', <MapPage />, new FakeServer(withMap(startMap('m2-2242-one'))));
    (await screen.findByRole('button', { name: 'Part Controller' })).focus();
    await user.clear(await screen.findByLabelText('From the left'));
    await user.type(screen.getByLabelText('From the left'), '20');
    expect(textOf(await screen.findByRole('alert'))).toBe('Flash 1 and Controller overlap.');
  });
  it('places a spot on the part beneath it, and moves it by name of part', async () => {
    renderAt('/studies/s1/look/map', <MapPage />, new FakeServer(withMap(startMap('m2-2280-two'))));
    await user.click(await screen.findByRole('button', { name: 'Flash, top face' }));
    expect(screen.getByText(/Press on the map where/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    const map = placed(startMap('m2-2280-two'), 'top', 'top', 20, 12);
    expect(map.placements).toEqual([{ spotId: 'top', face: 'top', xMm: 19, yMm: 11 }]);
    expect(unplaced(map, made.study().spots).map((spot) => spot.id)).toEqual(['under']);
    expect(moved(map, { list: 'placements', id: 'top' }, 49, 0, true).placements[0]).toMatchObject({ xMm: 69, yMm: 11 });
    const { cover, pad } = newCover(map, 'top');
    const covered = { ...map, covers: [cover], pads: [pad] };
    expect(withoutEntry(covered, { list: 'covers', id: cover.id })).toMatchObject({ covers: [], pads: [] });
  });
});

describe('Camera survey', () => {
  const server = (survey = made.survey()) =>
    new FakeServer(withMap(startMap('m2-2280-two')))
      .on('GET /studies/s1/surveys', ({ search }: { search: string }) => (search.includes('trash=true') ? [] : [survey]))
      .on('GET /surveys/p1', survey);

  it('reads a picture: hot spot, place on the map, contours', () => {
    const survey = made.survey();
    const read = readPicture(survey, saidOf(survey));
    expect(read.spots).toMatchObject([{ row: 5, column: 25 }]);
    expect(read.registration!.toMap(5, 25).xMm).toBeCloseTo(51.3, 0);
    expect(contourLines(read, []).map((line) => line.levelC)).toEqual([40, 50, 60]);
    const shiny = readPicture(survey, {
      ...saidOf(survey),
      regions: [{ name: 'ring', fromRow: 0, toRow: 10, fromColumn: 20, toColumn: 30, emissivity: 0.2, reflectedC: null }],
    });
    expect(shiny.corrected.valuesC[5]![25]).toBeNaN();
    expect(shiny.maxC).toBeLessThan(60);
    expect(readPicture(survey, { ...saidOf(survey), reflectedC: 400, emissivity: 0.3 }).sentence).toContain('not corrected');
    expect(readPicture(survey, { ...saidOf(survey), references: [] }).registration).toBeNull();
  });
  it('proposes a spot by the part beneath, and puts it on study and map', async () => {
    const fake = renderAt('/studies/s1/look/camera', <CameraPage />, server());
    fake.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Place a spot' }));
    expect(await screen.findByText('is a spot')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(fake.last('PUT', '/studies/s1')).toBeTruthy());
    const body = fake.last('PUT', '/studies/s1')!.body as ReturnType<typeof made.study>;
    expect(body.spots[2]).toMatchObject({ name: 'Flash 2', componentClass: 'flash', limitC: 85 });
    expect(body.subjects[0]!.map!.placements[0]).toMatchObject({ spotId: body.spots[2]!.id, face: 'top', xMm: 51, yMm: 11 });
  });
  it('keeps what is said about a picture by itself, and says when it may not', async () => {
    const fake = renderAt('/studies/s1/look/camera', <CameraPage />, server());
    fake.on('PUT /surveys/p1', ({ body }: { body: object }) => ({ ...made.survey(), ...body, version: 4 }));
    const field = await screen.findByLabelText('Camera set to');
    await user.clear(field);
    await user.type(field, '0.9');
    await waitFor(() => expect(fake.last('PUT', '/surveys/p1')).toBeTruthy(), { timeout: 3000 });
    expect(fake.last('PUT', '/surveys/p1')!.headers.get('if-match')).toBe('"3"');
    await waitFor(() => expect(screen.getByText('Saved')).toBeTruthy());
    fake.on('PUT /surveys/p1', problem(412, 'This picture was saved in another window since you opened it.'));
    await user.type(field, '1');
    expect(textOf(await screen.findByRole('alert', {}, { timeout: 3000 }))).toContain('saved in another window');
    expect(field).toHaveProperty('value', '0.91');
  });
  it('gives a picture back from the trash', async () => {
    const fake = renderAt(
      '/studies/s1/look/camera',
      <CameraPage />,
      new FakeServer().on('GET /studies/s1/surveys', ({ search }: { search: string }) =>
        search.includes('trash=true') ? [made.survey()] : [],
      ),
    );
    fake.on('POST /surveys/p1/restore', made.survey());
    await user.click(await screen.findByRole('button', { name: 'Bring back Bare' }));
    await waitFor(() => expect(fake.last('POST', '/surveys/p1/restore')).toBeTruthy());
  });
  it('refuses a ragged file with its sentence', async () => {
    const fake = renderAt('/studies/s1/look/camera', <CameraPage />, new FakeServer(withMap(startMap('m2-2280-two'))));
    fake.on('POST /studies/s1/surveys', problem(422, 'bad was not read. Line 2 has 1 values, the lines before it have 2.'));
    await user.upload(await screen.findByLabelText(/Choose a picture file/), new File(['1,2\n3'], 'bad.csv', { type: 'text/csv' }));
    expect(textOf(await screen.findByRole('alert'))).toContain('Line 2 has 1 values');
    expect(fake.last('POST', '/studies/s1/surveys')!.body).toMatchObject({ name: 'bad', unit: 'C', face: 'top', text: '1,2\n3' });
  });
});

describe('Equip', () => {
  it('budgets one spot by use: what cancels in a difference counts in a reading', async () => {
    renderAt('/studies/s1/equip', <EquipPage />);
    expect(await screen.findAllByText('the same in both readings, so it cancels')).toHaveLength(3);
    await user.selectOptions(screen.getByLabelText('Use of the reading'), 'absolute');
    expect(screen.queryByText('the same in both readings, so it cancels')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Use of the reading'), 'rise');
    expect(screen.getByText('stated accuracy, room probe')).toBeTruthy();
  });
  it('shows how two sensors on one place agree', async () => {
    const study = made.study();
    study.spots[1]!.twinOf = 'top';
    const twin = {
      runId: 'r1',
      runNumber: 1,
      aId: 'top',
      bId: 'under',
      agreement: { bias: { value: 3.1, u: 0.1, dof: 40 }, lower: 2.1, upper: 4.1, trendPerK: { value: 0.05, u: 0.01, dof: 40 }, n: 900 },
      levelC: 60,
      biasAtLimitK: 4.4,
      flag: 'Flash, underside reads about 4.4 K low near its limit, by Flash, top face on the same place (run 1).',
      points: [
        { meanC: 40, differenceK: 2.5 },
        { meanC: 70, differenceK: 3.9 },
      ],
    };
    renderAt('/studies/s1/equip', <EquipPage />, new FakeServer(study).on('GET /studies/s1/agreements', [twin]));
    expect(await screen.findByText(/reads about 4.4 K low/)).toBeTruthy();
    expect(screen.getByText('+3.1 ± 0.2 K')).toBeTruthy();
  });
  it('estimates the part beneath a sink, marked as an estimate', async () => {
    renderAt('/studies/s1/equip', <EquipPage />);
    await user.click(await screen.findByRole('button', { name: 'Flash, top face' }));
    await user.click(screen.getByRole('button', { name: 'Estimate the part beneath this surface' }));
    expect(screen.getByText(/beneath it: an estimate, not a reading/)).toBeTruthy();
    await user.clear(screen.getByLabelText('Pad'));
    await user.type(screen.getByLabelText('Pad'), '1.05');
    expect(screen.getByText(/may not touch at all/)).toBeTruthy();
  });
});

describe('Instruments and limits', () => {
  it('writes an instrument down, and says what is missing', async () => {
    const server = renderAt('/', <InstrumentsPage />, new FakeServer().on('GET /instruments', []));
    server.on('POST /instruments', { ...made.logger, id: 'i2' });
    await user.click(await screen.findByRole('button', { name: 'Add an instrument' }));
    await user.click(screen.getByRole('button', { name: 'Save the instrument' }));
    expect(screen.getByText('Name the instrument.')).toBeTruthy();
    await user.type(screen.getByLabelText('Instrument'), 'Meter');
    await user.selectOptions(screen.getByLabelText('Wire, on top'), 'K2');
    await user.click(screen.getByRole('button', { name: 'Another channel' }));
    await user.click(screen.getByRole('button', { name: 'Save the instrument' }));
    await waitFor(() => expect(server.last('POST', '/instruments')).toBeTruthy());
    expect(server.last('POST', '/instruments')!.body).toMatchObject({
      name: 'Meter',
      channels: [
        { name: 'TC 1', thermocouple: { type: 'K', toleranceClass: 2 } },
        { name: 'TC 2', thermocouple: { type: 'K', toleranceClass: 2 } },
      ],
    });
  });
  it('calibrates at ice and boiling point, the latter by air pressure, and only the chosen earlier runs', async () => {
    const run = { runId: 'r1', studyId: 's1', studyTitle: 'Lid', number: 1, startedAt: '2026-03-02T10:00:00Z', calibrationId: null };
    const server = renderAt('/', <InstrumentsPage />, new FakeServer().on('GET /instrument-channels/l-tc1/runs', [run]));
    server.on('POST /instruments/i1/calibrations', {});
    await user.click(await screen.findByRole('button', { name: 'Calibrate TC 1' }));
    await user.click(screen.getByRole('button', { name: 'Save the calibration' }));
    expect(screen.getByText('A calibration needs at least one point.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Ice point' }));
    await user.type(screen.getByLabelText('Shown'), '0.2');
    expect(screen.getByText(/One point: the same correction everywhere, −0.20 K/)).toBeTruthy();
    await user.clear(screen.getByLabelText('Air pressure'));
    await user.type(screen.getByLabelText('Air pressure'), '981');
    await user.click(screen.getByRole('button', { name: /Boiling point, 99.07 °C/ }));
    await user.type(screen.getAllByLabelText('Shown')[1]!, '98.8');
    expect(screen.getByText(/two points leave no residual/)).toBeTruthy();
    await user.click(screen.getByLabelText(/Lid, run 1/));
    await user.click(screen.getByRole('button', { name: 'Save the calibration' }));
    await waitFor(() => expect(server.last('POST', '/instruments/i1/calibrations')).toBeTruthy());
    expect(server.last('POST', '/instruments/i1/calibrations')!.body).toMatchObject({
      channelId: 'l-tc1',
      applyToRuns: ['r1'],
      points: [
        { indicatedC: 0.2, referenceC: 0 },
        { indicatedC: 98.8, referenceC: 99.07 },
      ],
    });
  });
  it('changes a limit of the library, but not to nonsense', async () => {
    const server = renderAt('/', <LimitsPage />);
    server.on('PUT /limits', ({ body }: { body: object }) => ({ ...body, version: 1, updatedAt: '' }));
    await user.click(await screen.findByRole('button', { name: 'Change flash' }));
    const form = screen.getByRole('form', { name: 'flash' });
    await user.clear(within(form).getByLabelText('Never exceed'));
    await user.type(within(form).getByLabelText('Never exceed'), '60');
    expect(await within(form).findByText(/lies above the one never to be exceeded/)).toBeTruthy();
    await user.click(within(form).getByRole('button', { name: 'Save flash' }));
    expect(server.last('PUT', '/limits')).toBeUndefined();
    await user.clear(within(form).getByLabelText('Never exceed'));
    await user.type(within(form).getByLabelText('Never exceed'), '80');
    await waitFor(() => expect(within(form).queryByText(/lies above the one never to be exceeded/)).toBeNull());
    await user.click(within(form).getByRole('button', { name: 'Save flash' }));
    await waitFor(() => expect(server.last('PUT', '/limits')!.body).toMatchObject({ componentClass: 'flash', neverExceedC: 80 }));
    expect(server.last('PUT', '/limits')!.headers.get('if-match')).toBe('"0"');
  });
});

describe('Hold and the shelf', () => {
  it('holds one part at another value, and asks for a number where a channel watches', async () => {
    const study = made.study({
      subjects: [
        { id: 'part-1', name: 'Ferry B2', details: '', drive: null, map: null },
        { id: 'part-2', name: 'Ferry B4', details: '', drive: null, map: null },
      ],
    });
    renderAt('/studies/s1/hold', <HoldPage />, new FakeServer(study));
    await user.click(await screen.findByRole('button', { name: 'Case part by part' }));
    await user.type(screen.getByLabelText('Case of Ferry B4'), 'closed');
    await user.click(screen.getByRole('button', { name: 'Case part by part' }));
    expect(screen.getByText('Ferry B4: closed')).toBeTruthy();
    await user.type(screen.getByLabelText('Channel that watches Case'), 'fan');
    expect(screen.getByText(/can only watch a number/)).toBeTruthy();
    expect(textOf(margin())).toContain('fan is not among the channels');
  });
  it('says what else changed between two runs', async () => {
    const server = new FakeServer()
      .on('GET /runs/r1/conditions', { Variant: 'bare', Firmware: '2.4', Fan: '60 %' })
      .on('GET /runs/r4/conditions', { Variant: 'bare', Firmware: '2.5' });
    renderAt('/studies/s1/hold', <HoldPage />, server);
    expect(await screen.findByText('2 things besides the mount.')).toBeTruthy();
    expect(textOf(screen.getByRole('row', { name: /Firmware/ }))).toBe('Firmware2.42.5');
  });
  it('finds a study by any of its words, and copies one', async () => {
    const studies = ['a', 'b', 'c', 'd'].map((id) =>
      made.summary({ id, title: `Study ${id}`, subject: id === 'c' ? 'Quarry C3' : 'Thistle' }),
    );
    const server = renderAt('/', <ShelfPage />, new FakeServer().on('GET /studies', studies));
    server.on('POST /studies/c/copy', made.study({ id: 'x' }));
    await user.type(await screen.findByLabelText('Find a study'), 'quarry');
    expect(screen.queryByText('Study a')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Copy Study c' }));
    await waitFor(() => expect(server.last('POST', '/studies/c/copy')!.body).toEqual({ title: 'Study c, again' }));
  });
});
