import { useState } from 'react';

/**
 * A value that the address holds, and that a hand moves faster than the address follows: what was typed or dragged is shown at once,
 * and given up when the address has caught up.
 *
 * @param held what the address says
 * @param write tells the address; not called with what it could not take
 * @param allowed what the address may hold; anything else stays in the field until it is left
 */
export function useInHand(held: string, write: (value: string) => void, allowed: (value: string) => boolean = () => true) {
  const [inHand, setInHand] = useState<string | null>(null);
  // Given up while rendering, so that the next change of the address, from wherever it comes, is shown.
  if (inHand !== null && inHand === held) setInHand(null);
  return {
    value: inHand ?? held,
    onChange: (event: { target: { value: string } }) => {
      setInHand(event.target.value);
      if (allowed(event.target.value)) write(event.target.value);
    },
    onBlur: () => setInHand(null),
  };
}
