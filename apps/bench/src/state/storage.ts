/** What the browser promised about keeping what this device holds. */
export interface Storage {
  /** True: kept until a person clears it. False: the browser may clear it when space runs short. */
  readonly lasting: boolean;
  /** Bytes used and allowed; null where the browser does not say. */
  readonly used: number | null;
  readonly most: number | null;
}

/** Asks the browser to keep what waits here, and says what it answered; null where it cannot be asked (no secure address). */
export async function askStorage(): Promise<Storage | null> {
  if (!('storage' in navigator) || !navigator.storage.persist) return null;
  const lasting = (await navigator.storage.persisted()) || (await navigator.storage.persist());
  const { usage, quota } = await navigator.storage.estimate();
  return { lasting, used: usage ?? null, most: quota ?? null };
}

/** Can the application open without a server here? Only a secure address may keep it. */
export const canKeep = (): boolean => 'serviceWorker' in navigator;
