export * from './plan';
export * from './problem';
export * from './read';
export * from './rule-package';
