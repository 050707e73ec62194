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

/** All of them in one file. */
export const packed = (figures: readonly ReportFigure[]): Uint8Array<ArrayBuffer> =>
  new Uint8Array(zipSync(Object.fromEntries(figures.map(({ name, svg }) => [`${asFileName(name, 'figure')}.svg`, strToU8(svg)]))));
