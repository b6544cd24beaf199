export * from './measure';
export * from './read';
