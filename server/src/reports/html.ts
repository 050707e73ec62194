const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** A piece of finished HTML; plain strings are escaped when they are put into one. */
export class Html {
  constructor(readonly text: string) {}
}

type Part = Html | string | number | null | undefined | false | Part[];

function render(part: Part): string {
  if (part === null || part === undefined || part === false) return '';
  if (Array.isArray(part)) return part.map(render).join('');
  if (part instanceof Html) return part.text;
  return String(part).replace(/[&<>"']/g, (character) => ENTITIES[character]!);
}

/** What is between the tags of a page, style apart, each text by itself. */
export const eachText = (page: string, change: (text: string) => string): string =>
  page.replace(/(<style>[\s\S]*?<\/style>)|>([^<]+)/g, (all, style: string | undefined, text: string | undefined) =>
    style === undefined && text !== undefined ? `>${change(text)}` : all,
  );

/** A text as it stands in a page. */
export const escaped = (text: string): string => render(text);

/** Template that escapes everything that is not HTML already. */
export function html(strings: TemplateStringsArray, ...parts: Part[]): Html {
  return new Html(strings.reduce((text, string, i) => text + string + (i < parts.length ? render(parts[i]) : ''), ''));
}
