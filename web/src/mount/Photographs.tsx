import type { Mount } from '@red-ember/contract';
import { sentenceOf, useAddPhotoMutation, useRemovePhotoMutation } from '../data/api.ts';
import { Notice } from '../ui/Notice.tsx';
import { AttachButton, PhotoStrip } from '../ui/PhotoStrip.tsx';
import { Section } from '../ui/Section.tsx';

/** Photographs of the mount on the bench. */
export function Photographs({ mount }: { mount: Mount }) {
  const [add, adding] = useAddPhotoMutation();
  const [remove, removing] = useRemovePhotoMutation();
  return (
    <Section
      title="Photographs"
      hint="place, camera and owner are left out"
      action={
        <AttachButton label="Photograph of this mount" busy={adding.isLoading} onFile={(file) => void add({ mountId: mount.id, file })} />
      }
    >
      {adding.error ? <Notice tone="error">{sentenceOf(adding.error)}</Notice> : null}
      {mount.photos.length === 0 ? (
        <p className="text-soft">None yet. One of the pads before the sink goes on has settled many an argument.</p>
      ) : (
        <PhotoStrip
          photos={mount.photos}
          addressOf={({ id }) => `/api/v1/mount-photos/${id}`}
          fault={removing.error ? sentenceOf(removing.error) : ''}
          onRemove={async ({ id }) => !('error' in (await remove(id)))}
        />
      )}
    </Section>
  );
}
