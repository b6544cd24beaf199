/** The device did not keep what was written; its message says why and what to do. */
export class NotKept extends Error {
  constructor(cause: unknown) {
    const { name, message } = cause as Error;
    super(
      name === 'QuotaExceededError'
        ? 'Not kept: the storage of this device is full. Send what waits or free some space, then write it again.'
        : `Not kept: ${message}. Write it again, or on paper.`,
      { cause },
    );
  }
}
