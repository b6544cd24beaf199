export { exportLog, fillLog, importLog } from './log/transfer';
export { addPerson } from './people/people';
export { rebuild } from './projection/rebuild';
export { type Running, type ServeOptions, start } from './serve';
export * from './store';
