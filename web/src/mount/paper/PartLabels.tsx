import type { FittedPartEntry } from '@red-ember/study';
import { amountWords } from '../../parts/partWords.ts';
import { PhoneCode } from '../../ui/PhoneCode.tsx';

/** A label for each part, to be cut out and stuck to it or to its bag. */
export function PartLabels({ parts, study, address }: { parts: readonly FittedPartEntry[]; study: string; address: string | null }) {
  return (
    <section aria-label="Labels" className="mt-8 print:break-before-page">
      <h2 className="mb-3 text-[1.3rem] font-semibold">Labels</h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] gap-3">
        {parts.map((part) => (
          <li key={part.id} className="keep-whole flex min-h-28 items-start justify-between gap-3 border border-dashed border-stone p-3">
            <div className="min-w-0">
              <p className="break-words font-semibold">{part.name}</p>
              <p className="text-[0.87rem]">{[part.kind, amountWords(part)].filter(Boolean).join(', ')}</p>
              <p className="text-[0.87rem]">Serial {part.serial || '____________'}</p>
              {part.conductive ? <p className="text-[0.87rem] font-semibold">Conducts electricity</p> : null}
              <p className="mt-1 text-[0.8rem] text-soft">{study}</p>
            </div>
            {address === null ? null : <PhoneCode address={address} size={72} />}
          </li>
        ))}
      </ul>
    </section>
  );
}
