export {
  carry,
  dutyNeeded,
  judgeLoad,
  lifeIndex,
  minutesToLimit,
  riseByLaw,
  riseOf,
  type Carry,
  type CarryInput,
  type CarrySpot,
  type JudgedLoad,
  type LoadVerdict,
  type SpotCarry,
} from './carry.ts';
export { projectAmbient } from './projectAmbient.ts';
export { padStack, type PadContact, type PadStack, type PadStackInput } from './padStack.ts';
export { partBeneath, type PartBeneathInput } from './partBeneath.ts';
export { powerLaw, safePower, type PowerLaw, type PowerPoint, type SafePowerInput } from './safePower.ts';
export { riseAtPower } from './riseAtPower.ts';
export { recirculation } from './recirculation.ts';
export { thermalResistance } from './thermalResistance.ts';
export { pasteLayer, type PasteLayer } from './pasteLayer.ts';
