export { type Action, ACTIONS, type Harm } from './actions';
export { type OwnEntry, type Writing } from './by-hand';
export * from './grades';
export * from './judged';
export type { TrueMachine } from './machine/machine';
export { type Act, ACTS, SIMULATED_PACK } from './measure';
export * from './random';
export { DIFFICULTIES, type Difficulty, endless, type Grade, GRADES, PACK_GRADES, type Scenario } from './scenario';
export { SCENARIOS } from './scenarios';
export {
  act,
  type Bet,
  type Debrief,
  debrief,
  flawOf,
  foundBy,
  harmsOf,
  isOver,
  mayDo,
  minutesOf,
  placeBet,
  recordOf,
  recordUntil,
  ruledOn,
  rulingOf,
  type Session,
  type Way,
  writeOwn,
} from './session';
export * from './registers';
export * from './under-load';
export * from './world';
export * from './staged/course';
export * from './staged/scenario';
export * from './staged/session';
