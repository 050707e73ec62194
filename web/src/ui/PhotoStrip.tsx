import { ImagePlus } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Photo } from '@red-ember/contract';
import { Button } from './Button.tsx';
import { Dialogue } from './Dialogue.tsx';
import { Notice } from './Notice.tsx';

/** A button that takes a photograph from a file. */
export function AttachButton({ label, busy, onFile }: { label: string; busy: boolean; onFile: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()} disabled={busy}>
        <ImagePlus size={16} aria-hidden /> {busy ? 'Attaching…' : 'Attach'}
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/png,image/jpeg,image/webp"
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
    </>
  );
}

/** Photographs in a row; one that is chosen is shown large, and can be removed there. */
export function PhotoStrip({
  photos,
  addressOf,
  fault,
  onRemove,
}: {
  photos: readonly Photo[];
  addressOf: (photo: Photo) => string;
  /** Why the last one could not be removed; '' where it could. */
  fault: string;
  /** Answers whether it is gone. */
  onRemove: (photo: Photo) => Promise<boolean>;
}) {
  const [shown, setShown] = useState<Photo | null>(null);
  return (
    <>
      <ul className="flex flex-wrap gap-3">
        {photos.map((photo) => (
          <li key={photo.id}>
            <button type="button" onClick={() => setShown(photo)} aria-label={`Show ${photo.name}`}>
              <img src={addressOf(photo)} alt={photo.name} loading="lazy" className="h-28 border border-rule object-cover" />
            </button>
          </li>
        ))}
      </ul>
      <Dialogue open={shown !== null} onClose={() => setShown(null)} title={shown?.name ?? ''} wide>
        {shown ? (
          <>
            <img
              src={addressOf(shown)}
              alt={shown.name}
              width={shown.widthPx}
              height={shown.heightPx}
              className="h-auto max-h-[60vh] w-auto max-w-full"
            />
            {fault ? <Notice tone="error">{fault}</Notice> : null}
            <p className="mt-4 flex items-center gap-4">
              <Button onClick={() => void onRemove(shown).then((gone) => (gone ? setShown(null) : null))}>Remove for good</Button>
              <Button look="quiet" onClick={() => setShown(null)}>
                Keep it
              </Button>
            </p>
          </>
        ) : null}
      </Dialogue>
    </>
  );
}
