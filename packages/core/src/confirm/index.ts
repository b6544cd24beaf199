export * from './waits';
