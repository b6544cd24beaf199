export * from './list';
export * from './columns';
export * from './table';
