import { manufactureWord, packetErrorCode } from '../formats/smart-battery';
import type { Random } from './random';
import type { TruePack } from './world';

const BUS = { write: 0x16, read: 0x17 } as const;
const hex = (x: number): string => x.toString(16).toUpperCase().padStart(2, '0');

/** One register as its bytes come over the wire, with the packet error code behind them. */
function line(at: number, data: readonly number[]): string {
  return [at, ...data, packetErrorCode([BUS.write, at, BUS.read, ...data])].map(hex).join(' ');
}
const word = (at: number, x: number): string => {
  const whole = Math.max(0, Math.min(0xfffe, Math.round(x)));
  return line(at, [whole & 0xff, whole >> 8]);
};
const block = (at: number, text: string): string => line(at, [text.length, ...[...text].map((c) => c.charCodeAt(0))]);

/**
 * What the gauge of a simulated pack answers, register by register (Smart Battery Data Specification 1.1, from memory): its full charge a
 * little off, its charge as it counts it; a gauge that failed counts nonsense.
 */
export function registersOf(p: TruePack, r: Random): string {
  const failed = p.faults.includes('gauge failed');
  const full = p.ratedMah * (failed ? r.between(1.2, 3) : p.health * (1 + r.normal(0.01)));
  const left = Math.min(full, ((p.chargeOfRated / 100) * p.ratedMah * full) / (p.ratedMah * p.health));
  const cells = p.cells.map((v) => Math.round(v * 1000));
  return [
    word(0x03, 0),
    word(0x08, (p.surfaceC + 273.15) * 10),
    word(
      0x09,
      cells.reduce((a, b) => a + b, 0),
    ),
    word(0x0a, 0),
    word(0x0c, failed ? 40 : 2),
    word(0x0d, Math.min(100, (100 * left) / full)),
    word(0x0f, left),
    word(0x10, full),
    word(0x16, 0x00c0),
    word(0x17, (1 - p.health) * 1200),
    word(0x18, p.ratedMah),
    word(0x19, p.nominal * p.series * 1000),
    word(0x1a, 0x0031),
    word(0x1b, manufactureWord('2022-05-17')),
    word(0x1c, 4711),
    block(0x21, 'stand-in'),
    block(0x22, 'LION'),
    ...[0x3f, 0x3e, 0x3d, 0x3c].map((at, i) => word(at, cells[i] ?? 0)),
  ].join('\n');
}
