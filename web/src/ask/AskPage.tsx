import { type StudyBody } from '@red-ember/contract';
import { blankStudy, FAMILIES, type Family, familyOf } from '@red-ember/study';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { ChoiceField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { HistoryNote } from '../study/HistoryNote.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { ClaimsSection } from './ClaimsSection.tsx';
import { OwnFiguresSection } from './OwnFiguresSection.tsx';
import { PartsSection } from './PartsSection.tsx';
import { PredictionsSection } from './PredictionsSection.tsx';
import { RulesSection } from './RulesSection.tsx';
import { TesterRecordNote } from './TesterRecordNote.tsx';

/** Another family brings its own usual fans and load, as long as nothing has been placed yet. */
function forFamily(body: StudyBody, family: Family): Partial<StudyBody> {
  if (body.spots.length > 0) return { family };
  const start = blankStudy(body.title, family);
  return { family, rules: { ...body.rules, fans: start.rules.fans, load: start.rules.load }, recipe: start.recipe };
}

export function AskPage() {
  const study = useStudy();
  return (
    <EditSheet
      study={study}
      station="Ask"
      heading={study.title}
      under={`${familyOf(study.family).name} · ${study.subjects.map((subject) => subject.name).join(', ')}`}
      margin={
        <>
          <MarginGroup title="Before you measure">
            <Note>
              Say what would count as a difference that matters. Below it, two variants are called <b>equivalent</b>; where the runs cannot
              tell, the answer is <b>no call</b>.
            </Note>
          </MarginGroup>
          <MarginGroup title="Beside “What you expect”">
            {study.predictionLockedAt ? (
              <Note tone="caution" lead="Fixed.">
                The first run has started, so the predictions stand as they are.
              </Note>
            ) : (
              <Note>A prediction costs a minute and shows, over the studies, how well you know your parts.</Note>
            )}
            <TesterRecordNote />
          </MarginGroup>
          <MarginGroup title="Beside “House rules”">
            <Note>Changing them later recomputes every figure of this study and keeps what they were.</Note>
            <Note>Figures under other rules are another quantity: the bench’s history pools only what was reported alike.</Note>
            <HistoryNote studyId={study.id} />
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <Section title="The question">
            <div className="grid gap-4 md:grid-cols-6">
              <TextField
                className="md:col-span-4"
                label="Title"
                pointer="/title"
                value={body.title}
                onChange={(title) => change({ title })}
              />
              <ChoiceField
                className="md:col-span-2"
                label="Family"
                pointer="/family"
                value={body.family}
                onChange={(family) => change(forFamily(body, family))}
                options={FAMILIES.map((family) => ({ value: family, label: familyOf(family).name }))}
              />
              <TextField
                className="md:col-span-6"
                rows={2}
                label="What do you want to know?"
                pointer="/question"
                value={body.question}
                onChange={(question) => change({ question })}
              />
            </div>
          </Section>
          <PartsSection body={body} change={change} used={body.variants.map((variant) => variant.subjectId)} />
          <ClaimsSection body={body} change={change} />
          <PredictionsSection body={body} change={change} locked={study.predictionLockedAt} stamps={study.predictionStamps} />
          <OwnFiguresSection body={body} change={change} study={study} />
          <RulesSection body={body} change={change} />
        </>
      )}
    </EditSheet>
  );
}
