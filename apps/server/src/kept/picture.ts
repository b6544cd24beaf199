const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** Does a JPEG carry an Exif or XMP segment (APP1), where cameras write place and device? Source: JPEG ITU-T T.81 B.1, from memory. */
function jpegHasCameraData(b: Buffer): boolean {
  let at = 2;
  while (at + 4 <= b.length && b[at] === 0xff) {
    const marker = b[at + 1]!;
    if (marker === 0xda || marker === 0xd9) return false;
    if (marker === 0xe1) return true;
    at += 2 + b.readUInt16BE(at + 2);
  }
  return false;
}

/** Does a PNG carry an eXIf or text chunk? Source: PNG specification, third edition, from memory. */
function pngHasCameraData(b: Buffer): boolean {
  let at = 8;
  while (at + 8 <= b.length) {
    const name = b.toString('latin1', at + 4, at + 8);
    if (name === 'IEND') return false;
    if (['eXIf', 'tEXt', 'iTXt', 'zTXt'].includes(name)) return true;
    at += 12 + b.readUInt32BE(at);
  }
  return false;
}

/** What is wrong with a picture that was sent, with what to do; null when it may be kept. */
export function pictureTrouble(bytes: Buffer, type: string): string | null {
  const jpeg = bytes.length > 4 && bytes[0] === 0xff && bytes[1] === 0xd8;
  const png = bytes.subarray(0, 8).equals(PNG);
  if (type !== 'image/jpeg' && type !== 'image/png') return 'Only JPEG and PNG are kept: save it as one of them.';
  if ((type === 'image/jpeg' && !jpeg) || (type === 'image/png' && !png))
    return 'Its content is not what its type says: save it again as JPEG or PNG.';
  if (jpeg ? jpegHasCameraData(bytes) : pngHasCameraData(bytes))
    return 'It carries camera data, perhaps the place: take or load it through the application, which leaves that out.';
  return null;
}
