/** Puts a storage in memory in the place of the browser's. Loaded only where that one does not open. */
import 'fake-indexeddb/auto';
