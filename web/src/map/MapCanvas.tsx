import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import type { Coverage, Face, Rect } from '@red-ember/core';
import type { BoardMapBody, SpotBody } from '@red-ember/contract';
import { moved, type Picked } from './edits.ts';

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
  const px = (n: number) => n / scale;
  const hottest = Math.max(1e-9, ...coverage.parts.map((part) => part.fluxWPerCm2));

  const toMm = (event: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * (map.widthMm + 2 * RIM_MM) - RIM_MM,
      y: ((event.clientY - box.top) / box.height) * (map.heightMm + 2 * RIM_MM) - RIM_MM,
    };
  };
  const isPicked = (list: Picked['list'], id: string) => picked?.list === list && picked.id === id;
  const handlers = (list: Picked['list'], id: string, name: string) => ({
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
  // A figure that is half typed is drawn as nothing, until it is a number again.
  const drawn = (value: number) => (value >= 0 ? value : 0);
  const frame = (rect: Rect) => ({
    x: Number.isFinite(rect.xMm) ? rect.xMm : 0,
    y: Number.isFinite(rect.yMm) ? rect.yMm : 0,
    width: drawn(rect.widthMm),
    height: drawn(rect.heightMm),
  });
  const label = (rect: Rect, text: string, extra: ReactNode = null) =>
    text.length * 6 < rect.widthMm * scale && rect.heightMm * scale > 14 ? (
      <text x={frame(rect).x + px(4)} y={frame(rect).y + px(13)} fontSize={px(11)} fill="var(--ink)" pointerEvents="none">
        {text}
        {extra}
      </text>
    ) : null;
  const stroke = (on: boolean) => ({ stroke: on ? 'var(--ember)' : 'var(--ink)', strokeWidth: px(on ? 2.5 : 1) });

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
      <defs>
        <pattern id="covered" width={px(7)} height={px(7)} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2={px(7)} stroke="var(--quench)" strokeWidth={px(1.4)} strokeOpacity="0.55" />
        </pattern>
      </defs>
      <rect
        x={0}
        y={0}
        width={map.widthMm}
        height={map.heightMm}
        rx={px(3)}
        fill="var(--shade)"
        stroke="var(--stone)"
        strokeWidth={px(1)}
      />
      {map.parts
        .filter((part) => part.face === face)
        .map((part) => {
          const heat = coverage.parts.find((entry) => entry.partId === part.id);
          const tint = heat ? 0.08 + 0.72 * drawn(heat.fluxWPerCm2 / hottest) : 0.08;
          return (
            <g key={part.id} {...handlers('parts', part.id, `Part ${part.name}`)}>
              <title>{part.name}</title>
              <rect {...frame(part)} fill="var(--lift)" />
              <rect {...frame(part)} fill="var(--ember)" fillOpacity={tint} {...stroke(isPicked('parts', part.id))} />
              {label(part, part.name)}
            </g>
          );
        })}
      {map.pads
        .filter((pad) => map.covers.find((cover) => cover.id === pad.coverId)?.face === face)
        .map((pad) => (
          <g key={pad.id} {...handlers('pads', pad.id, `Pad ${pad.name}`)} pointerEvents={isPicked('pads', pad.id) ? undefined : 'none'}>
            <title>{pad.name}</title>
            <rect {...frame(pad)} fill="url(#covered)" stroke={isPicked('pads', pad.id) ? 'var(--ember)' : 'none'} strokeWidth={px(2.5)} />
          </g>
        ))}
      {map.covers
        .filter((cover) => cover.face === face)
        .map((cover) => (
          <g key={cover.id} {...handlers('covers', cover.id, `Cover ${cover.name}`)} pointerEvents="stroke">
            <title>{cover.name}</title>
            <rect
              {...frame(cover)}
              fill="none"
              stroke={isPicked('covers', cover.id) ? 'var(--ember)' : 'var(--quench)'}
              strokeWidth={px(isPicked('covers', cover.id) ? 3 : 2.5)}
              strokeDasharray={`${px(8)} ${px(4)}`}
            />
          </g>
        ))}
      {(map.zones ?? [])
        .filter((zone) => zone.face === face)
        .map((zone) => (
          <g key={zone.id} {...handlers('zones', zone.id, `Zone ${zone.name}`)} pointerEvents="stroke">
            <title>{`${zone.name}: ${zone.clearMm} mm free`}</title>
            <rect
              {...frame(zone)}
              fill="none"
              stroke={isPicked('zones', zone.id) ? 'var(--ember)' : 'var(--stone)'}
              strokeWidth={px(isPicked('zones', zone.id) ? 3 : 2)}
              strokeDasharray={`${px(2)} ${px(5)}`}
            />
          </g>
        ))}
      {(map.screws ?? [])
        .filter((screw) => map.covers.find((cover) => cover.id === screw.coverId)?.face === face && Number.isFinite(screw.xMm + screw.yMm))
        .map((screw) => (
          <g key={screw.id} {...handlers('screws', screw.id, `Screw ${screw.name}`)}>
            <title>{screw.name}</title>
            <circle
              cx={screw.xMm}
              cy={screw.yMm}
              r={px(6)}
              fill="var(--lift)"
              stroke={isPicked('screws', screw.id) ? 'var(--ember)' : 'var(--ink)'}
              strokeWidth={px(isPicked('screws', screw.id) ? 2.5 : 1.5)}
            />
            <path
              d={`M${screw.xMm - px(3)} ${screw.yMm}h${px(6)}M${screw.xMm} ${screw.yMm - px(3)}v${px(6)}`}
              stroke="var(--ink)"
              strokeWidth={px(1.5)}
            />
          </g>
        ))}
      {map.placements
        .filter((placement) => placement.face === face && Number.isFinite(placement.xMm + placement.yMm))
        .map((placement) => {
          const number = spots.findIndex((spot) => spot.id === placement.spotId) + 1;
          const on = isPicked('placements', placement.spotId);
          return (
            <g key={placement.spotId} {...handlers('placements', placement.spotId, `Spot ${spots[number - 1]?.name ?? ''}`)}>
              <title>{spots[number - 1]?.name}</title>
              <circle
                cx={placement.xMm}
                cy={placement.yMm}
                r={px(9)}
                fill={on ? 'var(--ember)' : 'var(--ink)'}
                stroke="var(--lift)"
                strokeWidth={px(1.5)}
              />
              <text
                x={placement.xMm}
                y={placement.yMm + px(4)}
                fontSize={px(11)}
                fontWeight={600}
                textAnchor="middle"
                fill="var(--paper)"
                pointerEvents="none"
              >
                {number}
              </text>
            </g>
          );
        })}
    </svg>
  );
}
