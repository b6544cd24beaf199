export * from './columns';
export * from './table';
