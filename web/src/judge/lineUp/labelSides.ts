export type LabelSide = 'right' | 'left' | 'top' | 'bottom';

interface Box {
  x0: number;
  x1: number;
  y0: number;
  y1: number;
}

/** Of the plot, about: it is as wide as the page, and names need only not to touch. */
const PLOT = { width: 640, height: 180 };
const LETTER = 6.8;
const LINE = 15;
const POINT = 7;

const touches = (p: Box, q: Box) => p.x0 < q.x1 && q.x0 < p.x1 && p.y0 < q.y1 && q.y0 < p.y1;

function boxOf(side: LabelSide, x: number, y: number, width: number): Box {
  if (side === 'right') return { x0: x + POINT, x1: x + POINT + width, y0: y - LINE / 2, y1: y + LINE / 2 };
  if (side === 'left') return { x0: x - POINT - width, x1: x - POINT, y0: y - LINE / 2, y1: y + LINE / 2 };
  const top = side === 'top' ? y - POINT - LINE : y + POINT;
  return { x0: x - width / 2, x1: x + width / 2, y0: top, y1: top + LINE };
}

/**
 * On which side of its point each name of a plot stands: to the right where there is room, else below, above or to the left of it, where
 * it touches neither another point nor a name that stands already.
 *
 * @param points in the units of the plot; both axes are taken to reach from the least to the most
 */
export function labelSides(points: readonly { x: number; y: number; name: string }[]): Map<string, LabelSide> {
  const scale = (of: 'x' | 'y', length: number) => {
    const values = points.map((point) => point[of]);
    const [least, most] = [Math.min(...values), Math.max(...values)];
    return (value: number) => (most > least ? ((value - least) / (most - least)) * length : length / 2);
  };
  const [across, up] = [scale('x', PLOT.width), scale('y', PLOT.height)];
  const placed = points.map(({ x, y, name }) => ({ name, x: across(x), y: PLOT.height - up(y), width: LETTER * name.length }));
  const dots = placed.map(({ x, y }): Box => ({ x0: x - POINT, x1: x + POINT, y0: y - POINT, y1: y + POINT }));
  const names: Box[] = [];
  const sides = new Map<string, LabelSide>();
  placed.forEach(({ name, x, y, width }, i) => {
    const free = (side: LabelSide) => {
      const box = boxOf(side, x, y, width);
      return !names.some((other) => touches(box, other)) && !dots.some((dot, k) => k !== i && touches(box, dot));
    };
    const side = (['right', 'bottom', 'top', 'left'] as const).find(free) ?? 'right';
    names.push(boxOf(side, x, y, width));
    sides.set(name, side);
  });
  return sides;
}
