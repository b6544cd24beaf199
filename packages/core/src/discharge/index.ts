export * from './bench-test';
export * from './compare';
export * from './measure';
export * from './phases';
export * from './read';
export * from './record';
export * from './thin';
