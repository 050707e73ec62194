import { useSearchParams } from 'react-router';
import { Printer } from 'lucide-react';
import { cameFrom, mountCard, partsOf } from '@red-ember/study';
import { useMountsQuery, useRunsQuery } from '../../data/api.ts';
import { MarginGroup, Note } from '../../frame/Margin.tsx';
import { Sheet } from '../../frame/Sheet.tsx';
import { useStudy } from '../../study/StudyFrame.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { orSentence } from '../../ui/orSentence.ts';
import { usePhoneAddresses } from '../../ui/PhoneCode.tsx';
import { Pick } from '../../ui/Pick.tsx';
import { cardSentence } from '../cardSentence.ts';
import { MountTabs } from '../MountTabs.tsx';
import { nextOf } from '../next.ts';
import { PaperCard } from './PaperCard.tsx';
import { PartLabels } from './PartLabels.tsx';

/** The next change-over and the labels of its parts, as they are printed. */
export function PaperPage() {
  const study = useStudy();
  const { data: mounts } = useMountsQuery(study.id);
  const { data: runs } = useRunsQuery(study.id);
  const [search, setSearch] = useSearchParams();
  const addressesOf = usePhoneAddresses();
  const choices = study.variants.filter(({ retired }) => !retired);
  const planned = mounts && runs ? nextOf(study, mounts, runs).planned?.variant : undefined;
  const to = choices.find(({ id }) => id === search.get('to')) ?? choices.find(({ id }) => id === planned?.id) ?? choices[0];
  const from = to && mounts ? cameFrom(study.variants, mounts, to) : null;
  const card = to && mounts ? orSentence(() => mountCard(study, from, to)) : null;
  const ready = typeof card === 'object' && card !== null && addressesOf !== undefined;
  const address = (page: string) => addressesOf?.(`/studies/${study.id}/${page}`)[0] ?? null;
  const parts = to ? partsOf(study, to) : [];
  return (
    <Sheet
      crumb={`${study.title} / Mount`}
      windowTitle={`Mount on paper, ${study.title}`}
      heading={to ? `Mount card: ${to.name}` : 'Nothing to mount yet'}
      actions={
        <Button look="strong" disabled={!ready} onClick={() => window.print()}>
          <Printer size={16} aria-hidden /> Print
        </Button>
      }
      margin={
        <div className="no-print grid gap-6">
          <MarginGroup title="With a pen">
            <Note>
              The same card as on the screen, for hands that hold a screwdriver. Make the mount on the screen afterwards: what is ticked on
              paper is not known to the bench.
            </Note>
          </MarginGroup>
          <MarginGroup title="Codes">
            <Note>
              {ready && address('mount') === null
                ? 'None is printed: no phone reaches this bench. “On a phone”, at the card, says what it takes.'
                : 'The card’s code opens the card on a phone in the same network; a label’s opens the parts of this study.'}
            </Note>
          </MarginGroup>
        </div>
      }
    >
      <div className="no-print">
        <MountTabs />
        {choices.length > 1 && to ? (
          <div className="mb-4">
            <Pick
              label="Variant"
              value={to.id}
              options={choices.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(id) => setSearch({ to: id }, { replace: true })}
            />
          </div>
        ) : null}
      </div>
      {choices.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/plan`}>To Plan</ButtonLink>}>
          There is no variant to mount yet.
        </Notice>
      ) : typeof card === 'string' ? (
        <Notice tone="error">{card} Say at Plan, Factors, which lies under which.</Notice>
      ) : to && card && addressesOf ? (
        <>
          <PaperCard
            card={card}
            sentence={cardSentence(card, from, to)}
            map={study.subjects.find(({ id }) => id === to.subjectId)?.map ?? null}
            address={address('mount')}
          />
          {parts.length > 0 ? <PartLabels parts={parts} study={study.title} address={address('plan/parts')} /> : null}
        </>
      ) : null}
    </Sheet>
  );
}
