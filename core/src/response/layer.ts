import { slabKPerW } from '../heat/slab.ts';

/** A pad or a film of paste on the way of the heat. */
export interface Layer {
  mm: number;
  conductivityWPerMK: number;
}

/** What the faces add or take cannot be worked out: a standard uncertainty of this share of the change. Our own figure. */
const CONTACT_U = 0.3;

/** What it changes to put one layer in the place of another, K/W, by their bulk alone. @throws RangeError as `slabKPerW` */
export function layerChange(areaMm2: number, now: Layer, instead: Layer): { nowKPerW: number; moreKPerW: number; u: number } {
  const at = ({ mm, conductivityWPerMK }: Layer) => slabKPerW(mm, conductivityWPerMK, areaMm2);
  const moreKPerW = at(instead) - at(now);
  return { nowKPerW: at(now), moreKPerW, u: CONTACT_U * Math.abs(moreKPerW) };
}
