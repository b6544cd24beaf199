export * from './carry';
export * from './load';
export * from './marks';
export * from './own';
export * from './packaging';
export * from './selection';
export * from './split';
export * from './ways';
