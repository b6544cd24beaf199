export * from './by-age';
export * from './bleed';
export * from './may-bleed';
export * from './of-pack';
export * from './plan';
export * from './room';
export * from './runtime';
export * from './shelf';
