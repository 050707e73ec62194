// @vitest-environment happy-dom
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { renderAt } from '../tests/renderAt.tsx';
import { GLOSSARY, WORDS } from './glossary.ts';
import { Term } from './Term.tsx';
import { WordsPage } from './WordsPage.tsx';
import { textOf } from '../tests/textOf.ts';

const user = userEvent.setup();
beforeAll(() => vi.stubGlobal('ResizeObserver', class { observe() {} unobserve() {} disconnect() {} })); // prettier-ignore

describe('words', () => {
  it('are explained in a sentence or two', () => {
    for (const word of WORDS) {
      expect([word, GLOSSARY[word].length > 30 && GLOSSARY[word].length < 230]).toEqual([word, true]);
      expect(GLOSSARY[word]).toMatch(/[.?!”]$/);
    }
  });

  it('are found by themselves and by what is said of them', async () => {
    renderAt('/', <WordsPage />);
    expect(screen.getAllByRole('term')).toHaveLength(WORDS.length);
    await user.type(screen.getByLabelText('Find a word'), 'luck');
    expect(screen.getAllByRole('term').map(({ textContent }) => textContent)).toEqual(['Holm']);
    await user.type(screen.getByLabelText('Find a word'), 'zzz');
    expect(screen.getByText(/No word, and none of the explanations/)).toBeTruthy();
  });

  it('say what they mean where they stand, by key too', async () => {
    renderAt('/', <p>corrected by <Term word="Holm" />, and <Term word="seat check">checked</Term></p>); // prettier-ignore
    const word = screen.getByRole('button', { name: 'What does “Holm” mean?' });
    expect(textOf(word)).toBe('Holm');
    word.focus();
    await user.keyboard('{Enter}');
    expect(await screen.findByText(GLOSSARY.Holm)).toBeTruthy();
    await user.keyboard('{Escape}');
    expect(screen.queryByText(GLOSSARY.Holm)).toBeNull();
    expect(textOf(screen.getByRole('button', { name: 'What does “seat check” mean?' }))).toBe('checked');
  });
});
