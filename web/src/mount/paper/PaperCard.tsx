import { duration } from '@red-ember/core';
import type { BoardMapBody } from '@red-ember/contract';
import type { CardStep, Caution, MountCard } from '@red-ember/study';
import { amountWords } from '../../parts/partWords.ts';
import { PhoneCode } from '../../ui/PhoneCode.tsx';
import { Shown } from '../../ui/Shown.tsx';
import { ScrewMap } from '../ScrewMap.tsx';

/** To be ticked with a pen. */
const Box = () => <span aria-hidden className="mt-1 inline-block size-4 shrink-0 border border-ink" />;

function ToConfirm({ cautions }: { cautions: readonly Caution[] }) {
  return (
    <ul className="grid gap-1">
      {cautions.map(({ key, text }) => (
        <li key={key} className="flex items-start gap-3 border-l-[3px] border-ochre px-3 py-1">
          <Box />
          <span>
            <Shown>{text}</Shown>
          </span>
        </li>
      ))}
    </ul>
  );
}

function PaperStep({ entry: { step, cautions }, number, map }: { entry: CardStep; number: number; map: BoardMapBody | null }) {
  return (
    <li className="keep-whole grid grid-cols-[2rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-2">
      <span className="text-right font-semibold">{number}</span>
      <div className="grid gap-1.5">
        {cautions.length > 0 ? <ToConfirm cautions={cautions} /> : null}
        <p className="flex items-start gap-3">
          <Box />
          <span>{step.text}</span>
        </p>
        {step.header ? (
          <p className="text-[0.93rem]">
            Plug to <b className="font-semibold">{step.header}</b>
            {step.follows ? `, which follows ${step.follows}` : ''}
          </p>
        ) : null}
        {step.screwsOf && map ? <ScrewMap map={map} coverId={step.screwsOf} loosen={step.when === 'off'} /> : null}
        {step.waitMin > 0 ? <p className="text-[0.93rem]">Then wait {duration(60 * step.waitMin)}; begun at ______</p> : null}
      </div>
    </li>
  );
}

/** Lines that are filled in by hand beside the part. */
const TO_FILL_IN = ['Begun at', 'Done at', 'By', 'Serial number, where it has one', 'Note'];

interface PaperCardProps {
  card: MountCard;
  sentence: string;
  map: BoardMapBody | null;
  /** Of the page on which the mount is made; null where no phone reaches it. */
  address: string | null;
}

/** A change-over to work down on paper: the same cautions, parts and steps as on the card of the screen, to be ticked with a pen. */
export function PaperCard({ card, sentence, map, address }: PaperCardProps) {
  return (
    <section aria-label="Mount card" className="border border-rule bg-lift p-5 print:border-0 print:p-0">
      <div className="flex items-start justify-between gap-6">
        <p className="max-w-(--container-measure) text-[1.1rem]">{sentence}</p>
        {address === null ? null : (
          <div className="shrink-0 text-center text-[0.8rem]">
            <PhoneCode address={address} size={104} />
            <span className="block">the card, on a phone</span>
          </div>
        )}
      </div>
      {card.before.length > 0 ? (
        <div className="mt-4">
          <h2 className="mb-1 font-semibold">Before the screwdriver</h2>
          <ToConfirm cautions={card.before} />
        </div>
      ) : null}
      {card.parts.length > 0 ? (
        <div className="mt-4">
          <h2 className="mb-1 font-semibold">Have ready</h2>
          <ul className="grid gap-1">
            {card.parts.map((part) => (
              <li key={part.id} className="flex items-start gap-3">
                <Box />
                <span>{[part.name, amountWords(part)].filter(Boolean).join(', ')}</span>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <h2 className="mb-1 mt-4 font-semibold">Steps</h2>
      {card.steps.length === 0 ? (
        <p className="text-soft">No steps are written down for this study.</p>
      ) : (
        <ol className="border-t border-rule" aria-label="Steps">
          {card.steps.map((entry, i) => (
            <PaperStep key={entry.step.id} entry={entry} number={i + 1} map={map} />
          ))}
        </ol>
      )}
      <dl className="keep-whole mt-5 grid gap-x-8 gap-y-4 sm:grid-cols-2 print:grid-cols-2">
        {TO_FILL_IN.map((label) => (
          <div key={label} className="flex items-end gap-3">
            <dt className="text-[0.93rem]">{label}</dt>
            <dd className="relative h-6 min-w-16 flex-1 border-b border-stone">
              <span className="sr-only">left for the pen</span>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
