import { RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { skipToken } from '@reduxjs/toolkit/query';
import type { StudyBody, SurveySummary } from '@red-ember/contract';
import {
  sentenceOf,
  useLimitsQuery,
  useRestoreSurveyMutation,
  useSurveyQuery,
  useSurveysQuery,
  useTrashSurveyMutation,
} from '../data/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { placed } from '../map/edits.ts';
import { Button } from '../ui/Button.tsx';
import { Notice, Waiting } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { ReadPictureForm } from '../survey/ReadPictureForm.tsx';
import type { Proposal } from '../survey/picture.ts';
import { SurveyEditor } from '../survey/SurveyEditor.tsx';
import { LookTabs } from './LookTabs.tsx';
import { fromLibrary, newSpot } from './spots.ts';

/** The pictures of the study, one of them open. */
function Pictures({
  surveys,
  shown,
  onShow,
}: {
  surveys: readonly SurveySummary[];
  shown: SurveySummary | undefined;
  onShow: (id: string) => void;
}) {
  const [trash] = useTrashSurveyMutation();
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-5 gap-y-1">
      {surveys.map((entry) => (
        <button
          key={entry.id}
          type="button"
          aria-pressed={entry.id === shown?.id}
          className={entry.id === shown?.id ? 'font-semibold underline decoration-2 underline-offset-4' : 'text-soft hover:text-ink'}
          onClick={() => onShow(entry.id)}
        >
          {entry.name}
        </button>
      ))}
      {shown ? (
        <Button look="quiet" className="ml-auto !px-1" aria-label={`Put ${shown.name} in the trash`} onClick={() => void trash(shown.id)}>
          <Trash2 size={15} aria-hidden />
        </Button>
      ) : null}
    </div>
  );
}

function InTheTrash({ surveys }: { surveys: readonly SurveySummary[] }) {
  const [bringBack] = useRestoreSurveyMutation();
  if (surveys.length === 0) return null;
  return (
    <p className="mt-4 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.93rem] text-soft">
      In the trash:
      {surveys.map((entry) => (
        <button
          key={entry.id}
          type="button"
          className="inline-flex items-center gap-1.5 underline hover:text-ink"
          onClick={() => void bringBack(entry.id)}
        >
          <RotateCcw size={13} aria-hidden /> Bring back {entry.name}
        </button>
      ))}
    </p>
  );
}

export function CameraPage() {
  const study = useStudy();
  const [search, setSearch] = useSearchParams();
  const { data: surveys = [], isLoading } = useSurveysQuery({ studyId: study.id, trash: false });
  const { data: trashed = [] } = useSurveysQuery({ studyId: study.id, trash: true });
  const { data: limits = [] } = useLimitsQuery();
  const shown = surveys.find((survey) => survey.id === search.get('picture')) ?? surveys[0];
  const { data: survey, error, refetch } = useSurveyQuery(shown?.id ?? skipToken);
  const [opened, setOpened] = useState(0);
  const show = (id: string) => setSearch({ picture: id }, { replace: true });

  const accept = (body: StudyBody, proposal: Proposal): Partial<StudyBody> => {
    const spot = {
      ...newSpot(body.spots, limits, proposal.name),
      ...(proposal.componentClass ? fromLibrary(limits, proposal.componentClass) : {}),
      place: proposal.place,
    };
    const subjects = body.subjects.map((subject) =>
      subject.id === survey!.subjectId && subject.map && proposal.at
        ? { ...subject, map: placed(subject.map, spot.id, survey!.face, proposal.at.xMm, proposal.at.yMm) }
        : subject,
    );
    return { spots: [...body.spots, spot], subjects };
  };

  return (
    <EditSheet
      study={study}
      station="Look"
      heading="What did the camera see on the bare part?"
      under={survey ? `${survey.name} · ${study.subjects.find((subject) => subject.id === survey.subjectId)?.name ?? ''}` : undefined}
      margin={
        <>
          <MarginGroup title="Reading a picture">
            <Note tone="caution" lead="Matt surfaces only.">
              Below an emissivity of 0.6 a surface mirrors the room. Such regions are hatched and left out: put matt tape on them.
            </Note>
            <Note>
              A camera shows where to put the thermocouples; it does not replace them. A sink’s surface is not the part beneath it.
            </Note>
          </MarginGroup>
          <MarginGroup title="How it is corrected">
            <Note>
              Grey body, fourth power: what the camera counted is taken apart into the surface’s own glow and the room it mirrors. The
              picture itself is never changed.
            </Note>
            <Note>A hot spot is a peak that stands out of its surroundings by the stated figure, whatever its height.</Note>
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <LookTabs />
          {surveys.length > 0 ? <Pictures surveys={surveys} shown={shown} onShow={show} /> : null}
          {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
          {isLoading || (shown && !survey && !error) ? <Waiting what="Fetching the picture" /> : null}
          {survey && shown && survey.id === shown.id ? (
            <SurveyEditor
              key={`${survey.id}/${opened}`}
              survey={survey}
              body={body}
              onAccept={(proposal) => change(accept(body, proposal))}
              onReload={() => void refetch().then(() => setOpened(opened + 1))}
            />
          ) : null}
          <Section title={surveys.length === 0 ? 'Read a picture' : 'Another picture'} hint="temperatures as CSV or TSV, one line a row">
            {surveys.length === 0 && !isLoading ? (
              <p className="mb-3 max-w-prose text-soft">
                Load the bare part, wait until it is warm, and take a picture of each face. Export the temperatures, not the image.
              </p>
            ) : null}
            <ReadPictureForm study={study} onRead={show} />
            <InTheTrash surveys={trashed} />
          </Section>
        </>
      )}
    </EditSheet>
  );
}
