const isFull = (cause: unknown): boolean => (cause as Error).name === 'QuotaExceededError';

/** The device did not keep what was written; its message says why and what to do. */
export class StorageError extends Error {
  /** @param words what to say instead, where it was not the storage. */
  constructor(cause: unknown, words?: string) {
    super(
      words ??
        (isFull(cause)
          ? 'Not kept: the storage of this device is full. Send what waits or free some space, then write it again.'
          : `Not kept: ${(cause as Error).message}. Write it again, or on paper.`),
      { cause },
    );
  }
}

/** The same of what others wrote: the server has it, and danger is on the screen without being kept. */
export const othersStorageError = (cause: unknown): string =>
  `${isFull(cause) ? 'The storage of this device is full: free some space' : (cause as Error).message}. Danger is shown all the same.`;
