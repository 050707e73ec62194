// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import * as made from '@red-ember/testing';
import { STATIONS } from '../frame/stations.ts';
import { ShelfPage } from '../shelf/ShelfPage.tsx';
import { FakeServer, renderAt } from '../tests/renderAt.tsx';
import { TOUR, tourOf } from './tour.ts';
import { textOf } from '../tests/textOf.ts';

afterEach(() => {
  cleanup();
  localStorage.clear();
});
const user = userEvent.setup();

describe('the tour', () => {
  it('has a sentence for every station, and goes through a study that was measured', () => {
    for (const station of STATIONS) expect(TOUR[station].length, station).toBeGreaterThan(40);
    const [planned, measured] = [made.summary({ id: 'p', runs: 0 }), made.summary({ id: 'm', runs: 4 })];
    expect(tourOf([planned])).toBeUndefined();
    expect(tourOf([planned, measured])!.id).toBe('m');
    expect(tourOf([measured, made.summary({ id: 'demo-slot-lid', runs: 6 })])!.id).toBe('demo-slot-lid');
  });

  it('begins at the shelf, says what a station is for, leads on, and ends', async () => {
    const server = new FakeServer().on('GET /studies', [made.summary({ id: 's1', runs: 4 })]);
    renderAt('/', <ShelfPage />, server);
    await user.click(await screen.findByRole('link', { name: /Walk through one/ }));
    renderAt('/studies/s1/ask', <p>the page</p>, server);
    const first = await screen.findByRole('region', { name: 'Tour' });
    expect(textOf(first)).toContain('Ask, 1 of 10.');
    expect(within(first).queryByRole('link', { name: /^Back/ })).toBeNull();
    expect(within(first).getByRole('link', { name: 'On to Look' }).getAttribute('href')).toBe('/studies/s1/look');
    renderAt('/studies/s1/judge/all', <p>the page</p>, server);
    const later = await screen.findByRole('region', { name: 'Tour' });
    expect(textOf(later)).toContain('Judge, 9 of 10.');
    expect(within(later).getByRole('link', { name: 'Back to Read' }).getAttribute('href')).toBe('/studies/s1/read');
    await user.click(screen.getByRole('button', { name: 'End the tour' }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Tour' })).toBeNull());
  });
});
