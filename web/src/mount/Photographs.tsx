import { ImagePlus } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Mount, MountPhoto } from '@red-ember/contract';
import { sentenceOf, useAddPhotoMutation, useRemovePhotoMutation } from '../data/api.ts';
import { Button } from '../ui/Button.tsx';
import { Dialogue } from '../ui/Dialogue.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Section } from '../ui/Section.tsx';

const address = (photo: MountPhoto) => `/api/v1/mount-photos/${photo.id}`;

/** Photographs of the mount on the bench. */
export function Photographs({ mount }: { mount: Mount }) {
  const input = useRef<HTMLInputElement>(null);
  const [add, adding] = useAddPhotoMutation();
  const [remove, removing] = useRemovePhotoMutation();
  const [shown, setShown] = useState<MountPhoto | null>(null);
  return (
    <Section
      title="Photographs"
      hint="place, camera and owner are left out"
      action={
        <Button onClick={() => input.current?.click()} disabled={adding.isLoading}>
          <ImagePlus size={16} aria-hidden /> {adding.isLoading ? 'Attaching…' : 'Attach'}
        </Button>
      }
    >
      <input
        ref={input}
        type="file"
        accept="image/png,image/jpeg,image/webp"
        className="sr-only"
        aria-label="Photograph of this mount"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void add({ mountId: mount.id, file });
          event.target.value = '';
        }}
      />
      {adding.error ? <Notice tone="error">{sentenceOf(adding.error)}</Notice> : null}
      {mount.photos.length === 0 ? (
        <p className="text-soft">None yet. One of the pads before the sink goes on has settled many an argument.</p>
      ) : (
        <ul className="flex flex-wrap gap-3">
          {mount.photos.map((photo) => (
            <li key={photo.id}>
              <button type="button" onClick={() => setShown(photo)} aria-label={`Show ${photo.name}`}>
                <img src={address(photo)} alt={photo.name} loading="lazy" className="h-28 border border-rule object-cover" />
              </button>
            </li>
          ))}
        </ul>
      )}
      <Dialogue open={shown !== null} onClose={() => setShown(null)} title={shown?.name ?? ''} wide>
        {shown ? (
          <>
            <img
              src={address(shown)}
              alt={shown.name}
              width={shown.widthPx}
              height={shown.heightPx}
              className="h-auto max-h-[60vh] w-auto max-w-full"
            />
            {removing.error ? <Notice tone="error">{sentenceOf(removing.error)}</Notice> : null}
            <p className="mt-4 flex items-center gap-4">
              <Button onClick={() => void remove(shown.id).then((result) => ('error' in result ? null : setShown(null)))}>
                Remove for good
              </Button>
              <Button look="quiet" onClick={() => setShown(null)}>
                Keep it
              </Button>
            </p>
          </>
        ) : null}
      </Dialogue>
    </Section>
  );
}
