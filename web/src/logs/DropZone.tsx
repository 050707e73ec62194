import { fromEvent } from 'file-selector';
import { Upload } from 'lucide-react';
import { useState, type ReactNode } from 'react';

const TAKEN = '.csv,.tsv,.txt,.log,.json,.jsonl,.ndjson,.xlsx,.gz,.zip,text/csv,text/plain,application/json';

/** A place to drop logs on, or to choose them by. */
export function DropZone({
  small,
  busy,
  onFiles,
  children,
}: {
  small?: boolean;
  busy: boolean;
  onFiles: (files: File[]) => void;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <label
      className={`flex cursor-pointer items-center justify-center gap-3 border-2 border-dashed px-6 text-center ${small ? 'py-4' : 'flex-col py-12'} ${over ? 'border-ink bg-shade' : 'border-stone'} has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-quench`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        // Folders are taken apart; a file keeps where it lay.
        if (!busy) void fromEvent(event.nativeEvent).then((files) => onFiles(files.filter((file) => file instanceof File)));
      }}
    >
      <Upload size={small ? 18 : 26} aria-hidden />
      <span>{children}</span>
      <input
        type="file"
        multiple
        className="sr-only"
        accept={TAKEN}
        disabled={busy}
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
    </label>
  );
}
