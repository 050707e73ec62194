import { Link, useMatch } from 'react-router';
import { usePracticeQuery } from '../data/api.ts';

/** On every station of an exercise: that it is one, and the way back to its sheet. */
export function PracticeBanner({ studyId }: { studyId: string }) {
  const { data } = usePracticeQuery();
  const onSheet = useMatch('/studies/:studyId/practice') !== null;
  const attempt = data?.attempts.find((each) => each.studyId === studyId);
  if (!attempt || onSheet) return null;
  return (
    <p className="no-print flex flex-wrap items-baseline gap-x-4 border-b border-rule bg-shade px-5 py-1.5 text-[0.93rem] lg:px-8">
      <span>
        <strong className="font-semibold">Practice.</strong> Nothing here can break, and nothing here counts among your studies.
      </span>
      <Link to={`/studies/${studyId}/practice`}>{attempt.handedInAt ? 'What was true' : 'What is asked, hints, and handing in'}</Link>
    </p>
  );
}
