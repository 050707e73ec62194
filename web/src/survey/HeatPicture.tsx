import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { fixed } from '@red-ember/core';
import type { BoardMapBody, SurveyBody, SurveyRegionBody } from '@red-ember/contract';
import { cannotBeRead, Contours, HotSpotMarks, MapOver, References, Regions, Stretched, type Cell } from './PictureMarks.tsx';
import type { ReadPicture } from './picture.ts';

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
  const [cursor, setCursor] = useState<Cell | null>(null);
  const [from, setFrom] = useState<Cell | null>(null);
  const [rows, columns] = [read.corrected.valuesC.length, read.corrected.valuesC[0]!.length];
  const scale = Math.min(WIDTH_PX / columns, MOST_PX / rows);
  const px = (n: number) => n / scale;
  useEffect(() => {
    if (canvas.current) paint(canvas.current, read);
  }, [read]);

  const cellOf = (event: PointerEvent) => {
    const area = box.current!.getBoundingClientRect();
    const hold = (value: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(value)));
    return {
      row: hold(((event.clientY - area.top) / area.height) * rows, rows),
      column: hold(((event.clientX - area.left) / area.width) * columns, columns),
    };
  };
  const press = (cell: Cell) => {
    if (tool.kind === 'reference') onReference(cell.row, cell.column);
    else if (tool.kind === 'region' && from) {
      onRegion({
        fromRow: Math.min(from.row, cell.row),
        toRow: Math.max(from.row, cell.row),
        fromColumn: Math.min(from.column, cell.column),
        toColumn: Math.max(from.column, cell.column),
      });
      setFrom(null);
    } else if (tool.kind === 'region') setFrom(cell);
  };
  // The arrow keys move a cursor over the picture, Enter presses: whatever a pointer can do here, keys can.
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 5 : 1;
    const by = { ArrowLeft: [0, -step], ArrowRight: [0, step], ArrowUp: [-step, 0], ArrowDown: [step, 0] }[event.key];
    const at = cursor ?? { row: Math.floor(rows / 2), column: Math.floor(columns / 2) };
    if (by) {
      event.preventDefault();
      setCursor({ row: Math.min(rows - 1, Math.max(0, at.row + by[0]!)), column: Math.min(columns - 1, Math.max(0, at.column + by[1]!)) });
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      press(at);
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
        className={`relative touch-none ${tool.kind === 'look' ? 'cursor-crosshair' : 'cursor-cell'}`}
        style={{ width: columns * scale, maxWidth: '100%', aspectRatio: `${columns} / ${rows}` }}
        onPointerMove={(event) => setCursor(cellOf(event))}
        onPointerLeave={() => setCursor(null)}
        onPointerDown={(event) => {
          const cell = cellOf(event);
          if (tool.kind === 'region') setFrom(cell);
          else press(cell);
        }}
        onPointerUp={(event) => {
          if (tool.kind === 'region' && from) press(cellOf(event));
        }}
        onKeyDown={onKey}
      >
        <canvas
          ref={canvas}
          width={columns}
          height={rows}
          className="absolute inset-0 h-full w-full [image-rendering:pixelated]"
          aria-hidden
        />
        <svg viewBox={`0 0 ${columns} ${rows}`} className="absolute inset-0 h-full w-full" aria-hidden>
          <Contours px={px} read={read} said={said} />
          <Regions px={px} said={said} />
          <MapOver px={px} read={read} said={said} map={map} />
          {from && cursor ? <Stretched px={px} from={from} to={cursor} /> : null}
          <References px={px} said={said} />
          <HotSpotMarks px={px} read={read} shown={shownSpot} />
        </svg>
      </div>
      <figcaption className="mt-1 flex flex-wrap justify-between gap-x-6 text-[0.87rem] text-soft">
        <span role="status">
          {cursor && value !== undefined && value !== null
            ? Number.isNaN(value)
              ? `row ${cursor.row + 1}, column ${cursor.column + 1}: cannot be read`
              : `row ${cursor.row + 1}, column ${cursor.column + 1}: ${fixed(value, 1)} °C`
            : `${columns} × ${rows} cells, ${fixed(read.minC, 1)} to ${fixed(read.maxC, 1)} °C`}
        </span>
        <span>{said.regions.some(cannotBeRead) ? 'Hatched: cannot be read; use matt tape.' : ''}</span>
      </figcaption>
    </figure>
  );
}
