export { type Action, ACTIONS, type Harm, SHORTCUTS } from './actions';
export * from './judged';
export { type Act, ACTS } from './measure';
export * from './random';
export { endless, type Grade, GRADES, type Scenario } from './scenario';
export { SCENARIOS } from './scenarios';
export {
  act,
  begin,
  type Bet,
  type Debrief,
  debrief,
  harmsOf,
  isOver,
  mayDo,
  minutesOf,
  placeBet,
  recordOf,
  rulingOf,
  type Session,
} from './session';
export * from './world';
