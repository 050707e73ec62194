export { watchLock, type LockWatch } from './watchLock.ts';
export { whatElseChanged, type ConditionChange, type Conditions } from './whatElseChanged.ts';
