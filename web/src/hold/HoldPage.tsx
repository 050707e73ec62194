import { type EnclosureBody } from '@red-ember/contract';
import { lockValue } from '@red-ember/study';
import { useRunsQuery } from '../data/api.ts';
import { useBenches } from '../data/benches.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { NumberField, TextField } from '../ui/Field.tsx';
import { Section } from '../ui/Section.tsx';
import { EditSheet } from '../study/EditSheet.tsx';
import { HistoryNote } from '../study/HistoryNote.tsx';
import { useStudy } from '../study/StudyFrame.tsx';
import { useStudyDraft } from '../study/useStudyDraft.ts';
import { ChangedSection } from './ChangedSection.tsx';
import { LocksSection } from './LocksSection.tsx';

/** The place that readings of the bench are restated for. */
function WhereItWorks({ value, onChange }: { value: EnclosureBody; onChange: (value: EnclosureBody) => void }) {
  const place = (part: Partial<EnclosureBody>) => onChange({ ...value, ...part });
  return (
    <Section title="Where the part will work" hint="Bench readings are restated for this air, and labelled as calculated.">
      <div className="grid max-w-2xl gap-4 sm:grid-cols-3">
        <TextField label="Place" pointer="/enclosure/name" value={value.name} onChange={(name) => place({ name })} />
        <NumberField label="Its air" unit="°C" pointer="/enclosure/airC" value={value.airC} onChange={(airC) => place({ airC })} />
        <NumberField
          label="Heat grows by"
          unit="per K"
          pointer="/enclosure/powerTempCo"
          value={value.powerTempCo}
          onChange={(powerTempCo) => place({ powerTempCo })}
          hint="0 restates one for one."
        />
      </div>
    </Section>
  );
}

export function HoldPage() {
  const study = useStudy();
  const { data: all = [] } = useRunsQuery(study.id);
  const runs = all.filter((run) => run.purpose === 'measure');
  const { body: shown } = useStudyDraft(study);
  const { channels: offered } = useBenches(study.family);
  const strayed = runs.filter((run) => {
    const subjectId = study.variants.find((variant) => variant.id === run.variantId)?.subjectId ?? '';
    return study.locks.some((lock) => run.settings[lock.name] !== undefined && run.settings[lock.name] !== lockValue(lock, subjectId));
  });
  const watched = shown.locks.filter((lock) => lock.channel !== '');
  const lost = watched.filter((lock) => offered.length > 0 && !offered.some(({ key }) => key === lock.channel));
  return (
    <EditSheet
      study={study}
      station="Hold"
      heading="What stays the same from run to run?"
      margin={
        <>
          <MarginGroup title="Why write it down">
            <Note>
              Each run keeps a copy of what was held when it started. Where two runs differ in anything but the variant, the verdict says
              so.
            </Note>
            <Note>Settings and firmware decide results more often than coolers do.</Note>
          </MarginGroup>
          <MarginGroup title="Who watches">
            {watched.length > 0 ? (
              <Note tone="cool" lead={watched.map((lock) => lock.name).join(', ')}>
                {watched.length === 1 ? 'is' : 'are'} watched through every load; leaving the tolerance for ten seconds is a finding.
              </Note>
            ) : null}
            {shown.locks.length > watched.length ? <Note>The rest is confirmed by hand when a run starts.</Note> : null}
            {lost.length > 0 ? (
              <Note tone="caution" lead={lost.map((lock) => lock.channel).join(', ')}>
                {lost.length === 1 ? 'is' : 'are'} not among the channels of the rig that is connected now.
              </Note>
            ) : null}
          </MarginGroup>
          {strayed.length > 0 ? (
            <MarginGroup title="Differs from now">
              <Note tone="caution" lead={strayed.map((run) => `Run ${run.number}`).join(', ')}>
                was made with other settings than the page shows now.
              </Note>
            </MarginGroup>
          ) : null}
          <MarginGroup title="Changes">
            <HistoryNote studyId={study.id} />
          </MarginGroup>
        </>
      }
    >
      {({ body, change }) => (
        <>
          <LocksSection body={body} change={change} offered={offered} />
          <Section title="Room band" hint="Readings outside it are flagged.">
            <div className="grid max-w-lg gap-4 sm:grid-cols-2">
              <NumberField
                label="From"
                unit="°C"
                pointer="/rules/roomMinC"
                value={body.rules.roomMinC}
                onChange={(roomMinC) => change({ rules: { ...body.rules, roomMinC } })}
              />
              <NumberField
                label="To"
                unit="°C"
                pointer="/rules/roomMaxC"
                value={body.rules.roomMaxC}
                onChange={(roomMaxC) => change({ rules: { ...body.rules, roomMaxC } })}
              />
            </div>
          </Section>
          <WhereItWorks value={body.enclosure} onChange={(enclosure) => change({ enclosure })} />
          <ChangedSection study={study} runs={runs} />
        </>
      )}
    </EditSheet>
  );
}
