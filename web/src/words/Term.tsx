import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { capital } from '@red-ember/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { GLOSSARY, type Word } from './glossary.ts';

/** A word of the glossary, explained where it stands. */
export function Term({ word, children }: { word: Word; children?: ReactNode }) {
  return (
    <Popover as="span" className="inline">
      <PopoverButton className="cursor-help underline decoration-dotted underline-offset-[3px]" aria-label={`What does “${word}” mean?`}>
        {children ?? word}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', gap: 6, padding: 12 }}
        className="z-40 max-w-[21rem] border border-ink bg-lift px-4 py-3 text-[0.93rem] leading-snug shadow-sm"
      >
        <p>
          <strong className="font-semibold">{capital(word)}.</strong> {GLOSSARY[word]}
        </p>
        <p className="mt-2 text-[0.87rem]">
          <Link to="/words">All words</Link>
        </p>
      </PopoverPanel>
    </Popover>
  );
}
