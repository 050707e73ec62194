import { zipSync, strToU8 } from 'fflate';
import { asFileName } from '@red-ember/core';

/** A figure of the report by itself. */
export interface ReportFigure {
  name: string;
  svg: string;
}

const SVG = 'http://www.w3.org/2000/svg';

/** What a figure is called: its caption; else the spot and the row that it stands in. */
function nameOf(svg: Element): string {
  const caption = svg.closest('figure')?.querySelector('figcaption')?.textContent;
  if (caption) return caption.trim();
  const spot = svg.closest('section')?.querySelector('h3')?.firstChild?.textContent?.trim();
  const row = svg.closest('tr')?.querySelector('td, th')?.textContent?.trim();
  return [spot, row].filter(Boolean).join(', ') || 'Figure';
}

/** The figures of a report's page, each a file of its own: with a name space, a title and a face to write in. */
export function figuresOf(page: Document): ReportFigure[] {
  const seen = new Map<string, number>();
  return [...page.querySelectorAll('svg')].map((drawn) => {
    const name = nameOf(drawn);
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    const svg = drawn.cloneNode(true) as SVGElement;
    svg.setAttribute('xmlns', SVG);
    svg.setAttribute('font-family', 'Commissioner, sans-serif');
    const title = page.createElementNS(SVG, 'title');
    title.textContent = svg.getAttribute('aria-label') ?? name;
    svg.prepend(title);
    return { name: count === 1 ? name : `${name} ${count}`, svg: new XMLSerializer().serializeToString(svg) };
  });
}

const inOneFile = (files: readonly { name: string; bytes: Uint8Array }[], ending: 'svg' | 'png'): Uint8Array<ArrayBuffer> =>
  new Uint8Array(
    zipSync(Object.fromEntries(files.map(({ name, bytes }) => [`${asFileName(name, 'figure')}.${ending}`, bytes])), {
      // A PNG is packed by itself.
      level: ending === 'png' ? 0 : 6,
    }),
  );

/** All of them in one file. */
export const packed = (figures: readonly ReportFigure[]): Uint8Array<ArrayBuffer> =>
  inOneFile(
    figures.map(({ name, svg }) => ({ name, bytes: strToU8(svg) })),
    'svg',
  );

/** Dots for each unit of a drawing: sharp on paper and on dense screens. */
const DOTS = 3;

/** The rule of a report's page that holds its face: a picture sees none of the page it is in. */
const faceOf = (page: Document): string => /@font-face\{[^}]*\}/.exec(page.querySelector('style')?.textContent ?? '')?.[0] ?? '';

/** A drawing with its face in it and a size to be painted at; null where it has none. */
export function paintable(svg: string, face: string): { svg: string; width: number; height: number } | null {
  const drawn = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
  const [, , width, height] = (drawn.getAttribute('viewBox') ?? '').split(/[ ,]+/).map(Number);
  if (!(Number(width) > 0) || !(Number(height) > 0)) return null;
  drawn.setAttribute('width', String(width));
  drawn.setAttribute('height', String(height));
  // As a text: a style that is put into a document of this page is refused by what the page may do.
  const text = new XMLSerializer().serializeToString(drawn).replace(/^<svg[^>]*>/, (begin) => `${begin}<style>${face}</style>`);
  return { svg: text, width: width!, height: height! };
}

/** As a picture of dots; null for a drawing without a size. @throws Error where this browser does not paint it */
async function painted(svg: string, face: string): Promise<Uint8Array | null> {
  const drawn = paintable(svg, face);
  if (!drawn) return null;
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(drawn.svg)}`;
  await picture.decode();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(DOTS * drawn.width), Math.round(DOTS * drawn.height)];
  const paint = canvas.getContext('2d');
  if (!paint) throw new Error('There is nothing to paint on.');
  // On paper, as in the report.
  paint.fillStyle = '#fff';
  paint.fillRect(0, 0, canvas.width, canvas.height);
  paint.drawImage(picture, 0, 0, canvas.width, canvas.height);
  const file = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  if (!file) throw new Error('What was painted cannot be kept.');
  return new Uint8Array(await file.arrayBuffer());
}

/** All of them as pictures of dots, in one file. @throws Error where this browser does not paint one of them */
export async function packedPictures(page: Document): Promise<Uint8Array<ArrayBuffer>> {
  const face = faceOf(page);
  const files: { name: string; bytes: Uint8Array }[] = [];
  for (const { name, svg } of figuresOf(page)) {
    const bytes = await painted(svg, face);
    if (bytes) files.push({ name, bytes });
  }
  return inOneFile(files, 'png');
}
