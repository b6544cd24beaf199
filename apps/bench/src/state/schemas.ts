import type * as Schemas from '@gavrel/contract/schemas';

let loaded: typeof Schemas | null = null;

/** Fetches the server's own schemas, a file of its own that the first screen does not wait for. */
export const loadSchemas = async (): Promise<void> => {
  loaded ??= await import('@gavrel/contract/schemas').catch(() => null);
};

/** What was fetched; null before, and where it cannot be had. Nothing that is written waits for it. */
export const schemasHere = (): typeof Schemas | null => loaded;
