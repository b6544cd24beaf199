import { type InstrumentWire, plainDigits, SILENT } from '../formats/instrument-line';
import type { Ruling } from '../ruling/ruling';
import { value } from '../quantity/figure';
import { counted } from '../quantity/counted';

/** What an electronic load is told. */
export interface BenchOrder {
  /** Constant current, A. */
  readonly amperes: number;
  /** Volts of the pack at which it stops, V. */
  readonly cutOff: number;
  /** Cells in series. */
  readonly series: number;
}

/** One moment of a test. */
export interface BenchRow {
  /** Since it began. */
  readonly seconds: number;
  readonly volts: number;
  readonly amperes: number;
  /** Where the load has a probe on the pack. */
  readonly celsius: number | null;
}

/** How a test ended, in words with what to do; whole where it ran down to its cut-off. */
export interface BenchEnd {
  readonly whole: boolean;
  /** Does the load say that it is off? */
  readonly off: boolean;
  readonly words: string;
}

/**
 * What a test is kept to. A fifth of the rated capacity an hour is how packs are rated (IEC 61960-3, from memory); the rest is common
 * practice, no source.
 */
export const BENCH = {
  usualRate: 0.2,
  mostRate: 0.5,
  leastAmperes: 0.05,
  /** Volts a cell. */
  cutOff: { usual: 3, least: 2.8, most: 3.5 },
  /** At a pack's surface, from which it stops, °C. */
  hot: 45,
  /** The load switches itself off when nobody speaks to it for so long, s. */
  loadWaits: 20,
  /** Rows before the current flows and after it stopped: resistance is told by the steps. */
  restRows: { before: 3, after: 30 },
  everyMs: 1000,
  mostHours: 24,
} as const;

/** Why no test is begun on a pack; empty where one may be. Danger, doubt and what nobody said all end here. */
export function benchRefusals(r: Pick<Ruling, 'judgement' | 'shipping'>): string[] {
  const { condition, nature } = r.judgement;
  if (condition !== 'sound' && condition !== 'spent')
    return [
      `It is ${condition}: no current is drawn from it. ${condition === 'unproven' ? 'Look at it and measure it first.' : ''}`.trim(),
    ];
  return [
    ...(nature.lithium ? [] : ['Only lithium-ion packs are tested so: its label does not say that it is one.']),
    ...(r.shipping.series === undefined ? ['Its cells in series are not known: take its label, or its cells.'] : []),
    ...(ratedAmpereHours(r) === null ? ['Its rated capacity is not known: take its label.'] : []),
  ];
}

/** Rated capacity, Ah, where the label is sure of it. */
function ratedAmpereHours({ judgement }: Pick<Ruling, 'judgement'>): number | null {
  const { ratedCapacity, ratedEnergy, nominalVoltage } = judgement.label.sure;
  if (ratedCapacity && value(ratedCapacity) > 0) return value(ratedCapacity);
  return ratedEnergy && nominalVoltage && value(nominalVoltage) > 0 && value(ratedEnergy) > 0
    ? value(ratedEnergy) / value(nominalVoltage)
    : null;
}

/** A whole number of hundredths, for a display. */
const hundredths = (x: number, to: (y: number) => number): number => to(x * 100 + (to === Math.floor ? 1e-9 : -1e-9)) / 100;

/** The usual order for a pack: a fifth of its capacity, down to three volts a cell; null where {@link benchRefusals} says why not. */
export function usualOrder(r: Pick<Ruling, 'judgement' | 'shipping'>): BenchOrder | null {
  const [capacity, { series }] = [ratedAmpereHours(r), r.shipping];
  if (capacity === null || series === undefined || benchRefusals(r).length > 0) return null;
  const amperes = Math.max(BENCH.leastAmperes, hundredths(capacity * BENCH.usualRate, Math.floor));
  return { amperes, cutOff: hundredths(series * BENCH.cutOff.usual, Math.round), series };
}

/** Hours after which a test is over at the latest: all of the rated capacity, and a tenth. @param amperes within {@link orderTroubles}. */
export const benchHours = (r: Pick<Ruling, 'judgement'>, amperes: number): number =>
  Math.min(BENCH.mostHours, (1.1 * (ratedAmpereHours(r) ?? 0)) / amperes);

/** Has its current flowed? */
export const isDrawn = (rows: readonly BenchRow[], { amperes }: Pick<BenchOrder, 'amperes'>): boolean =>
  rows.some((r) => r.amperes > amperes / 2);

/** What of an order lies outside what a pack is given; empty where all is within. */
export function orderTroubles(
  r: Pick<Ruling, 'judgement' | 'shipping'>,
  asked: Pick<BenchOrder, 'amperes' | 'cutOff'>,
): string[] {
  const [capacity, { series }] = [ratedAmpereHours(r), r.shipping];
  if (capacity === null || series === undefined) return benchRefusals(r);
  const most = Math.max(BENCH.leastAmperes, hundredths(capacity * BENCH.mostRate, Math.floor));
  const [low, high] = [hundredths(series * BENCH.cutOff.least, Math.ceil), hundredths(series * BENCH.cutOff.most, Math.floor)];
  const within = (x: number, lo: number, hi: number) => x >= lo - 1e-9 && x <= hi + 1e-9;
  return [
    ...(within(asked.amperes, BENCH.leastAmperes, most)
      ? []
      : [`The current is ${BENCH.leastAmperes} to ${most} A for this pack.`]),
    ...(within(asked.cutOff, low, high) ? [] : [`It stops between ${low} and ${high} V: ${counted(series, 'cell')} in series.`]),
  ];
}

/** What the load answered, or why it did not. */
class LoadFault extends Error {}

/** Questions and orders to a load, one after another. */
class Load {
  constructor(private readonly wire: InstrumentWire) {}

  async ask(question: string): Promise<string> {
    await this.wire.send(`${question}\n`);
    const line = await this.wire.next();
    if (line === null) throw new LoadFault(SILENT);
    return line.trim();
  }

  /** @throws LoadFault where it sends anything but a plain number in range: an overload, no number, words. */
  async number(question: string): Promise<number> {
    const said = await this.ask(question);
    const digits = plainDigits(said);
    if (digits === null) throw new LoadFault(`it answered "${said.slice(0, 40)}", which is no reading: look at its display`);
    return Number(digits);
  }

  /** Gives an order and asks whether it was understood. @throws LoadFault with `otherwise` where it was not. */
  async order(text: string, otherwise: string): Promise<void> {
    await this.wire.send(`${text}\n`);
    const said = await this.ask('SYST:ERR?');
    if (!/^[+-]?0\b/.test(said)) throw new LoadFault(`${otherwise} (${said.slice(0, 60)})`);
  }

  /** What its probe shows; null where it has none, and says so, or nothing at all. */
  async celsius(): Promise<number | null> {
    await this.wire.send('MEAS:TEMP?\n');
    const digits = plainDigits((await this.wire.next())?.trim() ?? '');
    return digits === null ? null : Number(digits);
  }

  /** Switches it off, whatever happened. @returns whether it says that it is. */
  async off(): Promise<boolean> {
    try {
      await this.wire.send('INP OFF\n');
      return /^(0|OFF)$/i.test(await this.ask('INP?'));
    } catch {
      return false;
    }
  }
}

const STILL_ON = 'It does not say that it is off: look at its display, and take the lead off if it still draws.';

/** Why the next row ends a test; null where it goes on. */
function endOf(row: BenchRow, before: BenchRow | undefined, o: BenchOrder): Omit<BenchEnd, 'off'> | null {
  const stopped = (words: string) => ({ whole: false, words });
  if (row.celsius !== null && row.celsius >= BENCH.hot)
    return stopped(
      `${row.celsius.toFixed(0)} °C on the pack: stopped. Keep away, look at it from outside, and record what you see.`,
    );
  // The protection opens, or a lead comes off: volts and current fall away together, and that is no cut-off.
  const away = row.amperes < o.amperes / 2;
  if (away && (row.volts <= o.cutOff || (before !== undefined && before.amperes < o.amperes / 2)))
    return stopped('The current fell away before the cut-off: its protection opened, or a lead came off. Measure the cells.');
  if (row.volts <= o.cutOff) return { whole: true, words: `Down to ${o.cutOff} V.` };
  if (row.seconds > BENCH.mostHours * 3600) return stopped(`Stopped after ${BENCH.mostHours} hours.`);
  return null;
}

/**
 * Runs a discharge at constant current on an electronic load that speaks SCPI: `CURR`, `INP`, `INP?`, `MEAS:VOLT?`, `MEAS:CURR?` (SCPI-99,
 * volume 2, from memory), and `INP:TIM seconds`, its own time-out, for which no standard has a word: a load that does not know it is not
 * started. It is switched off whatever happens; where the line breaks, its own time-out does it.
 * @param o within {@link orderTroubles}. @param told each row. @param stop asked between rows: why to stop, in words; null to go on. @param everyMs between two
 * rows.
 */
export async function runBenchTest(
  wire: InstrumentWire,
  o: BenchOrder,
  told: (row: BenchRow) => void,
  stop: () => string | null,
  everyMs: number = BENCH.everyMs,
): Promise<BenchEnd> {
  const load = new Load(wire);
  let mine = false;
  const began = wire.clock();
  let probe = false;
  const row = async (): Promise<BenchRow> => {
    const [volts, amperes] = [await load.number('MEAS:VOLT?'), await load.number('MEAS:CURR?')];
    const celsius = probe ? await load.celsius() : null;
    // A probe that was there and is silent says nothing of heat any more.
    if (probe && celsius === null) throw new LoadFault('its probe says nothing any more: look at the pack');
    const r = { seconds: Math.round(wire.clock() - began) / 1000, volts, amperes, celsius };
    told(r);
    return r;
  };
  const rest = async (rows: number) => {
    for (let i = 0; i < rows && stop() === null; i++) {
      await row();
      await wire.pause(everyMs);
    }
  };
  let end: BenchEnd | null = null;
  const ended = (e: Omit<BenchEnd, 'off'>, off: boolean): BenchEnd =>
    off ? { ...e, off } : { ...e, off, words: `${e.words} ${STILL_ON}` };
  try {
    await wire.send('*CLS\n');
    if (!/^(0|OFF)$/i.test(await load.ask('INP?'))) throw new LoadFault('it is on already: somebody uses it, or forgot it');
    probe = (await load.celsius()) !== null;
    // It complained of a question that it does not know.
    if (!probe) await wire.send('*CLS\n');
    const first = await row();
    if (first.celsius !== null && first.celsius >= BENCH.hot)
      throw new LoadFault(
        `${first.celsius.toFixed(0)} °C on the pack: keep away, look at it from outside, and record what you see`,
      );
    if (first.volts < 0) throw new LoadFault('the leads are the wrong way round');
    if (first.volts <= o.cutOff)
      throw new LoadFault(`it sees ${first.volts.toFixed(2)} V: are the leads on, and is this the pack?`);
    if (first.volts > o.series * 4.6)
      throw new LoadFault(`it sees ${first.volts.toFixed(2)} V, too much for ${counted(o.series, 'cell')}: another pack?`);
    await load.order(
      `INP:TIM ${BENCH.loadWaits}`,
      'it has no time-out of its own that is known here, so it is not started from here',
    );
    await load.order(`CURR ${o.amperes}`, 'it does not take this current');
    await rest(BENCH.restRows.before);
    const already = stop();
    if (already !== null) return { whole: false, off: true, words: already };
    mine = true;
    await load.order('INP ON', 'it does not start');
    let before: BenchRow | undefined;
    let over: Omit<BenchEnd, 'off'> | null = null;
    while (!over) {
      await wire.pause(everyMs);
      const why = stop();
      if (why !== null) over = { whole: false, words: why };
      else {
        const r = await row();
        over = endOf(r, before, o);
        before = r;
      }
    }
    mine = false;
    end = ended(over, await load.off());
    if (end.whole && end.off) await rest(BENCH.restRows.after);
    return end;
  } catch (e) {
    const off = !mine || (await load.off());
    if (!(e instanceof LoadFault)) throw e;
    // Rest that could not be watched to its end takes nothing from a test that ran down.
    if (end) return end;
    return ended({ whole: false, words: `${mine ? 'Stopped' : 'Not started'}: ${e.message}.` }, off);
  }
}

/** Switches a load off, whoever switched it on. @returns whether it says that it is. */
export const switchOff = (wire: InstrumentWire): Promise<boolean> => new Load(wire).off();

/** The rows as a log that any program reads. @param began ISO 8601 UTC. */
export function benchCsv(rows: readonly BenchRow[], began: string): string {
  const from = Date.parse(began);
  const probe = rows.some((r) => r.celsius !== null);
  return [
    `time,voltage V,current A${probe ? ',temperature C' : ''}`,
    ...rows.map((r) =>
      [
        new Date(from + r.seconds * 1000).toISOString(),
        r.volts.toFixed(3),
        r.amperes.toFixed(3),
        ...(probe ? [r.celsius === null ? '' : r.celsius.toFixed(1)] : []),
      ].join(','),
    ),
    '',
  ].join('\n');
}
