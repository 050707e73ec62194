import { ClipboardPaste } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { TextField } from '../ui/Field.tsx';

const EXAMPLE = 'Fan %\tLevel dB(A)\tRise K\n30\t31.2\t54.1\n50\t37.8\t46.9';

/** A sweep or a table of results, pasted out of a spreadsheet or typed: it becomes a file like any other. */
export function PasteTable({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [text, setText] = useState('');
  const lines = text.split('\n').filter((line) => line.trim() !== '').length;
  const submit = () => {
    onFile(new File([text], `${name.trim() || 'pasted table'}.csv`, { type: 'text/csv' }));
    setOpen(false);
    setText('');
    setName('');
  };
  return (
    <>
      <Button disabled={busy} onClick={() => setOpen(true)}>
        <ClipboardPaste size={16} aria-hidden /> Paste or type a table
      </Button>
      <Dialogue wide open={open} onClose={() => setOpen(false)} title="A sweep, or a table of results">
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            submit();
          }}
        >
          <p className="text-soft">
            Headings first, then a row each, as they come out of a spreadsheet; typed, with commas or semicolons between. A sweep has the
            duty or the speed of the fan, the level, and the rise or temperature. A table of results has what was changed, and the settled
            figure.
          </p>
          <TextField
            label="What it is called: the variant of a sweep"
            pointer=""
            value={name}
            placeholder="stock cooler"
            onChange={setName}
          />
          <label className="block text-[0.87rem] text-soft">
            Table
            <textarea
              className="field-box mt-1 min-h-56 w-full font-mono text-[0.93rem] text-ink"
              value={text}
              placeholder={EXAMPLE}
              onChange={(event) => setText(event.target.value)}
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
