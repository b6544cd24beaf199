import { LOG_TYPE, MAX_PICTURE } from '@gavrel/contract';
import { pictureHere } from './store';
import { saveFile, sha256Of } from './picture';

/** A file packed, with its own hash. */
export interface PackedFile {
  readonly blob: Blob;
  readonly sha256: string;
}

/** The file packed, as the server keeps it; null where it is too large to keep. */
export async function packed(file: Blob): Promise<PackedFile | null> {
  const bytes = await new Response(file.stream().pipeThrough(new CompressionStream('gzip'))).arrayBuffer();
  if (bytes.byteLength > MAX_PICTURE) return null;
  const blob = new Blob([bytes], { type: LOG_TYPE });
  return { blob, sha256: await sha256Of(blob) };
}

/** Gives the user a log that is kept: from this device, else from the server. @throws Error with what is the matter. */
export async function saveKept(name: string, sha256: string): Promise<void> {
  const here = await pictureHere(sha256);
  if (here) return saveFile(name, here);
  const r = await fetch(`/api/blobs/${sha256}`).catch(() => null);
  if (!r) throw new Error('It is not on this device, and the server does not answer.');
  if (!r.ok) throw new Error('It was erased, or the server never had it.');
  saveFile(name, await r.blob());
}
