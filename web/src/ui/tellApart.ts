/**
 * Names as they are told apart where there is little room: those that begin alike lose that, and of what is left the end stays.
 *
 * @param most signs that there is room for
 */
export function tellApart(names: readonly string[], most: number): string[] {
  const words = names.map((name) => name.split(' '));
  let shared = 0;
  const least = Math.min(...words.map(({ length }) => length)) - 1;
  while (shared < least && words.every((of) => of[shared]!.toLowerCase() === words[0]![shared]!.toLowerCase())) shared++;
  if (shared === 0 || names.every(({ length }) => length <= most)) return [...names];
  const rests = words.map((of) => of.slice(shared));
  const ends = rests.map((of) => {
    const end = [...of];
    while (end.length > 1 && end.join(' ').length > most) end.shift();
    return end.join(' ');
  });
  const told = new Set(ends.map((end) => end.toLowerCase())).size === new Set(names.map((name) => name.toLowerCase())).size;
  return (told ? ends : rests.map((of) => of.join(' '))).map((end) => `… ${end.replace(/^…\s*/, '')}`);
}
