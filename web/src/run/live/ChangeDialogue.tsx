import { useForm } from 'react-hook-form';
import type { LinkControl } from '@red-ember/contract';
import { sentenceOf, useInterveneMutation, useMarkRunMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialogue } from '../../ui/Dialogue.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { ControlField } from '../start/ControlField.tsx';

/** What the rig may set by itself. */
function ControlChoice({ controls, chosen, onChoose }: { controls: LinkControl[]; chosen: string; onChoose: (key: string) => void }) {
  return (
    <div>
      <label htmlFor="change-control" className="mb-1 block text-[0.87rem] text-soft">
        Let the rig set
      </label>
      <select id="change-control" className="field-box" value={chosen} onChange={(event) => onChoose(event.target.value)}>
        <option value="">nothing: it is done by hand</option>
        {controls.map((entry) => (
          <option key={entry.key} value={entry.key}>
            {entry.label}
          </option>
        ))}
      </select>
    </div>
  );
}

interface Typed {
  text: string;
  control: string;
  value: string | number;
  phase: boolean;
}
const NOTHING_TYPED: Typed = { text: '', control: '', value: '', phase: true };

/** Something is changed under way: by hand, in words, or by the rig; it opens a phase of its own unless it is only a note. */
export function ChangeDialogue({
  runId,
  controls,
  loaded,
  open,
  onClose,
}: {
  runId: string;
  controls: LinkControl[];
  /** Under load a change is left to settle in a phase of its own; before and after it, it is a mark. */
  loaded: boolean;
  open: boolean;
  onClose: () => void;
}) {
  const { register, handleSubmit, reset, setValue, watch } = useForm<Typed>({ defaultValues: NOTHING_TYPED });
  const { text, control, value, phase } = watch();
  const [intervene, intervening] = useInterveneMutation();
  const [mark, marking] = useMarkRunMutation();
  const chosen = controls.find((candidate) => candidate.key === control);
  const words = text.trim() || (chosen ? `${chosen.label} ${value}${chosen.unit ? ` ${chosen.unit}` : ''}` : '');
  const close = () => {
    reset();
    onClose();
  };
  const send = handleSubmit(async () => {
    if (words === '') return;
    const set = chosen && value !== '' ? [{ control: chosen.key, value }] : [];
    const opens = set.length > 0 || (loaded && phase);
    const result = opens
      ? await intervene({ id: runId, body: { text: words.slice(0, 120), set } })
      : await mark({ id: runId, body: { kind: 'change', text: words } });
    if (!('error' in result && result.error)) close();
  });
  const failed = intervening.error ?? marking.error;
  return (
    <Dialogue open={open} onClose={close} title="What is changed?">
      <form onSubmit={(event) => void send(event)}>
        <label htmlFor="change-text" className="mb-1 block text-[0.87rem] text-soft">
          In words
        </label>
        <input
          id="change-text"
          aria-label="Change"
          autoFocus
          className="field-box"
          maxLength={120}
          placeholder={chosen ? words : 'Door opened'}
          {...register('text')}
        />
        {controls.length > 0 ? (
          <div className="mt-3 grid gap-3 sm:grid-cols-2">
            <ControlChoice
              controls={controls}
              chosen={control}
              onChoose={(key) => {
                setValue('control', key);
                setValue('value', controls.find((candidate) => candidate.key === key)?.usual ?? '');
              }}
            />
            {chosen ? <ControlField control={chosen} value={value} onChange={(next) => setValue('value', next)} /> : null}
          </div>
        ) : null}
        {loaded ? (
          <label className="mt-3 flex items-center gap-2">
            <input
              type="checkbox"
              checked={phase || Boolean(chosen)}
              disabled={Boolean(chosen)}
              onChange={(event) => setValue('phase', event.target.checked)}
            />
            Begin a phase with it, to be read when it has settled
          </label>
        ) : null}
        <p className="mt-4 flex gap-3">
          <Button type="submit" look="strong" disabled={words === '' || intervening.isLoading || marking.isLoading}>
            {chosen || (loaded && phase) ? 'Change it now' : 'Write it down'}
          </Button>
          <Button onClick={close}>Cancel</Button>
        </p>
      </form>
      {failed ? <Notice tone="error">{sentenceOf(failed)}</Notice> : null}
    </Dialogue>
  );
}
