import { createServer, type Server, type Socket } from 'node:net';
import { fullyCharged, randomOf, type Random, registersOf, simulate, SimulatedLoad, type TruePack } from '@gavrel/core/practice';
import { Trouble } from './common';

/** How a stand-in misbehaves. */
export const FAULTS = ['none', 'leads off', 'overload', 'silence', 'garbage', 'creeping', 'wrong unit'] as const;
export type StandInFault = (typeof FAULTS)[number];

/** What a stand-in shows: a true value with its own error and noise. */
interface Meter {
  readonly name: string;
  readonly speaks: 'scpi' | 'lines';
  readonly asks: string;
  readonly value: (p: TruePack) => number;
  readonly noise: number;
  readonly digits: number;
  readonly unit: string;
}
/** One that is told what to do, and one that sends a whole text. */
interface Other {
  readonly name: 'load' | 'gauge reader';
  readonly speaks: 'scpi' | 'lines';
  readonly asks: string;
}
export type Kind = Meter | Other;

export const STAND_INS: readonly Kind[] = [
  {
    name: 'meter',
    speaks: 'scpi',
    asks: 'MEAS:VOLT:DC?',
    value: (p) => p.cells.reduce((a, b) => a + b, 0),
    noise: 0.0004,
    digits: 6,
    unit: 'V',
  },
  { name: 'thermometer', speaks: 'scpi', asks: 'MEAS:TEMP?', value: (p) => p.surfaceC, noise: 0.04, digits: 3, unit: 'CEL' },
  {
    name: 'calliper',
    speaks: 'lines',
    asks: '',
    value: (p) => p.newMm * (1 + p.growth / 100),
    noise: 0.004,
    digits: 2,
    unit: 'mm',
  },
  { name: 'scale', speaks: 'lines', asks: '', value: (p) => p.grams, noise: 0.05, digits: 1, unit: 'g' },
  { name: 'load', speaks: 'scpi', asks: 'MEAS:VOLT?' },
  { name: 'gauge reader', speaks: 'lines', asks: '' },
];

/** Between two lines of one that sends by itself, ms. */
const EVERY = 150;
const LONGEST_QUESTION = 256;

export interface StandIn {
  readonly name: string;
  readonly port: number;
  /** Misbehave from now on, or not any more. */
  readonly set: (fault: StandInFault) => void;
  readonly close: () => Promise<void>;
}

/** What an instrument does: answers a line, or sends lines by itself. */
interface Device {
  /** null: no answer. */
  readonly answered: (question: string) => string | null;
  /** Sent every so often; null: nothing. */
  readonly sends: (() => string) | null;
  /** Sent once to whoever connects; null: nothing. */
  readonly greets: (() => string) | null;
}

/** Questions that every one understands, and complaints about the others. */
function common(name: string, seed: number, errors: string[], question: string): string | null | undefined {
  switch (question.trim().toUpperCase()) {
    case '*IDN?':
      return `Gavrel,stand-in ${name},${seed},1`;
    case 'SYST:ERR?':
      return errors.shift() ?? '0,"No error"';
    case '*CLS':
    case '*RST':
      errors.length = 0;
      return null;
    default:
      return undefined;
  }
}

function meter(kind: Meter, pack: TruePack, r: Random, seed: number, fault: () => StandInFault): Device {
  let crept = 0;
  const errors: string[] = [];
  const reading = (): string => {
    if (fault() === 'overload') return '9.9E37';
    if (fault() === 'leads off') return kind.speaks === 'scpi' ? '9.91E37' : '---';
    if (fault() === 'garbage') return '\u0002?#7f';
    crept = fault() === 'creeping' ? crept + 0.4 : 0;
    const x = kind.value(pack) + r.normal(kind.noise) + crept;
    if (fault() === 'wrong unit') return `${x.toFixed(kind.digits)} ft`;
    return kind.speaks === 'scpi' ? x.toExponential(kind.digits).toUpperCase() : `${x.toFixed(kind.digits)} ${kind.unit}`;
  };
  return {
    answered: (question) => {
      const known = common(kind.name, seed, errors, question);
      if (known !== undefined) return known;
      if (question.trim().toUpperCase() === kind.asks) return reading();
      errors.push('-113,"Undefined header"');
      return null;
    },
    sends: kind.speaks === 'lines' ? reading : null,
    greets: null,
  };
}

function load(pack: TruePack, r: Random, seed: number, fault: () => StandInFault, hurry: number): Device {
  const simulated = new SimulatedLoad(pack, r, () => performance.now() / 1000, hurry);
  return {
    answered: (question) => {
      if (question.trim().toUpperCase() === '*IDN?') return common('load', seed, [], question) ?? null;
      const said = simulated.answer(question);
      if (said === null || !question.trim().toUpperCase().startsWith('MEAS:')) return said;
      if (fault() === 'leads off') return '0.000000E+00';
      if (fault() === 'overload') return '9.9E37';
      return fault() === 'garbage' ? '\u0002?#7f' : said;
    },
    sends: null,
    greets: null,
  };
}

function gaugeReader(pack: TruePack, r: Random, fault: () => StandInFault): Device {
  const greets = () => {
    const text = registersOf(pack, r);
    // A disturbed line: one bit of each register falls over.
    return fault() === 'garbage' ? text.replace(/ ([0-9A-F]{2})$/gm, (_m, b: string) => ` ${b === '00' ? '01' : '00'}`) : text;
  };
  return { answered: () => null, sends: null, greets };
}

/**
 * One simulated instrument on loopback.
 * @param port 0 takes a free one. @param hurry seconds of the pack on a load in one of the clock.
 */
export async function standIn(kind: Kind, pack: TruePack, port: number, seed = 1, hurry = 1): Promise<StandIn> {
  const r = randomOf(seed);
  let fault: StandInFault = 'none';
  const now = () => fault;
  const device =
    'value' in kind
      ? meter(kind, pack, r, seed, now)
      : kind.name === 'load'
        ? load(pack, r, seed, now, hurry)
        : gaugeReader(pack, r, now);
  const sockets = new Set<Socket>();
  const server: Server = createServer((socket) => {
    sockets.add(socket);
    let typed = '';
    const { sends, greets } = device;
    const timer = sends ? setInterval(() => void (fault !== 'silence' && socket.write(`${sends()}\r\n`)), EVERY) : undefined;
    if (greets && fault !== 'silence') socket.write(`${greets().replace(/\n/g, '\r\n')}\r\n`);
    socket.setEncoding('latin1');
    socket.on('data', (text: string) => {
      typed = (typed + text).slice(-LONGEST_QUESTION);
      const lines = typed.split('\n');
      typed = lines.pop() ?? '';
      if (kind.speaks !== 'scpi') return;
      for (const line of lines) {
        if (fault === 'silence') continue;
        const said = device.answered(line);
        if (said !== null) socket.write(`${said}\n`);
      }
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      sockets.delete(socket);
      clearInterval(timer);
    });
  });
  await new Promise<void>((ready, fail) => {
    server.once('error', fail);
    server.listen(port, '127.0.0.1', ready);
  });
  const at = server.address();
  return {
    name: kind.name,
    port: typeof at === 'object' && at ? at.port : port,
    set: (f) => {
      fault = f;
    },
    close: () =>
      new Promise((done) => {
        for (const s of sockets) s.destroy();
        server.close(() => done());
      }),
  };
}

/** A sound pack of three cells in series, as many notebooks have. */
const USUAL_SEED = 2;
/** First port of the stand-ins, one after the other. */
const FIRST_PORT = 5025;

/** Starts simulated instruments on a simulated pack and keeps them until it is stopped. */
export async function main(args: readonly string[], say: (line: string) => void): Promise<void> {
  const option = (name: string) => {
    const at = args.indexOf(name);
    return at < 0 ? undefined : (args[at + 1] ?? '');
  };
  const seed = Number(option('--seed') ?? USUAL_SEED);
  if (!Number.isInteger(seed) || seed < 1) throw new Trouble('--seed is a number from 1 on');
  const given = option('--fault') ?? 'none';
  const fault = FAULTS.find((f) => f === given);
  if (!fault) throw new Trouble(`--fault "${given}" is none of ${FAULTS.join(', ')}`);
  const found = simulate(randomOf(seed));
  const pack = args.includes('--full') ? fullyCharged(found) : found;
  const all: StandIn[] = [];
  for (const [i, kind] of STAND_INS.entries()) {
    const one = await standIn(kind, pack, FIRST_PORT + i, seed).catch((e: NodeJS.ErrnoException) => {
      if (e.code === 'EADDRINUSE') throw new Trouble(`port ${FIRST_PORT + i} is taken: stop what uses it, then run this again`);
      throw e;
    });
    one.set(fault);
    all.push(one);
    say(`${kind.name}: 127.0.0.1, port ${one.port}, ${kind.speaks}`);
  }
  say(`simulated pack ${seed}${fault === 'none' ? '' : `, fault: ${fault}`}; Ctrl C ends it`);
  await new Promise<void>((done) => {
    process.once('SIGINT', done);
    process.once('SIGTERM', done);
  });
  await Promise.all(all.map((s) => s.close()));
}
