import { Link, Outlet, useOutletContext, useParams } from 'react-router';
import type { Study } from '@red-ember/contract';
import { sentenceOf, useStudyQuery } from '../data/api.ts';
import { PracticeBanner } from './PracticeBanner.tsx';
import { TourBanner } from './TourBanner.tsx';
import { Button } from '../ui/Button.tsx';
import { Waiting } from '../ui/Notice.tsx';

/** Loads the study once for all of its stations. */
export function StudyFrame() {
  const { studyId = '' } = useParams();
  const { data: study, error, isLoading, refetch } = useStudyQuery(studyId);
  if (study?.id === studyId)
    return (
      <div>
        <PracticeBanner studyId={studyId} />
        <TourBanner studyId={studyId} />
        <Outlet context={study} />
      </div>
    );
  if (isLoading || !error) return <Waiting what="Opening the study" />;
  return (
    <main id="sheet" className="p-10">
      <h1>This study cannot be opened.</h1>
      <p className="mt-3 max-w-prose">{sentenceOf(error)}</p>
      <p className="mt-5 flex gap-3">
        <Button onClick={() => void refetch()}>Try again</Button>
        <Link to="/" className="self-center underline">
          All studies
        </Link>
      </p>
    </main>
  );
}

export function useStudy(): Study {
  return useOutletContext<Study>();
}
