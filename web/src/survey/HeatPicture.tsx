import { useDrag } from '@use-gesture/react';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { fixed } from '@red-ember/core';
import type { BoardMapBody, SurveyBody, SurveyRegionBody } from '@red-ember/contract';
import { cannotBeRead, Contours, HotSpotMarks, MapOver, References, Regions, Stretched, type Cell } from './PictureMarks.tsx';
import { ZoomButtons } from '../ui/ZoomButtons.tsx';
import { useZoomed, zoomKey, zoomTransform } from '../ui/useZoomed.ts';
import type { ReadPicture } from './picture.ts';
import { Shown } from '../ui/Shown.tsx';

const WIDTH_PX = 815;
const MOST_PX = 400;

/** What the next press on the picture means. */
export type Tool = { kind: 'look' } | { kind: 'region' } | { kind: 'reference'; index: 0 | 1 };

interface Props {
  read: ReadPicture;
  said: SurveyBody;
  map: BoardMapBody | null;
  tool: Tool;
  shownSpot: number | null;
  onRegion: (region: Pick<SurveyRegionBody, 'fromRow' | 'toRow' | 'fromColumn' | 'toColumn'>) => void;
  onReference: (row: number, column: number) => void;
}

function hexOf(name: string): [number, number, number] {
  const hex = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  return [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16)) as [number, number, number];
}

/** One hue from dark to light, in two straight steps. */
function paint(canvas: HTMLCanvasElement, { corrected, minC, maxC }: ReadPicture): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const [rows, columns] = [corrected.valuesC.length, corrected.valuesC[0]!.length];
  const stops = ['--heat-low', '--heat-mid', '--heat-high'].map(hexOf);
  const image = context.createImageData(columns, rows);
  corrected.valuesC.forEach((row, r) =>
    row.forEach((value, c) => {
      const share = Number.isNaN(value) || maxC <= minC ? 0 : (value - minC) / (maxC - minC);
      const [from, to] = share < 0.5 ? [stops[0]!, stops[1]!] : [stops[1]!, stops[2]!];
      const within = share < 0.5 ? share * 2 : share * 2 - 1;
      for (let k = 0; k < 3; k++) image.data[4 * (r * columns + c) + k] = from[k]! + within * (to[k]! - from[k]!);
      image.data[4 * (r * columns + c) + 3] = 255;
    }),
  );
  context.putImageData(image, 0, 0);
}

/** The camera's picture, corrected: contours with their temperatures, hot spots, what cannot be read, and the map laid over it. */
export function HeatPicture({ read, said, map, tool, shownSpot, onRegion, onReference }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const [cursor, setCursor] = useState<Cell | null>(null);
  const [from, setFrom] = useState<Cell | null>(null);
  const [rows, columns] = [read.corrected.valuesC.length, read.corrected.valuesC[0]!.length];
  const scale = Math.min(WIDTH_PX / columns, MOST_PX / rows);

  useEffect(() => {
    if (canvas.current) paint(canvas.current, read);
  }, [read]);

  const zoomed = useZoomed(svg, [0, 0, columns, rows], tool.kind === 'look');
  const { at } = zoomed;
  const px = (n: number) => n / scale / at.k;

  const cellAt = (x: number, y: number): Cell => {
    const area = box.current!.getBoundingClientRect();
    const hold = (value: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(value)));
    return {
      row: hold((((y - area.top) / area.height) * rows - at.y) / at.k, rows),
      column: hold((((x - area.left) / area.width) * columns - at.x) / at.k, columns),
    };
  };
  const enclose = (one: Cell, other: Cell) => {
    onRegion({
      fromRow: Math.min(one.row, other.row),
      toRow: Math.max(one.row, other.row),
      fromColumn: Math.min(one.column, other.column),
      toColumn: Math.max(one.column, other.column),
    });
    setFrom(null);
  };
  const press = (cell: Cell) => {
    if (tool.kind === 'reference') onReference(cell.row, cell.column);
    else if (tool.kind === 'region' && from) enclose(from, cell);
    else if (tool.kind === 'region') setFrom(cell);
  };
  const dragged = useDrag(
    ({ initial: [x0, y0], xy: [x, y], first, last, canceled, cancel, shiftKey }) => {
      if (first && shiftKey && at.k > 1) return cancel();
      const [begun, now] = [cellAt(x0, y0), cellAt(x, y)];
      if (canceled) setFrom(null);
      else if (tool.kind !== 'region') {
        if (last) press(now);
      } else if (last) enclose(begun, now);
      else setFrom(begun);
    },
    { enabled: tool.kind !== 'look', pointer: { keys: false } },
  );
  // The arrow keys move a cursor over the picture, Enter presses: whatever a pointer can do here, keys can.
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 5 : 1;
    if (zoomKey(event.key, zoomed)) return event.preventDefault();
    const by = { ArrowLeft: [0, -step], ArrowRight: [0, step], ArrowUp: [-step, 0], ArrowDown: [step, 0] }[event.key];
    const cell = cursor ?? { row: Math.floor(rows / 2), column: Math.floor(columns / 2) };
    if (by) {
      event.preventDefault();
      setCursor({
        row: Math.min(rows - 1, Math.max(0, cell.row + by[0]!)),
        column: Math.min(columns - 1, Math.max(0, cell.column + by[1]!)),
      });
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      press(cell);
    }
  };
  const value = cursor && read.corrected.valuesC[cursor.row]?.[cursor.column];

  return (
    <figure>
      <div
        ref={box}
        tabIndex={0}
        role="application"
        aria-label="Camera picture. Arrow keys move over it, Enter presses."
        className={`relative touch-none overflow-hidden ${tool.kind === 'look' ? 'cursor-crosshair' : 'cursor-cell'}`}
        style={{ width: columns * scale, maxWidth: '100%', aspectRatio: `${columns} / ${rows}` }}
        {...dragged()}
        onPointerMoveCapture={(event: PointerEvent) => setCursor(cellAt(event.clientX, event.clientY))}
        onPointerLeave={() => setCursor(null)}
        onKeyDown={onKey}
      >
        <canvas
          ref={canvas}
          width={columns}
          height={rows}
          className="absolute inset-0 h-full w-full origin-top-left [image-rendering:pixelated]"
          style={{ transform: `translate(${(100 * at.x) / columns}%, ${(100 * at.y) / rows}%) scale(${at.k})` }}
          aria-hidden
        />
        <svg ref={svg} viewBox={`0 0 ${columns} ${rows}`} className="absolute inset-0 h-full w-full" aria-hidden>
          <g transform={zoomTransform(at)}>
            <Contours px={px} read={read} said={said} />
            <Regions px={px} said={said} />
            <MapOver px={px} read={read} said={said} map={map} />
            {from && cursor ? <Stretched px={px} from={from} to={cursor} /> : null}
            <References px={px} said={said} />
            <HotSpotMarks px={px} read={read} shown={shownSpot} />
          </g>
        </svg>
      </div>
      <figcaption className="mt-1 flex flex-wrap justify-between gap-x-6 text-[0.87rem] text-soft">
        <Shown>
          <span role="status">
            {cursor && value !== undefined && value !== null
              ? Number.isNaN(value)
                ? `row ${cursor.row + 1}, column ${cursor.column + 1}: cannot be read`
                : `row ${cursor.row + 1}, column ${cursor.column + 1}: ${fixed(value, 1)} °C`
              : `${columns} × ${rows} cells, ${fixed(read.minC, 1)} to ${fixed(read.maxC, 1)} °C`}
          </span>
        </Shown>
        <span>{said.regions.some(cannotBeRead) ? 'Hatched: cannot be read; use matt tape.' : ''}</span>
      </figcaption>
      <ZoomButtons zoomed={zoomed} what="Whole picture" />
    </figure>
  );
}
