/** Variants, parts, spots and levels have names of up to so many signs. */
export const LONGEST_NAME = 60;

/** Two signs that stand for what a name loses, so that another that loses other words is another, on another day too. */
function markOf(name: string): string {
  let sum = 0;
  for (const sign of name.toLowerCase()) sum = (31 * sum + sign.codePointAt(0)!) % 1296;
  return sum.toString(36).padStart(2, '0');
}

/** Of a name that is too long its beginning and its end, where what differs mostly stands. */
function shortened(name: string, most: number): string {
  if (name.length <= most) return name;
  const mark = ` (${markOf(name)})`;
  const gap = ' … ';
  const words = name.split(' ');
  let tail = '';
  while (words.length > 1 && words.at(-1)!.length + 1 + tail.length <= 0.4 * most) tail = `${words.pop()!} ${tail}`.trim();
  const room = most - gap.length - tail.length - mark.length;
  let head = '';
  for (const word of words) {
    if (head.length + 1 + word.length > room) break;
    head = `${head} ${word}`.trim();
  }
  return head === '' || tail === '' ? `${name.slice(0, most - gap.length - mark.length)} …${mark}` : `${head}${gap}${tail}${mark}`;
}

/**
 * Makes names fit that are longer than may be, so that what is called otherwise stays called otherwise, whatever it is put down together
 * with; names that would come to the same all the same are counted.
 *
 * @returns what a name becomes, the same for the same name, large and small letters alike
 */
export function shortNames(most = LONGEST_NAME): (name: string) => string {
  const given = new Map<string, string>();
  return (name) => {
    const said = name.trim();
    for (let n = 1; ; n++) {
      const short = n === 1 ? shortened(said, most) : `${shortened(said, most - 5)} (${n})`;
      const of = given.get(short.toLowerCase());
      if (of !== undefined && of !== said.toLowerCase()) continue;
      given.set(short.toLowerCase(), said.toLowerCase());
      return short;
    }
  };
}
