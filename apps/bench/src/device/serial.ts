import { type InstrumentAnswer, type InstrumentBody, readUntilStill, type SPEAKS } from '@gavrel/core';

/** How an instrument on a cable of this device is spoken to. */
export interface Cable {
  readonly baud: number;
  readonly speaks: (typeof SPEAKS)[number];
  /** Maker and product of the plug, where it has them: by which the browser's port is found again. */
  readonly plug: Plug;
}

interface Plug {
  readonly usbVendorId?: number;
  readonly usbProductId?: number;
}

/** The parts of the Web Serial API that are used; not every browser has it. */
interface Port {
  open(how: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  getInfo(): Plug;
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
}
interface Serial {
  requestPort(): Promise<Port>;
  getPorts(): Promise<Port[]>;
}

const serial = (): Serial | undefined => (navigator as { serial?: Serial }).serial;

/** Can this browser read a cable at all? */
export const hasCables = (): boolean => serial() !== undefined;

/** Ports of this page by what the person chose them for: two of one make are told apart while it is open. */
const chosen = new Map<string, Port>();

/** Lets the person choose a port in the browser's own window. @returns the plug; null where nothing was chosen. */
export async function choosePlug(instrument: string): Promise<Plug | null> {
  try {
    const port = await serial()!.requestPort();
    chosen.set(instrument, port);
    const { usbVendorId, usbProductId } = port.getInfo();
    return { ...(usbVendorId !== undefined && { usbVendorId }), ...(usbProductId !== undefined && { usbProductId }) };
  } catch {
    // The window was closed again.
    return null;
  }
}

async function portOf(instrument: string, plug: Plug): Promise<Port | undefined> {
  const known = chosen.get(instrument);
  if (known) return known;
  const same = ((await serial()?.getPorts()) ?? []).filter((p) => {
    const { usbVendorId, usbProductId } = p.getInfo();
    return usbVendorId === plug.usbVendorId && usbProductId === plug.usbProductId;
  });
  // Of two alike nobody knows which it is.
  return same.length === 1 ? same[0] : undefined;
}

/** Longest wait for one line, ms; longest line, characters. */
const LINE_MS = 3000;
const LONGEST_LINE = 256;
const fault = (words: string): InstrumentAnswer => ({ kind: 'fault', words });
const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

/** Lines of a port, one after another, each within its patience. */
function linesOf(reader: ReadableStreamDefaultReader<Uint8Array>): () => Promise<string | null> {
  const decoder = new TextDecoder('latin1');
  let buffer = '';
  return async () => {
    const until = performance.now() + LINE_MS;
    for (;;) {
      const at = buffer.search(/[\r\n]/);
      if (at >= 0) {
        const line = buffer.slice(0, at);
        buffer = buffer.slice(at).replace(/^(\r\n|\r|\n)/, '');
        // Two ends one after the other are one.
        if (line !== '') return line;
        continue;
      }
      const left = until - performance.now();
      if (left <= 0 || buffer.length > LONGEST_LINE) return null;
      const read = await Promise.race([reader.read(), pause(left).then(() => null)]);
      if (read === null || read.done) return null;
      buffer += decoder.decode(read.value);
    }
  };
}

/** Reads an instrument on a cable of this device until it stands still; the port is closed again whatever happens. */
export async function readCable(
  instrument: string,
  cable: Cable,
  measures: InstrumentBody['measures'],
): Promise<InstrumentAnswer> {
  const port = await portOf(instrument, cable.plug);
  if (!port) return fault('its cable is not known here: choose it again under More, Instruments');
  try {
    await port.open({ baudRate: cable.baud });
  } catch {
    // A plug that was pulled comes back as another port.
    chosen.delete(instrument);
    return fault('its cable cannot be opened: is it plugged in, and does no other program have it?');
  }
  const reader = port.readable?.getReader();
  const writer = port.writable?.getWriter();
  try {
    if (!reader) return fault('nothing can be read from its cable: plug it in again');
    const next = linesOf(reader);
    // What sends by itself was in the middle of a line: the rest of that one is no reading.
    if (cable.speaks === 'lines') await next();
    const encoder = new TextEncoder();
    const send = async (text: string) => writer?.write(encoder.encode(text));
    return await readUntilStill({ send, next, pause, clock: () => performance.now() }, cable.speaks, measures);
  } catch {
    return fault('its cable was pulled: plug it in, then read again');
  } finally {
    await reader?.cancel().catch(() => undefined);
    reader?.releaseLock();
    writer?.releaseLock();
    await port.close().catch(() => undefined);
  }
}
