import { Fragment } from 'react';
import { Link } from 'react-router';
import type { ScatterSource } from '@red-ember/contract';

const SHOWN = 3;

/** Studies whose equal runs say how well the bench repeats, each a link to what is normal there. */
export function ScatterSources({ sources }: { sources: readonly ScatterSource[] }) {
  const more = sources.length - SHOWN;
  return (
    <>
      {sources.slice(0, SHOWN).map(({ studyId, title, runs }, i) => (
        <Fragment key={studyId}>
          {i > 0 ? ', ' : ''}
          <Link to={`/studies/${studyId}/read/normal`}>“{title}”</Link> ({runs} {runs === 1 ? 'run' : 'runs'})
        </Fragment>
      ))}
      {more > 0 ? ` and ${more} more` : ''}
    </>
  );
}
