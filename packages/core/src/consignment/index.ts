export * from './carrier';
export * from '../recycling/movement';
export * from './offers';
export * from './price';
export * from './rule-packed';
export * from './send';
export * from './state';
export * from './weigh';
