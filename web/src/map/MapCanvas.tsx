import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Coverage, Face } from '@red-ember/core';
import type { BoardMapBody, SpotBody } from '@red-ember/contract';
import { ZoomButtons } from '../ui/ZoomButtons.tsx';
import { useZoomed, zoomKey, zoomTransform } from '../ui/useZoomed.ts';
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
  dx: number;
  dy: number;
}

/** A press that hardly moved is a choice, not a move, pixels. */
const HARDLY_PX = 3;

/** The board to scale: parts tinted by heat flux, covers hatched, spots as numbered marks. Drag, or arrow keys on what has the focus. */
export function MapCanvas({ map: saved, spots, face, coverage, picked, onPick, onChange, onRemove, placing, onPlace }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const map = drag ? moved(saved, drag.picked, drag.dx, drag.dy, false) : saved;
  const scale = Math.min(WIDTH_PX / (map.widthMm + 2 * RIM_MM), MOST_PX / (map.heightMm + 2 * RIM_MM));

  const [left, top, right, bottom] = [-RIM_MM, -RIM_MM, map.widthMm + RIM_MM, map.heightMm + RIM_MM];
  const zoomed = useZoomed(svg, [left, top, right, bottom], placing === null);
  const { at } = zoomed;
  const mmPerPx = () => (right - left) / svg.current!.getBoundingClientRect().width / at.k;
  const toMm = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: (((event.clientX - box.left) / box.width) * (right - left) + left - at.x) / at.k,
      y: (((event.clientY - box.top) / box.height) * (bottom - top) + top - at.y) / at.k,
    };
  };
  const dragged = useDrag(
    ({ args: [own], movement: [x, y], last, canceled, shiftKey, first, cancel }) => {
      if (placing !== null) return;
      if (first && shiftKey && at.k > 1) return cancel();
      const by = { picked: own as Picked, dx: x * mmPerPx(), dy: y * mmPerPx() };
      if (last && !canceled && Math.hypot(x, y) > HARDLY_PX) onChange(moved(saved, by.picked, by.dx, by.dy, true));
      setDrag(last ? null : by);
    },
    { pointer: { keys: false } },
  );
  const isPicked = (list: Picked['list'], id: string) => picked?.list === list && picked.id === id;
  const grip = (list: Picked['list'], id: string, name: string): Grip => ({
    ...dragged({ list, id }),
    role: 'button',
    tabIndex: 0,
    'aria-label': name,
    'aria-pressed': isPicked(list, id),
    className: 'cursor-grab outline-none',
    onFocus: () => placing === null && onPick({ list, id }),
    onPointerDownCapture: () => placing === null && onPick({ list, id }),
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
  const drawing: Drawing = { map, face, scale: scale * at.k, isPicked, grip };

  return (
    <div>
      <svg
        ref={svg}
        viewBox={`${left} ${top} ${right - left} ${bottom - top}`}
        width={(map.widthMm + 2 * RIM_MM) * scale}
        className={`h-auto max-w-full touch-none select-none ${placing === null ? '' : 'cursor-crosshair'}`}
        role="group"
        aria-label={`Board map, ${face === 'top' ? 'upper face' : 'underside'}`}
        onPointerDown={(event) => {
          const pressed = toMm(event);
          if (placing !== null) onPlace(pressed.x, pressed.y);
          else if (!(event.target as Element).closest('[role="button"]')) onPick(null);
        }}
        onKeyDown={(event) => {
          if (zoomKey(event.key, zoomed)) event.preventDefault();
        }}
      >
        <g transform={zoomTransform(at)}>
          <Board {...drawing} />
          <Parts {...drawing} coverage={coverage} />
          <Pads {...drawing} />
          <Covers {...drawing} />
          <Zones {...drawing} />
          <Screws {...drawing} />
          <SpotMarks {...drawing} spots={spots} />
        </g>
      </svg>
      <ZoomButtons zoomed={zoomed} what="Whole board" />
    </div>
  );
}
