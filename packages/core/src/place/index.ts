export * from './assign';
export * from './best';
export * from './distance';
export * from './may';
export * from './state';
