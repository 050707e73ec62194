export {
  belongsTo,
  changeOverCard,
  type Belonging,
  type ChangeOverCard,
  type FitStep,
  type FittedFactor,
  type FittedVariant,
} from './changeOverCard.ts';
export { crosswiseOrder } from './crosswise.ts';
export { seatCheck, type SeatCause, type SeatCheck, type SeatMount, type SeatReading, type SeatSpot } from './seatCheck.ts';
export { handsMinutes } from './handsMinutes.ts';
export { SEAT_LATE_S, seatReading } from './seatReading.ts';
