export { connect, type DatabaseUrls, inWorkshop, waitFor } from './db';
export { migrate, MIGRATION_NAMES, pending } from './migrations';
export { theWorkshop, type WorkshopRow } from './workshop';
