import { Children, cloneElement, Fragment, isValidElement, type ReactElement, type ReactNode } from 'react';
import { useDegrees } from '../data/useDegrees.ts';

/** What is chosen, typed or copied from these is not touched. */
const AS_IT_IS = ['option', 'textarea', 'pre', 'code'];

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
      const opened = isValidElement(child) && (typeof child.type === 'string' ? !AS_IT_IS.includes(child.type) : child.type === Fragment);
      const within = opened ? (child as ReactElement<{ children?: ReactNode }>) : null;
      shown.push(within?.props.children === undefined ? child : cloneElement(within, {}, inPieces(within.props.children, text)));
    }
  }
  end();
  return shown;
}

/** What stands in it, with its temperatures in the degrees that were chosen, numbers and units on one line. */
export function Shown({ children }: { children: ReactNode }) {
  const { text } = useDegrees();
  return inPieces(children, text);
}
