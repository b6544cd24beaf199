import { chargeAt, voltsAt } from '../cell/curve';
import type { Random } from './random';
import type { TruePack } from './world';

/** A simulated pack while current is drawn from it. */
export interface UnderLoad {
  /** Charge left of each cell, % of its own full charge. */
  readonly charges: readonly number[];
  /** Volts that each relaxation term of a cell still holds back, the quick one first. */
  readonly heldBack: readonly [number, number];
  readonly celsius: number;
}

/**
 * A cell as a source behind a resistance and two relaxation terms: ohm for a cell of {@link CELL.ah}, and seconds. The usual equivalent
 * circuit; magnitudes are common practice, no source.
 */
export const CELL = {
  ah: 4.4,
  ohm: 0.03,
  terms: [
    { ohm: 0.012, seconds: 30 },
    { ohm: 0.02, seconds: 600 },
  ],
} as const;
/** Volts of a cell at which a protection opens (common practice, no source). */
const PROTECTION = 2.5;
/** Heat a gram takes, J/K, and seconds in which a pack comes near to its room; common practice, no source. */
const HEAT = { joulesPerGram: 1, seconds: 1800 } as const;

/** An aged cell has the more resistance the less capacity it has left; larger cells have less of both. */
const aged = (p: TruePack): number => (CELL.ah * 1000) / p.ratedMah / p.health;
/** Full charge as it is now, ampere-seconds. */
const fullCharge = (p: TruePack): number => (p.ratedMah / 1000) * p.health * 3600;

/** At rest as it lies there. */
export const atRest = (p: TruePack): UnderLoad => ({
  charges: p.cells.map((v) => chargeAt(p.curve, v)),
  heldBack: [0, 0],
  celsius: p.surfaceC,
});

/** Rested volts of a cell; below what counts as empty they fall on as steeply as they did. @param charge % of its own full charge. */
export function sourceVolts(p: TruePack, charge: number): number {
  const empty = voltsAt(p.curve, 0);
  return charge >= 0 ? voltsAt(p.curve, charge) : empty + charge * (voltsAt(p.curve, 1) - empty);
}

/** Volts of the cells under a current. @param amperes drawn. */
export const cellsUnder = (p: TruePack, s: UnderLoad, amperes: number): number[] =>
  s.charges.map((c) => sourceVolts(p, c) - amperes * CELL.ohm * aged(p) - s.heldBack[0] - s.heldBack[1]);

/** Has its protection opened? */
export const isOpen = (cells: readonly number[]): boolean => Math.min(...cells) < PROTECTION;

/** The same pack after a constant current has flowed for so long: the terms and the heat by their closed forms. */
export function drawn(p: TruePack, s: UnderLoad, amperes: number, seconds: number): UnderLoad {
  const [quick, slow] = CELL.terms.map((t, i) => {
    const end = amperes * t.ohm * aged(p);
    return end + (s.heldBack[i]! - end) * Math.exp(-seconds / t.seconds);
  }) as [number, number];
  const watts = amperes ** 2 * CELL.ohm * aged(p) * p.series + amperes * p.series * (s.heldBack[0] + s.heldBack[1]);
  const settles = p.roomC + (watts * HEAT.seconds) / (p.grams * HEAT.joulesPerGram);
  return {
    charges: s.charges.map((c) => c - (100 * amperes * seconds) / fullCharge(p)),
    heldBack: [quick, slow],
    celsius: settles + (s.celsius - settles) * Math.exp(-seconds / HEAT.seconds),
  };
}

/** Longest step in which the current is taken to be constant, s. */
const STEP = 5;

/**
 * A simulated electronic load on a simulated pack: constant current, SCPI, and a time-out of its own. It knows time only by being asked.
 * @param clock seconds, of a clock that nobody turns. @param hurry seconds of the pack in one of the clock.
 */
export class SimulatedLoad {
  private pack: UnderLoad;
  private current = 0;
  private on = false;
  /** Seconds without a word after which it switches itself off; null: never. */
  private waits: number | null = null;
  private last: number;
  private readonly errors: string[] = [];

  constructor(
    private readonly truth: TruePack,
    private readonly random: Random,
    private readonly clock: () => number,
    private readonly hurry = 1,
  ) {
    this.pack = atRest(truth);
    this.last = clock();
  }

  /** Is it drawing current? */
  isOn(): boolean {
    this.advance();
    return this.on;
  }

  private drawing = (): number => (this.on && !isOpen(cellsUnder(this.truth, this.pack, this.current)) ? this.current : 0);

  /** Brings the pack to now. */
  private advance(): void {
    const now = this.clock();
    const silent = now - this.last;
    const run = (seconds: number) => {
      for (let left = seconds * this.hurry; left > 0; left -= STEP)
        this.pack = drawn(this.truth, this.pack, this.drawing(), Math.min(STEP, left));
    };
    if (this.on && this.waits !== null && silent > this.waits) {
      run(this.waits);
      this.on = false;
      run(silent - this.waits);
    } else run(silent);
    this.last = now;
  }

  /** One line sent to it. @returns what it answers; null where it answers nothing. */
  answer(line: string): string | null {
    this.advance();
    const [head = '', value = ''] = line.trim().toUpperCase().split(/\s+/);
    const number = Number(value);
    const wrong = (error: string) => (this.errors.push(error), null);
    const cells = cellsUnder(this.truth, this.pack, this.drawing());
    const noisy = (x: number, sigma: number) => (x + this.random.normal(sigma)).toExponential(6).toUpperCase();
    switch (head) {
      case '*CLS':
        this.errors.length = 0;
        return null;
      case 'SYST:ERR?':
        return this.errors.shift() ?? '0,"No error"';
      case 'INP?':
        return this.on ? '1' : '0';
      case 'INP':
        if (!['ON', 'OFF', '1', '0'].includes(value)) return wrong('-224,"Illegal parameter value"');
        this.on = value === 'ON' || value === '1';
        return null;
      case 'INP:TIM':
        if (!(number > 0)) return wrong('-222,"Data out of range"');
        this.waits = number;
        return null;
      case 'CURR':
        if (!(number >= 0 && number <= 10)) return wrong('-222,"Data out of range"');
        this.current = number;
        return null;
      case 'MEAS:VOLT?':
        return noisy(this.on && isOpen(cells) ? 0 : cells.reduce((a, b) => a + b, 0), 0.0004);
      case 'MEAS:CURR?':
        return noisy(this.drawing(), 0.0002);
      case 'MEAS:TEMP?':
        return noisy(this.pack.celsius, 0.04);
      default:
        return wrong('-113,"Undefined header"');
    }
  }
}
