export { balancedOrder, driftExposure } from './balancedOrder.ts';
export { orderCost, orderRuns, type OrderInput, type RunOrder } from './orderRuns.ts';
export { changeOverMinutes, type ChangeOverCosts, type PlannedRun } from './changeOver.ts';
export { iCalendar } from './iCalendar.ts';
export { layOut, type PlannedTask, type Slot, type WorkingHours } from './layOut.ts';
export { endsPrecedence, keepsEnds, type Ends } from './ends.ts';
export { ASSUMED_REPEATABILITY_K, priceRepeats, type RepeatsPrice } from './priceRepeats.ts';
export { expectedRunLength, planLength, type RunLength } from './planLength.ts';
