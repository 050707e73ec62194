export type { Neighbour } from './neighbour.ts';
export type { ResponseRecord } from './bins.ts';
export { fitResponse, type ResponseOptions, type SpotResponse } from './fitResponse.ts';
export {
  airOf,
  AS_IT_RAN,
  expectedDifference,
  foretell,
  foretoldTrace,
  reached,
  type Foretold,
  type ForetoldChange,
  type Footing,
  type Reached,
  type WhatIf,
  type WhatIfKey,
} from './foretell.ts';
export { layerChange, type Layer } from './layer.ts';
export { foretoldUnseen, readUnseen, type Unseen } from './unseen.ts';
