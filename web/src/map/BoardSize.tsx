import type { BoardMapBody } from '@red-ember/contract';
import { NumberField } from '../ui/Field.tsx';

/** Size of a board and the heat that it sheds in all. */
export function BoardSize({ map, pointer, onChange }: { map: BoardMapBody; pointer: string; onChange: (map: BoardMapBody) => void }) {
  return (
    <div className="grid max-w-md grid-cols-3 gap-3">
      <NumberField
        label="Width"
        unit="mm"
        pointer={`${pointer}/widthMm`}
        value={map.widthMm}
        onChange={(widthMm) => onChange({ ...map, widthMm })}
      />
      <NumberField
        label="Length"
        unit="mm"
        pointer={`${pointer}/heightMm`}
        value={map.heightMm}
        onChange={(heightMm) => onChange({ ...map, heightMm })}
      />
      <NumberField
        label="Heat in all"
        unit="W"
        pointer={`${pointer}/heatW`}
        value={map.heatW}
        onChange={(heatW) => onChange({ ...map, heatW })}
      />
    </div>
  );
}
