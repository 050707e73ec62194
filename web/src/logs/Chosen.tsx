import { useState } from 'react';
import { counted } from '@red-ember/core';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';

/** Sets something of many logs at once. */
export function Chosen({
  count,
  variants,
  onVariant,
  onMount,
  onUse,
}: {
  count: number;
  variants: readonly string[];
  onVariant: (variant: string) => void;
  onMount: (mount: number | null) => void;
  onUse: (use: boolean) => void;
}) {
  const [variant, setVariant] = useState('');
  return (
    <div
      className="mb-3 flex flex-wrap items-end gap-3 border-l-4 border-ink bg-shade px-4 py-3"
      role="group"
      aria-label="All that are chosen"
    >
      <p className="self-center font-semibold">{counted(count, 'log')} chosen</p>
      <TextField className="w-44" label="Variant" pointer="" value={variant} suggestions={variants} onChange={setVariant} />
      <Button disabled={variant.trim() === ''} onClick={() => onVariant(variant.trim())}>
        Set
      </Button>
      <span className="flex items-center gap-1 text-[0.93rem]">
        Mount
        {[1, 2, 3, 4].map((mount) => (
          <Button key={mount} onClick={() => onMount(mount)}>
            {mount}
          </Button>
        ))}
        <Button onClick={() => onMount(null)}>unknown</Button>
      </span>
      <Button onClick={() => onUse(true)}>Use</Button>
      <Button onClick={() => onUse(false)}>Leave aside</Button>
    </div>
  );
}
