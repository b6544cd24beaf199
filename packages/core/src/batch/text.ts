/**
 * Bytes as text: UTF-8 with or without its mark, or UTF-16 with one.
 * @throws RangeError with what to do for any other encoding.
 */
export function decodeText(bytes: Uint8Array): string {
  const wide = bytes[0] === 0xff && bytes[1] === 0xfe;
  try {
    return new TextDecoder(wide ? 'utf-16le' : 'utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new RangeError('the table is not in UTF-8: save it as "CSV UTF-8" and take it again');
  }
}
