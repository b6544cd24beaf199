export * from './compare';
export * from './measure';
export * from './read';
export * from './record';
export * from './thin';
