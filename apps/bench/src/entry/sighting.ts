/** Codes in sight of the camera: in how many pictures, when last, ms, and whether it was told. */
export type InSight = ReadonlyMap<string, { readonly times: number; readonly last: number; readonly told: boolean }>;

export const NOTHING_IN_SIGHT: InSight = new Map();

/** A code that nobody saw for so long is out of sight: seen again, it counts again. */
const OUT_OF_SIGHT_MS = 2000;

/** Pictures a code must stand in: a single one may be misread where the code carries no checksum. */
const PICTURES = 2;

/**
 * What one more picture says. A code that stays in sight is told once; of several only one at a time, so that each finds the screen as the
 * one before it left it.
 * @param at ms of a clock that never turns. @param alone of several none is told: nobody knows which is meant.
 * @returns the code to act on; null where there is none yet.
 */
export function sighted(
  before: InSight,
  codes: readonly string[],
  at: number,
  alone = false,
): { inSight: InSight; code: string | null } {
  const inSight = new Map([...before].filter(([, s]) => at - s.last < OUT_OF_SIGHT_MS));
  for (const c of new Set(codes)) {
    const known = inSight.get(c);
    inSight.set(c, { times: (known?.times ?? 0) + 1, last: at, told: known?.told ?? false });
  }
  const steady = (c: string) => inSight.get(c)!.times >= PICTURES && !inSight.get(c)!.told;
  const code = alone && new Set(codes).size > 1 ? null : (codes.find(steady) ?? null);
  if (code !== null) inSight.set(code, { ...inSight.get(code)!, told: true });
  return { inSight, code };
}
