import { connect, type Socket } from 'node:net';
import { isPrivate } from '@gavrel/contract/schemas';
import {
  type InstrumentAddress,
  type InstrumentAnswer,
  type InstrumentBody,
  readInstrumentLine,
  SCPI_ASKS,
  standsStill,
} from '@gavrel/core';

/** Longest wait for a connection and for one line, and for a reading that stands still, ms. */
const PATIENCE = { connect: 2000, line: 3000, still: 8000 } as const;
/** Longest line, characters: what is longer is no reading. */
const LONGEST_LINE = 256;
/** Between two questions, ms. */
const PAUSE = 120;

const fault = (words: string): InstrumentAnswer => ({ kind: 'fault', words });
const SILENT = 'it does not answer: is it on, and at this address?';

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

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

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

/**
 * Reads an instrument until it stands still: only at an address of one's own network, one connection, bounded lines, nothing it says goes anywhere
 * but into the answer. A fault is told in words with what to do.
 */
export async function readInstrument(
  address: InstrumentAddress,
  measures: InstrumentBody['measures'],
): Promise<InstrumentAnswer> {
  if (!isPrivate(address.host)) return fault('its address is none of your own network: the lead mends it');
  const ask = address.speaks === 'scpi' ? SCPI_ASKS[measures] : null;
  if (ask === undefined) return fault(`SCPI has no question for ${measures}: let it send lines`);
  const socket = await opened(address);
  if (!socket) return fault(SILENT);
  const lines = new Lines(socket);
  const readings: { digits: string; unit: string }[] = [];
  // By a clock that nobody turns.
  const until = performance.now() + PATIENCE.still;
  try {
    while (performance.now() < until) {
      if (ask !== null) socket.write(`${ask}\n`);
      const line = await lines.next(PATIENCE.line);
      if (line === null) return fault(readings.length === 0 ? SILENT : 'it fell silent: look at its display');
      const answer = readInstrumentLine(line, measures);
      if (answer.kind === 'fault') return answer;
      readings.push(answer);
      if (standsStill(readings)) return answer;
      if (ask !== null) await pause(PAUSE);
    }
    return fault('it does not stand still: hold the probes still, then read again');
  } finally {
    socket.destroy();
  }
}
