/** What an element says, as it is read: a blank at which no line ends is a blank. */
export const textOf = (element: Pick<Node, 'textContent'> | null | undefined): string =>
  (element?.textContent ?? '').replaceAll('\u00a0', ' ');
