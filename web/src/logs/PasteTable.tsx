import { ClipboardPaste } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { FormText } from '../ui/form.tsx';

const EXAMPLE = 'Fan %\tLevel dB(A)\tRise K\n30\t31.2\t54.1\n50\t37.8\t46.9';

/** A sweep or a table of results, pasted out of a spreadsheet or typed: it becomes a file like any other. */
export function PasteTable({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) {
  const [open, setOpen] = useState(false);
  const { control, register, handleSubmit, reset, watch } = useForm({ defaultValues: { name: '', text: '' } });
  const lines = watch('text').split('\n').filter((line) => line.trim() !== '').length; // prettier-ignore
  const submit = handleSubmit(({ name, text }) => {
    onFile(new File([text], `${name.trim() || 'pasted table'}.csv`, { type: 'text/csv' }));
    setOpen(false);
    reset();
  });
  return (
    <>
      <Button disabled={busy} onClick={() => setOpen(true)}>
        <ClipboardPaste size={16} aria-hidden /> Paste or type a table
      </Button>
      <Dialogue wide open={open} onClose={() => setOpen(false)} title="A sweep, or a table of results">
        <form className="grid gap-4" onSubmit={(event) => void submit(event)}>
          <p className="text-soft">
            Headings first, then a row each, as they come out of a spreadsheet; typed, with commas or semicolons between. A sweep has the
            duty or the speed of the fan, the level, and the rise or temperature. A table of results has what was changed, and the settled
            figure.
          </p>
          <FormText control={control} name="name" label="What it is called: the variant of a sweep" placeholder="stock cooler" />
          <label className="block text-[0.87rem] text-soft">
            Table
            <textarea
              className="field-box mt-1 min-h-56 w-full font-mono text-[0.93rem] text-ink"
              placeholder={EXAMPLE}
              {...register('text')}
            />
          </label>
          <p>
            <Button type="submit" look="strong" disabled={lines < 2}>
              Put it down
            </Button>
          </p>
        </form>
      </Dialogue>
    </>
  );
}
