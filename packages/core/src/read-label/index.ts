export * from './blocks';
export * from './grammar';
export * from './picture';
export * from './plate';
export * from './reading';
export * from './settle';
export * from './text';
