export { type Action, ACTIONS, type Harm } from './actions';
export * from './grades';
export * from './judged';
export { INSIDE, MACHINE_ACTIONS, type MachineAction, type MachineHarm, OUTSIDE, shows } from './machine/acts';
export { MACHINES } from './machine/machines';
export * from './machine/session';
export { type Act, ACTS } from './measure';
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
  rulingOf,
  type Session,
  type Way,
} from './session';
export * from './world';
