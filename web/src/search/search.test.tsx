// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import { HIT_KINDS, type HitKind, type SearchHit, type SearchHits } from '@red-ember/contract';
import { FakeServer, problem, renderAt } from '../tests/renderAt.tsx';
import { addressOfHit } from './addressOfHit.ts';
import { SearchPage } from './SearchPage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
const hit = (kind: SearchHit['kind'], title: string, text = ''): SearchHit => ({ kind, title, text, studyId: kind === 'instrument' ? '' : 's1', studyTitle: 'Lid on the drive', id: 'r7', at: '2026-03-04T10:00:00Z' }); // prettier-ignore
const answer = (hits: SearchHit[], more: SearchHits['more'] = []): SearchHits => ({ words: ['x'], hits, more });

describe('the search', () => {
  it('asks for what was typed once the typing pauses, and leads to what was found', async () => {
    const server = renderAt('/', <SearchPage />, new FakeServer().on('GET /search', answer([hit('note', 'Run 7, slot lid', 'fan squeals'), hit('study', 'Squeals and hums')], ['note']))); // prettier-ignore
    expect(textOf(screen.getByRole('heading', { level: 1 }))).toBe('Look for anything');
    expect(server.last('GET', '/search')).toBeUndefined();
    await user.type(screen.getByLabelText('Words'), 'fan sq');
    expect(await screen.findByRole('heading', { level: 1, name: '2 things and more with “fan sq”' })).toBeTruthy();
    expect(server.asked.filter(({ path }) => path === '/search').length).toBeLessThan(4);
    expect(server.last('GET', '/search')!.search).toBe('?q=fan+sq');
    const headings = screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent);
    expect(headings.findIndex((text) => text?.startsWith('Studies'))).toBeLessThan(headings.findIndex((text) => text?.startsWith('Notes')));
    expect(screen.getByRole('link', { name: 'Run 7, slot lid' }).getAttribute('href')).toBe('/studies/s1/run/r7');
    expect(screen.getByText('the newest 1; one more word finds fewer')).toBeTruthy();
    await user.clear(screen.getByLabelText('Words'));
    await waitFor(() => expect(textOf(screen.getByRole('heading', { level: 1 }))).toBe('Look for anything'));
  });

  it('writes into the address what was typed, and nothing where nobody typed: it may be another page’s by then', async () => {
    const Where = () => <output>{useLocation().search}</output>;
    const page = (
      <>
        <SearchPage />
        <Where />
      </>
    );
    renderAt('/?q=fan&part=r7', page, new FakeServer().on('GET /search', answer([hit('note', 'Run 7')])));
    await screen.findByRole('link', { name: 'Run 7' });
    await new Promise((later) => setTimeout(later, 400));
    expect(screen.getByText('?q=fan&part=r7')).toBeTruthy();
    await user.type(screen.getByLabelText('Words'), 's');
    expect(await screen.findByText('?q=fans')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Words').value).toBe('fans');
    // Whoever leaves has typed enough.
    await user.type(screen.getByLabelText('Words'), 'x');
    await user.click(screen.getByRole('link', { name: 'Run 7' }));
    await new Promise((later) => setTimeout(later, 400));
    expect(screen.queryByText('?q=fansx')).toBeNull();
  });

  it('says that there is nothing, and what went wrong', async () => {
    const server = renderAt('/', <SearchPage />, new FakeServer().on('GET /search', answer([])));
    await user.type(screen.getByLabelText('Words'), 'zz');
    expect(await screen.findByRole('heading', { level: 1, name: 'Nothing is written down with “zz”.' })).toBeTruthy();
    server.on('GET /search', problem(500, 'Something went wrong.'));
    await user.type(screen.getByLabelText('Words'), 'z');
    expect(textOf(await screen.findByRole('alert'))).toContain('Something went wrong.');
  });

  const OF_THE_BENCH: Partial<Record<HitKind, RegExp>> = { instrument: /^\/instruments$/, kept: /^\/runs\/parts\?part=r7$/ };
  it('has a place for every kind', () => {
    for (const kind of HIT_KINDS) expect(addressOfHit(hit(kind, 'x'))).toMatch(OF_THE_BENCH[kind] ?? /^\/studies\/s1\/[a-z]/);
  });
});
