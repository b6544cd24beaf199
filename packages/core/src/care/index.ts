export * from './by-age';
export { type FadeOutlook, fadeOutlook, type FadePoint } from '../pack/fade';
export * from './bleed';
export * from './may-bleed';
export * from './of-pack';
export * from './plan';
export * from './room';
export * from './runtime';
export * from './shelf';
