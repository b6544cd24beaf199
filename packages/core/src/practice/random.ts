/** Numbers that look random and are the same for the same seed. */
export interface Random {
  /** From 0 up to, not including, 1. */
  readonly unit: () => number;
  readonly between: (lo: number, hi: number) => number;
  readonly pick: <T>(all: readonly T[]) => T;
  readonly chance: (p: number) => boolean;
  /** Normally distributed, mean 0 (Box and Muller 1958). */
  readonly normal: (sigma: number) => number;
}

/** Mulberry32, a small generator in the public domain. */
export function randomOf(seed: number): Random {
  let a = seed >>> 0;
  const unit = () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const between = (lo: number, hi: number) => lo + (hi - lo) * unit();
  return {
    unit,
    between,
    pick: (all) => all[Math.floor(unit() * all.length)]!,
    chance: (p) => unit() < p,
    normal: (sigma) => sigma * Math.sqrt(-2 * Math.log(1 - unit())) * Math.cos(2 * Math.PI * unit()),
  };
}
