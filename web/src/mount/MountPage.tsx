import { useState, type FormEvent } from 'react';
import { format } from 'date-fns';
import { cautionsFor } from '@red-ember/contract';
import { sentenceOf, useMakeMountMutation, useMountsQuery, useRunsQuery } from '../app/api.ts';
import { MarginGroup, Note } from '../frame/Margin.tsx';
import { Sheet } from '../frame/Sheet.tsx';
import { Button, ButtonLink } from '../parts/Button.tsx';
import { Notice } from '../parts/Notice.tsx';
import { Section } from '../parts/Section.tsx';
import { useStudy } from '../study/StudyFrame.tsx';

export function MountPage() {
  const study = useStudy();
  const { data: mounts = [] } = useMountsQuery(study.id);
  const { data: runs = [] } = useRunsQuery(study.id);
  const [make, making] = useMakeMountMutation();
  const cautions = cautionsFor(study.family);
  // The variant with the fewest mounts is the one that needs one most.
  const fewest = [...study.variants].sort(
    (a, b) => mounts.filter((mount) => mount.variantId === a.id).length - mounts.filter((mount) => mount.variantId === b.id).length,
  )[0];
  const [chosen, setChosen] = useState<string | null>(null);
  const [confirmed, setConfirmed] = useState<string[]>([]);
  const [note, setNote] = useState('');
  const variantId = chosen ?? fewest?.id ?? '';
  const open = cautions.filter((caution) => !confirmed.includes(caution.key)).length;
  const onBench = mounts.at(-1);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const result = await make({ studyId: study.id, body: { variantId, confirmed, note } });
    if ('data' in result) {
      setConfirmed([]);
      setNote('');
      setChosen(null);
    }
  };
  const nameOf = (id: string) => study.variants.find((variant) => variant.id === id)?.name ?? '';
  return (
    <Sheet
      crumb={`${study.title} / Mount`}
      windowTitle={`Mount, ${study.title}`}
      heading={
        onBench ? (
          <>
            On the bench: <b className="font-semibold">{nameOf(onBench.variantId)}</b>, mount {onBench.number}
          </>
        ) : (
          'Nothing is mounted yet'
        )
      }
      actions={
        onBench ? (
          <ButtonLink to={`/studies/${study.id}/run`} look="strong">
            Run it
          </ButtonLink>
        ) : undefined
      }
      margin={
        <>
          <MarginGroup title="Why mounts are counted">
            <Note>
              Refitting changes the contact of pads and probes. Two runs on one mount agree better than two mounts do; a verdict from a
              single mount says so.
            </Note>
          </MarginGroup>
          <MarginGroup title="Cautions">
            <Note tone="caution">
              The product advises; you decide. Follow the maker’s service instructions. Mains wiring is for licensed people under local
              codes.
            </Note>
          </MarginGroup>
        </>
      }
    >
      {study.variants.length === 0 ? (
        <Notice tone="hint" action={<ButtonLink to={`/studies/${study.id}/plan`}>To Plan</ButtonLink>}>
          There is no variant to mount yet.
        </Notice>
      ) : (
        <form onSubmit={(event) => void submit(event)}>
          <Section title="Mount a variant">
            <fieldset className="mb-5">
              <legend className="mb-2 text-[0.87rem] text-soft">Variant</legend>
              <div className="flex flex-wrap gap-2">
                {study.variants.map((variant) => (
                  <label
                    key={variant.id}
                    className={`flex cursor-pointer items-center gap-2 border px-4 py-2 ${variantId === variant.id ? 'border-ink bg-shade' : 'border-rule'}`}
                  >
                    <input type="radio" name="variant" checked={variantId === variant.id} onChange={() => setChosen(variant.id)} />
                    {variant.name}
                    <span className="text-[0.87rem] text-soft">
                      {mounts.filter((mount) => mount.variantId === variant.id).length} so far
                    </span>
                  </label>
                ))}
              </div>
            </fieldset>
            <fieldset>
              <legend className="mb-2 text-[0.87rem] text-soft">Confirm each before the screwdriver</legend>
              <ul className="grid gap-1">
                {cautions.map((caution) => (
                  <li key={caution.key}>
                    <label className="flex cursor-pointer items-start gap-3 border-l-[3px] border-ochre bg-margin/60 px-3 py-2">
                      <input
                        type="checkbox"
                        className="mt-1.5"
                        checked={confirmed.includes(caution.key)}
                        onChange={(event) =>
                          setConfirmed(event.target.checked ? [...confirmed, caution.key] : confirmed.filter((key) => key !== caution.key))
                        }
                      />
                      <span>{caution.text}</span>
                    </label>
                  </li>
                ))}
              </ul>
            </fieldset>
            <label htmlFor="mount-note" className="mb-1 mt-4 block text-[0.87rem] text-soft">
              Note on this mount
            </label>
            <input
              id="mount-note"
              className="field-box max-w-xl"
              maxLength={500}
              value={note}
              onChange={(event) => setNote(event.target.value)}
            />
            {making.error ? <Notice tone="error">{sentenceOf(making.error)}</Notice> : null}
            <p className="mt-4 flex items-center gap-4">
              <Button type="submit" look="strong" disabled={open > 0 || making.isLoading || variantId === ''}>
                {nameOf(variantId)} is mounted
              </Button>
              {open > 0 ? (
                <span className="text-[0.93rem] text-soft">{open === 1 ? 'One caution is' : `${open} cautions are`} still to confirm</span>
              ) : null}
            </p>
          </Section>
        </form>
      )}
      {mounts.length > 0 ? (
        <Section title="Mounts so far">
          <table className="plain-table">
            <thead>
              <tr>
                <th>Variant</th>
                <th>Mount</th>
                <th>Made</th>
                <th className="num">Runs</th>
                <th>Note</th>
              </tr>
            </thead>
            <tbody>
              {[...mounts].reverse().map((mount) => (
                <tr key={mount.id}>
                  <td>{nameOf(mount.variantId)}</td>
                  <td>{mount.number}</td>
                  <td>{format(new Date(mount.madeAt), 'd MMM yyyy HH:mm')}</td>
                  <td className="num">{runs.filter((run) => run.mountId === mount.id).length}</td>
                  <td className="text-soft">{mount.note}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Section>
      ) : null}
    </Sheet>
  );
}
