import { Children, cloneElement, Fragment, isValidElement, type ReactElement, type ReactNode } from 'react';
import { useDegrees } from '../data/useDegrees.ts';

/** Pieces of one sentence are put together before they are looked through: "20", " to ", "25 °C". What is drawn by a component of its own stays. */
function inPieces(children: ReactNode, text: (text: string) => string): ReactNode {
  const shown: ReactNode[] = [];
  let sentence = '';
  const end = () => {
    if (sentence !== '') shown.push(text(sentence));
    sentence = '';
  };
  for (const child of Children.toArray(children)) {
    if (typeof child === 'string' || typeof child === 'number') sentence += child;
    else {
      end();
      const opened = isValidElement(child) && (typeof child.type === 'string' || child.type === Fragment);
      const within = opened ? (child as ReactElement<{ children?: ReactNode }>) : null;
      shown.push(within?.props.children === undefined ? child : cloneElement(within, {}, inPieces(within.props.children, text)));
    }
  }
  end();
  return shown;
}

/** What stands in it, with its temperatures in the degrees that were chosen. */
export function Shown({ children }: { children: ReactNode }) {
  const { degrees, text } = useDegrees();
  return degrees === 'C' ? children : inPieces(children, text);
}
