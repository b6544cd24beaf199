export * from './judged';
export { type Act, ACTS } from './measure';
export * from './random';
export * from './world';
