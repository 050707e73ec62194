import { useState, type ReactNode } from 'react';
import { Controller } from 'react-hook-form';
import { counted } from '@red-ember/core';
import { KeptPartBody, type FittedPartBody, type KeptPart, type PartOfBench } from '@red-ember/contract';
import { blankPart, takenPart, USUAL_CURRENCY } from '@red-ember/study';
import {
  sentenceOf,
  useAddPartPhotoMutation,
  useKeepPartMutation,
  useRemoveKeptPartMutation,
  useRemovePartPhotoMutation,
  useSaveKeptPartMutation,
} from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { ChoiceField, NumberField, TextField } from '../ui/Field.tsx';
import { FormProblems, FormText } from '../ui/form.tsx';
import { Notice } from '../ui/Notice.tsx';
import { AttachButton, PhotoStrip } from '../ui/PhotoStrip.tsx';
import { forgetForm, useKeptForm } from '../ui/useKeptForm.ts';
import { idOf } from './partColumns.tsx';
import { PART_KIND_OPTIONS, PartDetails, STARTS_OF_KIND } from './PartDetails.tsx';

/** What the form starts from: the part as the bench knows it, or nothing yet. */
function startOf(entry: PartOfBench | null): KeptPartBody {
  if (!entry) return { part: { ...blankPart(crypto.randomUUID(), ''), kind: 'cooler' }, currency: USUAL_CURRENCY };
  return { part: takenPart(crypto.randomUUID(), entry.part), currency: entry.currency };
}

/** Under which name the browser keeps what is typed; another version of a part is begun anew. */
const formKey = (entry: PartOfBench | null) => `red-ember.part.${entry ? [idOf(entry), entry.kept?.version ?? ''].join('.') : 'new'}`;

function Fields({ part, set, beside }: { part: FittedPartBody; set: (now: Partial<FittedPartBody>) => void; beside: ReactNode }) {
  return (
    <>
      <div className="grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_7rem_8rem_5rem]">
        <TextField label="Name" pointer="/part/name" value={part.name} onChange={(name) => set({ name })} />
        <ChoiceField
          label="Kind"
          pointer="/part/kind"
          value={part.kind}
          options={PART_KIND_OPTIONS}
          onChange={(kind) => set({ kind, ...STARTS_OF_KIND[kind] })}
        />
        <NumberField
          label="Price"
          unit={part.paste ? '/ g' : 'each'}
          pointer="/part/price"
          value={part.price}
          onChange={(price) => set({ price })}
        />
        {beside}
      </div>
      <PartDetails covers={[]} part={part} at={(field) => `/part/${field}`} set={set} />
    </>
  );
}

function Photographs({ kept }: { kept: KeptPart }) {
  const [add, adding] = useAddPartPhotoMutation();
  const [remove, removing] = useRemovePartPhotoMutation();
  return (
    <section className="mt-4 border-t border-rule pt-3">
      <div className="mb-2 flex items-baseline justify-between gap-3">
        <h3>Photographs</h3>
        <AttachButton label="Photograph of this part" busy={adding.isLoading} onFile={(file) => void add({ partId: kept.id, file })} />
      </div>
      {adding.error ? <Notice tone="error">{sentenceOf(adding.error)}</Notice> : null}
      {kept.photos.length === 0 ? (
        <p className="text-soft">None yet. Place, camera and owner are left out of one that is attached.</p>
      ) : (
        <PhotoStrip
          photos={kept.photos}
          addressOf={({ id }) => `/api/v1/part-photos/${id}`}
          fault={removing.error ? sentenceOf(removing.error) : ''}
          onRemove={async ({ id }) => !('error' in (await remove(id)))}
        />
      )}
    </section>
  );
}

/** Asked twice: what is removed comes back by nothing. */
function RemoveButton({ entry: { kept, studies }, onGone }: { entry: PartOfBench; onGone: () => void }) {
  const [asked, setAsked] = useState(false);
  const [remove, removing] = useRemoveKeptPartMutation();
  if (!asked) return <Button onClick={() => setAsked(true)}>Keep it no longer</Button>;
  const { length } = kept!.photos;
  const lost =
    length === 0 ? 'what is written here is lost' : length === 1 ? 'its photograph is lost' : `its ${length} photographs are lost`;
  return (
    <div className="w-full">
      <Notice tone={removing.error ? 'error' : 'hint'}>
        {removing.error
          ? sentenceOf(removing.error)
          : studies.length > 0
            ? `The part stays in ${counted(studies.length, 'study', 'studies')}; on the bench itself ${lost}.`
            : `No study puts it on: ${lost}.`}
      </Notice>
      <span className="mt-2 flex gap-2">
        <Button onClick={() => void remove(kept!.id).then((answer) => ('error' in answer ? null : onGone()))}>Remove for good</Button>
        <Button look="quiet" onClick={() => setAsked(false)}>
          Keep it
        </Button>
      </span>
    </div>
  );
}

/** A part as it is written down on the bench itself, with its photographs; of one that studies alone speak of, or of none yet, the way there. */
export function KeptPartDialog({
  entry,
  onClose,
  onKept,
}: {
  entry: PartOfBench | null;
  onClose: () => void;
  /** It was kept for the first time, under that id. */
  onKept: (id: string) => void;
}) {
  const key = formKey(entry);
  const { control, handleSubmit, formState } = useKeptForm(key, KeptPartBody, startOf(entry));
  const [keep, keeping] = useKeepPartMutation();
  const [save, saving] = useSaveKeptPartMutation();
  const error = keeping.error ?? saving.error;
  const close = () => {
    forgetForm(key);
    onClose();
  };
  const kept = entry?.kept ?? null;
  const submit = handleSubmit(async (body) => {
    if (kept) {
      const answer = await save({ id: kept.id, version: kept.version, body });
      if ('data' in answer) close();
      return;
    }
    const { data } = await keep(body);
    if (!data) return;
    forgetForm(key);
    onKept(data.id);
  });
  return (
    // Left by Escape, what was typed is there again when it is opened the next time.
    <Dialogue open wide onClose={onClose} title={entry ? entry.part.name : 'A part for the bench'}>
      <FormProblems errors={formState.errors}>
        <form noValidate onSubmit={(event) => void submit(event)}>
          <Controller
            control={control}
            name="part"
            render={({ field: { value, onChange } }) => (
              <Fields
                part={value}
                set={(now) => onChange({ ...value, ...now })}
                beside={<FormText label="Currency" control={control} name="currency" />}
              />
            )}
          />
          {kept ? null : (
            <p className="mt-3 text-[0.93rem] text-soft">
              {entry
                ? 'Studies alone speak of it so far. Kept on the bench it can be photographed, and stays when they go.'
                : 'Kept on the bench, whether a study puts it on or not; “From the bench”, at Plan, takes it into one. Photographs follow once it is kept.'}
            </p>
          )}
          {error ? <Notice tone="error">{sentenceOf(error)}</Notice> : null}
          <div className="mt-4 flex flex-wrap justify-between gap-2 border-t border-rule pt-3">
            <span className="flex gap-2">
              <Button type="submit" look="strong" disabled={keeping.isLoading || saving.isLoading}>
                {kept ? 'Save' : 'Keep it on the bench'}
              </Button>
              <Button look="quiet" onClick={close}>
                Cancel
              </Button>
            </span>
            {entry?.kept ? <RemoveButton entry={entry} onGone={close} /> : null}
          </div>
        </form>
      </FormProblems>
      {kept ? <Photographs kept={kept} /> : null}
    </Dialogue>
  );
}
