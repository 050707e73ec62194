// @vitest-environment happy-dom
import { strToU8, zipSync } from 'fflate';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from './renderAt.tsx';
import { AskPage } from '../ask/AskPage.tsx';
import { EquipPage } from '../equip/EquipPage.tsx';
import { HoldPage } from '../hold/HoldPage.tsx';
import { LookPage } from '../look/LookPage.tsx';
import { PlanPage } from '../plan/PlanPage.tsx';
import { ShelfPage } from '../shelf/ShelfPage.tsx';
import { sorted } from '../shelf/studyFiles.ts';
import { textOf } from './textOf.ts';

const user = userEvent.setup();

beforeAll(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
});
afterEach(() => localStorage.clear());

describe('the shelf', () => {
  it('shows studies with what became of their claim', async () => {
    renderAt('/', <ShelfPage />);
    expect(await screen.findByRole('link', { name: 'Lid on the drive' })).toHaveProperty(
      'href',
      expect.stringContaining('/studies/s1/judge'),
    );
    expect(await screen.findByText('claim contradicted')).toBeTruthy();
    expect(screen.getByText(/is connected and free/)).toBeTruthy();
  });

  it('starts a study and opens it', async () => {
    const server = renderAt('/', <ShelfPage />);
    server.on('POST /studies', made.study({ id: 'new', title: 'Comb sink' }));
    await user.type(await screen.findByLabelText('Start a study'), 'Comb sink{Enter}');
    await screen.findByText(/Opening the study|cannot be opened|elsewhere/);
    expect(server.last('POST', '/studies')!.body).toMatchObject({
      title: 'Comb sink',
      spots: [],
      recipe: [{ kind: 'idle-soak' }, { kind: 'load' }, { kind: 'cool-down' }],
    });
  });

  it('teaches where it is empty, and says when the server is away', async () => {
    renderAt('/', <ShelfPage />, new FakeServer().on('GET /studies', []));
    expect(await screen.findByText(/A study asks one question of one part/)).toBeTruthy();
    const away = new FakeServer();
    away.fetch = () => Promise.reject(new TypeError('failed'));
    renderAt('/', <ShelfPage />, away);
    expect(textOf(await screen.findByRole('alert'))).toContain('The server does not answer.');
  });

  it('reads study files in where they are dropped, and says what this bench makes of them', async () => {
    const server = renderAt('/', <ShelfPage />, new FakeServer());
    const moved = [{ what: 'Controller', before: '-9.9 K, cooler', after: '-9.9 K, no call' }];
    const came = { studyId: 's9', title: 'Lids', runs: 4, written: '2026-03-04T10:00:00Z', sameMethod: true, compared: 2 };
    server.on('POST /study-files', { ...came, moved, alreadyHere: 'Lids' });
    const text = strToU8('{}');
    const packed = new File([zipSync({ 'datapackage.json': text, 'study.sqlite': text })], 'lids.zip');
    const choose = () => document.querySelector<HTMLInputElement>('input[type=file]')!;
    await user.upload(choose(), packed);
    expect(await screen.findByText(/1 spot of 2 comes to something else/)).toBeTruthy();
    expect(screen.getByText(/-9.9 K, cooler there, -9.9 K, no call here/)).toBeTruthy();
    expect(screen.getByText(/is on this bench too/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Open it' }).getAttribute('href')).toBe('/studies/s9/judge');
    server.on('POST /study-files', problem(422, 'The study file was changed since it was written: study.sqlite is another.'));
    await user.upload(choose(), packed);
    expect(textOf((await screen.findByRole('alert')))).toBe('lids.zip: The study file was changed since it was written: study.sqlite is another.'); // prettier-ignore
    server.on('POST /study-files', { ...came, moved: [], alreadyHere: null });
    await user.upload(choose(), packed);
    expect(await screen.findByText(/all 2 spots come to what the bench that wrote the file on 4 Mar 2026 said/)).toBeTruthy();
    expect(server.asked.filter(({ method, path }) => method === 'POST' && path === '/logs')).toEqual([]);
  });

  it('takes a zip of logs for logs', async () => {
    const { studies, others } = await sorted([new File([zipSync({ 'a.csv': strToU8('t,y') })], 'day.zip'), new File(['t'], 'b.csv'), new File(['no zip'], 'c.zip')]); // prettier-ignore
    expect(studies).toEqual([]);
    expect(others.map(({ name }) => name)).toEqual(['day.zip', 'b.csv', 'c.zip']);
  });

  it('takes the file of a whole bench for the study files in it', async () => {
    const study = zipSync({ 'datapackage.json': strToU8('{}'), 'study.sqlite': strToU8('rows') });
    const bench = zipSync({ 'bench.json': strToU8('{}'), 'Lid.zip': study, 'Six pastes.zip': study, 'in/other.zip': study });
    const { studies, others } = await sorted([
      new File([new Uint8Array(bench)], 'bench.zip'),
      new File([new Uint8Array(study)], 'one.zip'),
    ]);
    expect(studies.map(({ name }) => name)).toEqual(['Lid.zip', 'Six pastes.zip', 'one.zip']);
    expect(others).toEqual([]);
  });

  it('puts a study in the trash, but not one with a live run', async () => {
    const server = renderAt(
      '/',
      <ShelfPage />,
      new FakeServer()
        .on('GET /studies', [made.summary(), made.summary({ id: 's2', title: 'Busy', live: true })])
        .on('DELETE /studies/s1', null),
    );
    expect(await screen.findByRole('button', { name: 'Put Busy in the trash' })).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('button', { name: 'Put Lid on the drive in the trash' }));
    await waitFor(() => expect(server.last('DELETE', '/studies/s1')).toBeTruthy());
  });
});

describe('writing a study', () => {
  it('saves the whole with the version it started from', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    server.on('PUT /studies/s1', ({ body }: { body: unknown }) => ({ ...made.study(), ...(body as object), version: 5 }));
    const title = await screen.findByLabelText('Title');
    await user.clear(title);
    expect(await screen.findByText('One field needs attention')).toBeTruthy();
    expect(screen.getByText('Give the study a title of up to 120 characters.')).toBeTruthy();
    await user.type(title, 'Another title');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect(server.last('PUT', '/studies/s1')!.headers.get('if-match')).toBe('"4"');
    expect(server.last('PUT', '/studies/s1')!.body).toMatchObject({ title: 'Another title', spots: [{ id: 'top' }, { id: 'under' }] });
    await waitFor(() => expect(screen.queryByText('Not saved yet')).toBeNull());
  });

  it('asks whether what was measured is only called otherwise, and saves it so', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    await user.type(await screen.findByLabelText('What do you want to know?'), '!');
    const sentence = 'bare has runs with Paste K. They would become runs with Paste W.';
    server.on('PUT /studies/s1', problem(409, sentence, [{ pointer: '/variants/0/levels', sentence }]));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(textOf((await screen.findAllByRole('alert'))[0]!)).toContain('would become runs with Paste W');
    server.on('PUT /studies/s1', made.study({ version: 2 }));
    await user.click(screen.getByRole('button', { name: 'It is the same, called otherwise' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')!.search).toBe('?measured=renamed'));
  });

  it('keeps what was typed when somebody else saved first, and offers both ways out', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    server.on('PUT /studies/s1', problem(412, 'This study was saved in another window since you opened it.'));
    await user.type(await screen.findByLabelText('What do you want to know?'), ' More');
    await user.keyboard('{Control>}s{/Control}');
    expect(textOf(await screen.findByRole('alert'))).toContain('saved in another window');
    expect(screen.getByLabelText('What do you want to know?')).toHaveProperty('value', 'Does it help? More');
    server
      .on('GET /studies/s1', made.study({ version: 9, title: 'Their title', question: 'Theirs' }))
      .on('PUT /studies/s1', made.study({ version: 10, question: 'Does it help? More' }));
    await user.click(screen.getByRole('button', { name: 'Keep mine on top' }));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')!.headers.get('if-match')).toBe('"9"'));
    // What only they changed is theirs, what both changed is mine.
    expect(server.last('PUT', '/studies/s1')!.body).toMatchObject({ title: 'Their title', question: 'Does it help? More' });
  });

  it('keeps what is typed while a save is under way', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    let answer: (() => void) | null = null;
    const real = server.fetch.bind(server);
    server.fetch = async (request) => {
      if (request.method === 'PUT') await new Promise<void>((done) => (answer = done));
      return real(request);
    };
    server.on('PUT /studies/s1', ({ body }: { body: unknown }) => ({ ...made.study(), ...(body as object), version: 5 }));
    await user.type(await screen.findByLabelText('Title'), ' one');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(answer).not.toBeNull());
    await user.type(screen.getByLabelText('Title'), ' two');
    answer!();
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Saving…' })).toBeNull());
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'Lid on the drive one two');
    expect(screen.getByText('Not saved yet')).toBeTruthy();
  });

  it('takes a discard back', async () => {
    renderAt('/studies/s1/ask', <AskPage />);
    await user.type(await screen.findByLabelText('Title'), ' typed');
    await user.click(screen.getByRole('button', { name: 'Discard' }));
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'Lid on the drive');
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'Lid on the drive typed');
  });

  it('shows what only the server knows beside its field', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    server.on(
      'PUT /studies/s1',
      problem(422, 'The claim names a spot that is not in this study.', [
        { pointer: '/claims/0/spotId', sentence: 'The claim names a spot that is not in this study.' },
      ]),
    );
    await user.type(await screen.findByLabelText('Title'), '!');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(screen.getByLabelText('Where').getAttribute('aria-invalid')).toBe('true'));
  });

  it('fixes the prediction once a run has started', async () => {
    renderAt('/studies/s1/ask', <AskPage />, new FakeServer(made.study({ predictionLockedAt: '2026-03-02T10:00:00Z' })));
    expect(await screen.findByText('0.0 ± 1.0 K')).toBeTruthy();
    expect(screen.queryByLabelText('Change against the reference')).toBeNull();
    expect(screen.getByText('Fixed since the first run, 2026-03-02.')).toBeTruthy();
  });

  it('says which were written later, of a variant that came later', async () => {
    const study = made.study({
      predictionLockedAt: '2026-03-02T10:00:00Z',
      predictionStamps: { p1: '2026-03-01T10:00:00Z', p2: '2026-04-01T10:00:00Z' },
    });
    study.predictions = [...study.predictions, { ...study.predictions[0]!, id: 'p2' }];
    renderAt('/studies/s1/ask', <AskPage />, new FakeServer(study));
    const words = 'Fixed since the first run, 2026-03-02; one is of a variant that came later, written before a run of it.';
    expect(await screen.findByText(words)).toBeTruthy();
  });

  it('takes numbers with a comma and keeps what is no number on screen', async () => {
    renderAt('/studies/s1/ask', <AskPage />);
    const field = await screen.findByLabelText('A difference matters from');
    await user.clear(field);
    await user.type(field, 'about 1');
    expect(screen.getByText('The threshold must be a number.')).toBeTruthy();
    await user.tab();
    expect(field).toHaveProperty('value', 'about 1');
    await user.clear(field);
    await user.type(field, '1,5');
    await user.tab();
    expect(field).toHaveProperty('value', '1.5');
    expect(screen.queryByText('The threshold must be a number.')).toBeNull();
  });

  it('undoes what was typed into a field at once, does it again and discards', async () => {
    renderAt('/studies/s1/hold', <HoldPage />);
    await user.type(await screen.findByLabelText('Value of Case'), '!!');
    expect(screen.getByLabelText('Value of Case')).toHaveProperty('value', 'open bench!!');
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(screen.getByLabelText('Value of Case')).toHaveProperty('value', 'open bench');
    await user.click(screen.getByRole('button', { name: 'Redo' }));
    expect(screen.getByLabelText('Value of Case')).toHaveProperty('value', 'open bench!!');
    await user.click(screen.getByRole('button', { name: 'Discard' }));
    expect(screen.getByLabelText('Value of Case')).toHaveProperty('value', 'open bench');
    expect(screen.queryByText('Not saved yet')).toBeNull();
  });
});

describe('Look, Equip and Plan', () => {
  it('gives no spot limits before the library has come', async () => {
    const server = new FakeServer();
    let answer: (() => void) | null = null;
    const real = server.fetch.bind(server);
    server.fetch = async (request) => {
      if (request.url.endsWith('/limits')) await new Promise<void>((done) => (answer = done));
      return real(request);
    };
    renderAt('/studies/s1/look', <LookPage />, server);
    expect(await screen.findByText('The limits library is being opened…')).toBeTruthy();
    for (const name of ['Add a spot', 'Add several']) expect(screen.getByRole('button', { name })).toHaveProperty('disabled', true);
    await waitFor(() => expect(answer).not.toBeNull());
    answer!();
    await waitFor(() => expect(screen.getByRole('button', { name: 'Add a spot' })).toHaveProperty('disabled', false));
  });

  it('adds a spot with the library’s limits, which follow its class until a source is given', async () => {
    renderAt('/studies/s1/look', <LookPage />);
    await waitFor(() => expect(screen.getByRole('button', { name: 'Add a spot' })).toHaveProperty('disabled', false));
    await user.click(screen.getByRole('button', { name: 'Add a spot' }));
    expect(screen.getByLabelText('Limit')).toHaveProperty('value', '105');
    await user.selectOptions(screen.getByLabelText('Component'), 'drive controller');
    expect(screen.getByLabelText('Limit')).toHaveProperty('value', '95');
    expect(screen.getByLabelText('Throttles at')).toHaveProperty('value', '88');
    await user.clear(screen.getByLabelText('Source of the limit'));
    await user.type(screen.getByLabelText('Source of the limit'), 'data sheet');
    await user.selectOptions(screen.getByLabelText('Component'), 'flash');
    expect(screen.getByLabelText('Limit')).toHaveProperty('value', '95');
    await user.clear(screen.getByLabelText('Cut-out'));
    await user.type(screen.getByLabelText('Cut-out'), '90');
    expect(screen.getByText('Set the cut-out above the limit, or it would end every warm run.')).toBeTruthy();
    await user.clear(screen.getByLabelText('Throttles at'));
    await user.type(screen.getByLabelText('Throttles at'), '99');
    expect(screen.getByText('The limit, never to be exceeded, lies under the throttling point.')).toBeTruthy();
  });

  it('matches channels with the rig and says what one reading is worth', async () => {
    renderAt('/studies/s1/equip', <EquipPage />);
    expect(await screen.findAllByText('± 0.8 K')).toHaveLength(2);
    await user.click(screen.getByRole('button', { name: 'Flash, top face' }));
    await user.type(screen.getByLabelText('Channel of the rig'), 'x');
    expect(await screen.findByText('No rig has this channel.')).toBeTruthy();
    await user.clear(screen.getByLabelText('Accuracy ±'));
    expect(screen.getByText('unknown')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Instrument'), 'l-tc1');
    expect(screen.getByLabelText('Sensor')).toHaveProperty('value', 'TC 1');
    expect(screen.getByLabelText('Accuracy ±')).toHaveProperty('value', '0.8'); // 0.3 K fixed and a class 1 wire of 0.5 K
  });

  it('plans variants and phases, and keeps what has runs', async () => {
    renderAt('/studies/s1/plan', <PlanPage />, new FakeServer(made.study({ variantsWithRuns: ['bare'] })));
    expect(await screen.findByRole('button', { name: 'Retire bare' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Remove bare' })).toBeNull();
    expect(screen.getByRole('button', { name: 'Remove slot lid' })).toBeTruthy();
    expect(screen.getByText('One run takes 28 min to 78 min')).toBeTruthy();
    expect(await screen.findByText('In 4 earlier runs of this study the load was settled after 27 min.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Move Sustained write up' }));
    const line = screen.getByRole('list', { name: 'Time line of a run' });
    expect(
      within(line)
        .getAllByRole('listitem')
        .map((item) => item.textContent!.slice(0, 4)),
    ).toEqual(['Sust', 'Idle', 'Cool']);
    await user.selectOptions(screen.getAllByLabelText('Ends')[0]!, 'on time');
    expect(screen.queryByLabelText('At most')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Remove Cool-down' }));
    expect(within(line).getAllByRole('listitem')).toHaveLength(2);
  });
});
