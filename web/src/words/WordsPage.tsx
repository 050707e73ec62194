import { useState } from 'react';
import { Link } from 'react-router';
import { capital } from '@red-ember/core';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Notice } from '../ui/Notice.tsx';
import { GLOSSARY, WORDS } from './glossary.ts';

/** The words of these pages, explained. */
export function WordsPage() {
  const [wanted, setWanted] = useState('');
  const words = WORDS.filter((word) => `${word} ${GLOSSARY[word]}`.toLowerCase().includes(wanted.trim().toLowerCase()));
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle="Words"
      heading="What the words mean here"
      margin={
        <MarginGroup title="On the pages">
          <Note>A word with a dotted line under it says what it means when it is pressed.</Note>
          <Note>How each figure is worked out, with its sources, stands in the description of methods that comes with the program.</Note>
        </MarginGroup>
      }
    >
      <label htmlFor="find-word" className="mb-1 block text-[0.87rem] text-soft">
        Find a word
      </label>
      <input
        id="find-word"
        type="search"
        className="field-box mb-5 max-w-sm"
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
      />
      {words.length === 0 ? <Notice tone="hint">No word, and none of the explanations, has “{wanted}” in it.</Notice> : null}
      <dl>
        {words.map((word) => (
          <div key={word} className="grid gap-x-6 border-t border-rule py-2.5 sm:grid-cols-[13rem_minmax(0,1fr)]">
            <dt className="font-semibold">{capital(word)}</dt>
            <dd className="max-w-prose">{GLOSSARY[word]}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
