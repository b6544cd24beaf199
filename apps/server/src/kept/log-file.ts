import { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';

/** Bytes of a log unpacked: as large as the application opens. A small file can unpack to any number. */
const MOST_UNPACKED = 110_000_000;

/** What is wrong with a packed log and what to do; null where it unpacks to text. It is never held unpacked. */
export async function whyNoLog(bytes: Buffer): Promise<string | null> {
  let unpacked = 0;
  try {
    for await (const part of Readable.from([bytes]).pipe(createGunzip()) as AsyncIterable<Buffer>) {
      unpacked += part.length;
      if (unpacked > MOST_UNPACKED) return 'It unpacks to more than 110 MB: cut the log into parts.';
      if (part.includes(0)) return 'It is packed, but not a text: keep the log as CSV.';
    }
  } catch {
    return 'It cannot be unpacked: send it again, packed with gzip.';
  }
  return unpacked > 0 ? null : 'It is empty: open the log again.';
}
