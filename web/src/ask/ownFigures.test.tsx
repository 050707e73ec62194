// @vitest-environment happy-dom
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { OwnFigureBody, Study } from '@red-ember/contract';
import { blankOwnFigure } from '@red-ember/study';
import * as made from '@red-ember/testing';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { OwnValues } from '../run/record/OwnValues.tsx';
import { AskPage } from './AskPage.tsx';
import { withoutOwnFigure } from './edits.ts';

const user = userEvent.setup();
const render: OwnFigureBody = { ...blankOwnFigure('render'), name: 'Render time', unit: 'min', better: 'low', practical: 0.5 };
const score: OwnFigureBody = { ...blankOwnFigure('score'), name: 'Score', channel: 'fps', instrument: 'a program' };

describe('figures of one’s own', () => {
  it('are named at Ask, by hand or by a channel that is there, and can be claimed', async () => {
    const server = renderAt('/studies/s1/ask', <AskPage />);
    server.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...made.study(), ...body, version: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Name a figure' }));
    const figure = screen.getByRole('group', { name: 'Figure 1' });
    await user.type(within(figure).getByLabelText('What is noted'), 'Render time');
    await user.type(within(figure).getByLabelText('Unit'), 'min');
    await user.selectOptions(within(figure).getByLabelText('Which way'), 'low');
    await user.selectOptions(within(figure).getByLabelText('How it comes in'), 'tc1');
    const claim = screen.getByRole('group', { name: 'Claim 1' });
    await user.selectOptions(within(claim).getByLabelText('About'), 'Render time');
    expect(within(claim).getByText('min')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    const body = server.last('PUT', '/studies/s1')!.body as Study;
    expect(body.figures).toMatchObject([{ name: 'Render time', unit: 'min', better: 'low', channel: 'tc1' }]);
    expect(body.claims[0]).toMatchObject({ outcome: `own:${body.figures![0]!.id}`, direction: 'more', spotId: null });
  });

  it('that are taken out take their claims and weights along, and nothing else', () => {
    const study = made.study({ figures: [render, score] });
    const claim = { ...study.claims[0]!, id: 'own', outcome: 'own:render' as const };
    const judging = { marginK: 5, loads: [], profiles: [{ id: 'p', name: 'P', weights: [{ criterion: 'own:render' as const, weight: 2 }, { criterion: 'noise' as const, weight: 1 }] }] }; // prettier-ignore
    const left = withoutOwnFigure({ ...study, claims: [...study.claims, claim], judging }, 'render');
    expect(left.figures).toEqual([score]);
    expect(left.claims).toEqual(study.claims);
    const foreseen = { id: 'p', text: '', outcome: 'own:render' as const, spotId: '', expectedK: 1, plusMinusK: 1 };
    expect(withoutOwnFigure({ ...study, predictions: [foreseen] }, 'render').predictions).toEqual([]);
    // Fixed by the first run, it stands as it was written.
    expect(withoutOwnFigure({ ...study, predictions: [foreseen] }, 'render', true).predictions).toBeUndefined();
    expect(left.judging!.profiles[0]!.weights).toEqual([{ criterion: 'noise', weight: 1 }]);
  });
});

describe('a prediction', () => {
  it('may be about any outcome, in its unit, and needs a spot for a temperature alone', async () => {
    const study = made.study({ figures: [render], predictions: [], predictionLockedAt: null });
    const server = renderAt('/studies/s1/ask', <AskPage />, new FakeServer(study));
    server.on('PUT /studies/s1', ({ body }: { body: object }) => ({ ...study, ...body, version: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Write down a prediction' }));
    const group = screen.getByRole('group', { name: 'Prediction 1' });
    expect(within(group).getByLabelText('Spot')).toBeTruthy();
    await user.selectOptions(within(group).getByLabelText('About'), 'Render time');
    expect(within(group).queryByLabelText('Spot')).toBeNull();
    expect(within(group).getAllByText('min')).toHaveLength(2);
    await user.clear(within(group).getByLabelText('Change against the reference'));
    await user.type(within(group).getByLabelText('Change against the reference'), '-2');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.last('PUT', '/studies/s1')).toBeTruthy());
    expect((server.last('PUT', '/studies/s1')!.body as Study).predictions).toMatchObject([
      { outcome: 'own:render', spotId: '', expectedK: -2 },
    ]);
  });
});

describe('their values', () => {
  const phases = ['Idle', 'Quiet', 'Loud'].map((name, i) => ({ kind: i === 0 ? ('idle-soak' as const) : ('load' as const), name, startS: 600 * i, endS: 600 * (i + 1), endedBy: 'time' })); // prettier-ignore
  const at = '2026-03-02T11:00:00Z';
  const shown = (own: { figureId: string; load: string | null; value: number }[], change = {}) => {
    const run = { ...made.runs[0]!, phases, own: own.map((value) => ({ ...value, at })), ...change };
    const study = made.study({ figures: [render, score] });
    return {
      run,
      server: renderAt('/', <OwnValues study={study} run={run} />, new FakeServer(study).on(`PUT /runs/${run.id}/own-values`, run)),
    };
  };

  it('are typed of a run and of each of its loads, as a tester writes numbers, and what is emptied is taken back', async () => {
    const { run, server } = shown([
      { figureId: 'render', load: null, value: 14 },
      { figureId: 'score', load: 'Loud', value: 90 },
    ]);
    expect(await screen.findByDisplayValue('14')).toBeTruthy();
    expect(screen.getByText(/by channel fps; what is typed stands in its place/)).toBeTruthy();
    await user.type(screen.getByLabelText('Render time, Quiet'), '13,5');
    await user.clear(screen.getByLabelText('Score, Loud'));
    await user.click(screen.getByRole('button', { name: 'Write them down' }));
    await waitFor(() => expect(server.last('PUT', `/runs/${run.id}/own-values`)).toBeTruthy());
    expect(server.last('PUT', `/runs/${run.id}/own-values`)!.body).toEqual({
      values: [
        { figureId: 'render', load: null, value: 14 },
        { figureId: 'render', load: 'Quiet', value: 13.5 },
      ],
    });
  });

  it('that are no numbers are not sent, and one that the server refuses stays in its field', async () => {
    const { run, server } = shown([]);
    const field = await screen.findByLabelText('Render time');
    await user.type(field, 'fast');
    await user.click(screen.getByRole('button', { name: 'Write them down' }));
    expect(await screen.findByText('Type a number.')).toBeTruthy();
    expect(server.last('PUT', `/runs/${run.id}/own-values`)).toBeUndefined();
    server.on(`PUT /runs/${run.id}/own-values`, problem(422, 'Such a value is beyond this bench.'));
    await user.clear(field);
    await user.type(field, '1e12');
    await user.click(screen.getByRole('button', { name: 'Write them down' }));
    expect(await screen.findByText('Such a value is beyond this bench.')).toBeTruthy();
    expect(screen.getByLabelText('Render time')).toHaveProperty('value', '1e12');
  });

  it('of a load that is called otherwise now are not lost', async () => {
    const { run, server } = shown([{ figureId: 'render', load: 'Renamed since', value: 7 }]);
    await user.type(await screen.findByLabelText('Score'), '3');
    await user.click(screen.getByRole('button', { name: 'Write them down' }));
    await waitFor(() => expect(server.last('PUT', `/runs/${run.id}/own-values`)).toBeTruthy());
    expect(server.last('PUT', `/runs/${run.id}/own-values`)!.body).toEqual({
      values: [
        { figureId: 'score', load: null, value: 3 },
        { figureId: 'render', load: 'Renamed since', value: 7 },
      ],
    });
  });
});
