export * from './list';
export * from './columns';
export * from './table';
export * from './text';
