import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { counted } from '@red-ember/core';
import { HIT_KINDS, type SearchHit, type SearchHits } from '@red-ember/contract';
import { sentenceOf, useSearchQuery } from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { addressOfHit, KIND_NAMES } from './addressOfHit.ts';
import { dayOf } from '../ui/dates.ts';

/** Typing pauses for so long before it is looked for, ms. */
const PAUSE_MS = 250;

function Hit({ hit, onLeave }: { hit: SearchHit; onLeave: () => void }) {
  const day = hit.at === '' ? '' : dayOf(hit.at);
  return (
    <li className="border-t border-rule py-2.5">
      <Link to={addressOfHit(hit)} className="font-semibold" onClick={onLeave}>
        {hit.title || 'without a name'}
      </Link>
      {hit.text ? <span className="ml-3 break-words">{hit.text}</span> : null}
      <span className="block text-[0.87rem] text-soft">{[hit.kind === 'study' ? '' : hit.studyTitle, day].filter(Boolean).join(', ')}</span>
    </li>
  );
}

function Found({ data, onLeave }: { data: SearchHits; onLeave: () => void }) {
  return HIT_KINDS.flatMap((kind) => {
    const hits = data.hits.filter((hit) => hit.kind === kind);
    if (hits.length === 0) return [];
    return [
      <Section
        key={kind}
        title={KIND_NAMES[kind]}
        hint={data.more.includes(kind) ? `the newest ${hits.length}; one more word finds fewer` : undefined}
      >
        <ul>
          {hits.map((hit, i) => (
            <Hit key={`${hit.studyId} ${hit.id} ${i}`} hit={hit} onLeave={onLeave} />
          ))}
        </ul>
      </Section>,
    ];
  });
}

/** One field that looks for words in everything that was written down on the bench. */
export function SearchPage() {
  const [search, setSearch] = useSearchParams();
  const asked = search.get('q') ?? '';
  /** What was typed; null where nobody did, and the field shows what stands in the address. */
  const [typed, setTyped] = useState<string | null>(null);
  useEffect(() => {
    // A page that takes its time to come leaves this one standing, and the address is that page's by then.
    if (typed === null) return undefined;
    const words = typed.trim() === '' ? '' : typed;
    if (words === asked) return undefined;
    const later = setTimeout(() => setSearch(words === '' ? {} : { q: words }, { replace: true }), PAUSE_MS);
    return () => clearTimeout(later);
  }, [typed, asked, setSearch]);
  const { currentData: data, error, isFetching } = useSearchQuery(asked, { skip: asked.trim() === '' });
  const found = data?.hits.length ?? 0;
  return (
    <Sheet
      crumb={<Link to="/">All studies</Link>}
      windowTitle={asked ? `${asked}, search` : 'Search'}
      heading={
        asked && data
          ? found === 0
            ? `Nothing is written down with “${asked}”.`
            : `${counted(found, 'thing')}${data.more.length > 0 ? ' and more' : ''} with “${asked}”`
          : 'Look for anything'
      }
      margin={
        <MarginGroup title="What is looked through">
          <Note>
            Studies with their claims, parts with serial numbers, variants, spots and sensors, what is held, mounts, runs and their notes,
            camera pictures, instruments.
          </Note>
          <Note>Every word has to stand in it, or in the title of its study. Neither case nor accents matter.</Note>
          <Note>The trash and practice are left alone.</Note>
        </MarginGroup>
      }
    >
      <label htmlFor="search-words" className="mb-1 block text-[0.87rem] text-soft">
        Words
      </label>
      <input
        id="search-words"
        type="search"
        className="field-box mb-6 max-w-xl"
        maxLength={200}
        autoFocus
        placeholder="T4-02, firmware, squeals, paste Q"
        value={typed ?? asked}
        onChange={(event) => setTyped(event.target.value)}
      />
      <p role="status" className="sr-only">
        {isFetching ? 'Looking' : asked && data ? counted(found, 'thing') : ''}
      </p>
      {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
      {data && asked ? <Found data={data} onLeave={() => setTyped(null)} /> : null}
    </Sheet>
  );
}
