import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Coverage, Face } from '@red-ember/core';
import type { BoardMapBody, SpotBody } from '@red-ember/contract';
import { moved, type Picked } from './edits.ts';
import { Board, Covers, Pads, Parts, Screws, SpotMarks, Zones, type Drawing, type Grip } from './MapShapes.tsx';

const RIM_MM = 2;
/** Largest height on screen, so that a tall board leaves room for its fields. */
const MOST_PX = 430;
const WIDTH_PX = 810;

interface Props {
  map: BoardMapBody;
  spots: SpotBody[];
  face: Face;
  coverage: Coverage;
  picked: Picked | null;
  onPick: (picked: Picked | null) => void;
  onChange: (map: BoardMapBody) => void;
  onRemove: (picked: Picked) => void;
  /** Set while a spot waits to be placed: the next press on the map places it. */
  placing: string | null;
  onPlace: (xMm: number, yMm: number) => void;
}

interface Drag {
  picked: Picked;
  startX: number;
  startY: number;
  dx: number;
  dy: number;
}

/** The board to scale: parts tinted by heat flux, covers hatched, spots as numbered marks. Drag, or arrow keys on what has the focus. */
export function MapCanvas({ map: saved, spots, face, coverage, picked, onPick, onChange, onRemove, placing, onPlace }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const map = drag ? moved(saved, drag.picked, drag.dx, drag.dy, false) : saved;
  const scale = Math.min(WIDTH_PX / (map.widthMm + 2 * RIM_MM), MOST_PX / (map.heightMm + 2 * RIM_MM));

  const toMm = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * (map.widthMm + 2 * RIM_MM) - RIM_MM,
      y: ((event.clientY - box.top) / box.height) * (map.heightMm + 2 * RIM_MM) - RIM_MM,
    };
  };
  const isPicked = (list: Picked['list'], id: string) => picked?.list === list && picked.id === id;
  const grip = (list: Picked['list'], id: string, name: string): Grip => ({
    role: 'button',
    tabIndex: 0,
    'aria-label': name,
    'aria-pressed': isPicked(list, id),
    className: 'cursor-grab outline-none',
    onFocus: () => placing === null && onPick({ list, id }),
    onPointerDown: (event: PointerEvent) => {
      if (placing !== null) return;
      event.stopPropagation();
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
      onPick({ list, id });
      const at = toMm(event);
      setDrag({ picked: { list, id }, startX: at.x, startY: at.y, dx: 0, dy: 0 });
    },
    onPointerMove: (event: PointerEvent) => {
      if (!drag) return;
      const at = toMm(event);
      setDrag({ ...drag, dx: at.x - drag.startX, dy: at.y - drag.startY });
    },
    onPointerUp: () => {
      // A press that hardly moved is a choice, not a move.
      if (drag && Math.hypot(drag.dx, drag.dy) * scale > 3) onChange(moved(saved, drag.picked, drag.dx, drag.dy, true));
      setDrag(null);
    },
    onKeyDown: (event: KeyboardEvent) => {
      const step = event.shiftKey ? 5 : event.altKey ? 0.1 : 1;
      const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
      if (by) {
        event.preventDefault();
        onChange(moved(saved, { list, id }, by[0]!, by[1]!, false));
      } else if (event.key === 'Delete' || event.key === 'Backspace') {
        event.preventDefault();
        onRemove({ list, id });
      }
    },
  });
  const drawing: Drawing = { map, face, scale, isPicked, grip };

  return (
    <svg
      ref={svg}
      viewBox={`${-RIM_MM} ${-RIM_MM} ${map.widthMm + 2 * RIM_MM} ${map.heightMm + 2 * RIM_MM}`}
      width={(map.widthMm + 2 * RIM_MM) * scale}
      className={`h-auto max-w-full touch-none select-none ${placing === null ? '' : 'cursor-crosshair'}`}
      role="group"
      aria-label={`Board map, ${face === 'top' ? 'upper face' : 'underside'}`}
      onPointerDown={(event) => {
        const at = toMm(event);
        if (placing !== null) onPlace(at.x, at.y);
        else onPick(null);
      }}
    >
      <Board {...drawing} />
      <Parts {...drawing} coverage={coverage} />
      <Pads {...drawing} />
      <Covers {...drawing} />
      <Zones {...drawing} />
      <Screws {...drawing} />
      <SpotMarks {...drawing} spots={spots} />
    </svg>
  );
}
