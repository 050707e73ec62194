import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { DropZone } from './DropZone.tsx';
import { PasteTable } from './PasteTable.tsx';
import type { usePutDown } from './usePutDown.ts';

/** Where files are dropped or pasted, how far their reading is, and which were refused. */
export function PutDown({ any, take, going, refused, cancel, clear }: { any: boolean } & ReturnType<typeof usePutDown>) {
  return (
    <>
      <DropZone small={any} busy={going !== null} onFiles={(files) => void take(files)}>
        {going
          ? `Reading ${going.name}, ${going.done + 1} of ${going.of}`
          : any
            ? 'Drop more logs here, or choose them'
            : 'Drop a day’s logs here, all at once, or choose them'}
      </DropZone>
      <p className="mt-3">
        <PasteTable busy={going !== null} onFile={(file) => void take([file])} />
      </p>
      {going ? (
        <p className="mt-2">
          <Button look="quiet" onClick={cancel}>
            Stop after this one
          </Button>
        </p>
      ) : null}
      {refused.length > 0 ? (
        <Notice tone="error" action={<Button onClick={clear}>Understood</Button>}>
          {refused.map((sentence) => (
            <span key={sentence} className="block">
              {sentence}
            </span>
          ))}
        </Notice>
      ) : null}
    </>
  );
}
