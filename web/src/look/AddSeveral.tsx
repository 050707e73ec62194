import { useState } from 'react';
import { counted } from '@red-ember/core';
import type { SpotBody } from '@red-ember/contract';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';

const METHODS: { value: SpotBody['method']; label: string }[] = [
  { value: 'attached', label: 'attached sensors, logged' },
  { value: 'own', label: 'the part’s own sensors, logged' },
  { value: 'infrared', label: 'infrared, typed in by hand' },
];

/** A dozen spots in one go: a name a line. */
export function AddSeveral({
  open,
  onClose,
  onAdd,
  free,
}: {
  open: boolean;
  onClose: () => void;
  onAdd: (names: string[], method: SpotBody['method']) => void;
  /** Channels of the bench that no spot uses yet; null where no bench is there to ask. */
  free: number | null;
}) {
  const [text, setText] = useState('');
  const [method, setMethod] = useState<SpotBody['method']>('attached');
  const names = text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
  const add = () => {
    onAdd(names, method);
    setText('');
    onClose();
  };
  return (
    <Dialogue open={open} onClose={onClose} title="Add several spots">
      <label htmlFor="several-names" className="mb-1 block text-[0.87rem] text-soft">
        Names, one a line
      </label>
      <textarea
        id="several-names"
        rows={7}
        className="field-box"
        value={text}
        placeholder={'Stage, side row\nInductor\nUnderside behind the stages'}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && names.length > 0) add();
        }}
      />
      <p className="mb-3 mt-1 text-[0.83rem] text-soft">The class of component is taken from the name; its limits from the library.</p>
      <label htmlFor="several-method" className="mb-1 block text-[0.87rem] text-soft">
        Read by
      </label>
      <select
        id="several-method"
        className="field-box"
        value={method}
        onChange={(event) => setMethod(event.target.value as SpotBody['method'])}
      >
        {METHODS.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
      {free !== null && method === 'attached' && names.length > free ? (
        <p className="mt-2 text-[0.87rem] text-ochre-text">
          The bench has {free === 0 ? 'no free channel' : counted(free, 'free channel')} for {counted(names.length, 'spot')}; choose one for
          each of the others at Equip.
        </p>
      ) : null}
      <div className="mt-5 flex justify-end gap-2">
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button look="strong" disabled={names.length === 0} onClick={add}>
          Add {names.length === 0 ? '' : names.length === 1 ? 'one spot' : `${names.length} spots`}
        </Button>
      </div>
    </Dialogue>
  );
}
