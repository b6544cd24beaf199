export { exportLog, fillLog, importLog } from './log/transfer';
export { addPerson } from './people/people';
export { rebuild } from './projection/rebuild';
export { type Running, type ServeOptions, start } from './serve';
export { connect, type DatabaseUrls, inWorkshop, waitFor } from './store/db';
export { migrate, MIGRATION_NAMES, pending } from './store/migrations';
export { theWorkshop, type WorkshopRow } from './store/workshop';
