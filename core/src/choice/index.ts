export { paretoFront, type Better } from './paretoFront.ts';
export {
  kelvinPerMoney,
  kneeOf,
  criterionValue,
  tradeOffs,
  type Choice,
  type Criterion,
  type Profile,
  type ProfilePick,
  type Alike,
  type TradeOffs,
} from './tradeOffs.ts';
