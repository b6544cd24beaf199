import { connect, type Socket } from 'node:net';
import { isPrivate } from '@gavrel/contract/schemas';
import {
  type InstrumentAddress,
  type InstrumentAnswer,
  type InstrumentBody,
  type InstrumentWire,
  readReport,
  readUntilStill,
  SILENT,
  whyNoReading,
} from '@gavrel/core';

/** Longest wait for a connection and for one line, ms. */
const PATIENCE = { connect: 2000, line: 3000 } as const;
/** Longest line, characters: what is longer is no reading. */
const LONGEST_LINE = 256;
const fault = (words: string) => ({ kind: 'fault', words }) as const;
export const FOREIGN = 'its address is none of your own network: the lead mends it';

/** Lines of a socket, one after another, each within its patience. */
class Lines {
  private buffer = '';
  private waiting: ((line: string | null) => void) | null = null;
  private ended = false;
  constructor(socket: Socket) {
    socket.setEncoding('latin1');
    socket.on('data', (text: string) => {
      this.buffer += text;
      if (this.buffer.length > LONGEST_LINE * 8) socket.destroy();
      this.give();
    });
    const end = () => {
      this.ended = true;
      this.give();
    };
    socket.on('close', end);
    socket.on('error', end);
  }
  private give(): void {
    if (!this.waiting) return;
    const at = this.buffer.search(/[\r\n]/);
    if (at >= 0) {
      const line = this.buffer.slice(0, at);
      this.buffer = this.buffer.slice(at).replace(/^(\r\n|\r|\n)/, '');
      this.done(line);
    } else if (this.ended || this.buffer.length > LONGEST_LINE) this.done(null);
  }
  private done(line: string | null): void {
    const { waiting } = this;
    this.waiting = null;
    waiting?.(line);
  }
  /** The next line; null where none came in time. */
  next(ms: number): Promise<string | null> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => this.done(null), ms);
      this.waiting = (line) => {
        clearTimeout(timer);
        resolve(line);
      };
      this.give();
    });
  }
}

const pause = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

function opened({ host, port }: InstrumentAddress): Promise<Socket | null> {
  return new Promise((resolve) => {
    const socket = connect({ host, port });
    const timer = setTimeout(() => {
      socket.destroy();
      resolve(null);
    }, PATIENCE.connect);
    socket.once('connect', () => {
      clearTimeout(timer);
      resolve(socket);
    });
    socket.once('error', () => {
      clearTimeout(timer);
      resolve(null);
    });
  });
}

/** A line to an instrument, and what ends it. */
export interface OpenWire extends InstrumentWire {
  readonly next: (ms?: number) => Promise<string | null>;
  readonly close: () => void;
}

/** A line to an address of one's own network: one connection, bounded lines. Null where nobody answers there. */
export async function openWire(address: InstrumentAddress): Promise<OpenWire | null> {
  const socket = await opened(address);
  if (!socket) return null;
  const lines = new Lines(socket);
  return {
    send: (text) => void socket.write(text),
    next: (ms = PATIENCE.line) => lines.next(ms),
    pause,
    clock: () => performance.now(),
    close: () => socket.destroy(),
  };
}

/** Opens a line, hands it over and closes it, whatever happens. */
async function withWire<T>(address: InstrumentAddress, use: (wire: OpenWire) => Promise<T>) {
  if (!isPrivate(address.host)) return fault(FOREIGN);
  const wire = await openWire(address);
  if (!wire) return fault(SILENT);
  try {
    return await use(wire);
  } finally {
    wire.close();
  }
}

/**
 * Reads an instrument until it stands still: only at an address of one's own network, one connection, bounded lines, nothing it says goes anywhere
 * but into the answer. A fault is told in words with what to do.
 */
export async function readInstrument(
  address: InstrumentAddress,
  measures: InstrumentBody['measures'],
): Promise<InstrumentAnswer> {
  // A load at work is left alone.
  const why = whyNoReading(address.speaks, measures);
  return why === null ? withWire(address, (wire) => readUntilStill(wire, address.speaks, measures)) : fault(why);
}

/** What a gauge reader sends, as text, within the same bounds. */
export const readGaugeReport = (address: InstrumentAddress) => withWire(address, (wire) => readReport(wire, address.speaks));
