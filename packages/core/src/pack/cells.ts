import { judge, type Limit, type Verdict } from '../quantity/limit';

/** Volts per rested cell. Trade convention, no source. Each band includes its lower edge. */
export const CELL_VOLTS = { low: 2.5, deep: 2.0, severe: 1.5, overBy: 0.1 } as const;

/** Charge limit of a lithium-ion cell where none is known: the highest of the chemistry, V. Data sheet classes, from memory. */
export const HIGHEST_LIMIT = 4.5;

/** A pack that shows less than this at its terminals gives no output; that says nothing about its cells. */
export const NO_OUTPUT_VOLTS = 0.5;

export type CellCode = 'low-voltage' | 'deep-discharge' | 'deep-discharge-severe' | 'over-voltage' | 'reversed-cell';

/** Recorded hours below 2.0 V up to which a deep discharge can still be cleared (to `spent`). */
export const DWELL_HOURS = 24;

export interface CellJudgement {
  readonly codes: readonly CellCode[];
  /** True when a border is too close to tell. */
  readonly unclear: boolean;
  readonly limits: readonly Limit[];
}

interface CellInput {
  readonly volts: number;
  /** Expanded uncertainty, V. */
  readonly u: number;
  /** Charge limit per cell in V; null when unknown: then the highest of the chemistry counts. */
  readonly chargeLimit: number | null;
  /** Lowest charge limit that cannot be excluded, V; above it and its allowance it cannot be told. Default: the same. */
  readonly lowestLimit?: number | null;
  /** Recorded hours below 2.0 V; undefined when nobody knows. */
  readonly dwellHours?: number;
  readonly point: string;
  /** Volts the instrument moves for one volt of this cell: 1 for a tap, the cell count for a pack voltage. */
  readonly perReading?: number;
  readonly label?: string;
}

type Border = Pick<Limit, 'id' | 'limit' | 'side' | 'verdict' | 'beyond'>;

/** A border as it stands on the scale of a cell. */
const onScale = (c: CellInput, { id, limit, side, verdict, beyond }: Border): Limit => ({
  id,
  label: c.label ?? `cell ${c.point}`,
  unit: 'V',
  value: c.volts,
  u: c.u,
  limit,
  side,
  verdict,
  beyond,
  between: 'unproven',
  perReading: c.perReading ?? 1,
  readingUnit: 'V',
  decimals: 2,
  nature: 'observation',
  point: c.point,
});

/** What the borders say of one cell. Its scales are drawn only when somebody asks for them: of many readings one is shown. */
class JudgedCell implements CellJudgement {
  constructor(
    private readonly cell: CellInput,
    private readonly verdicts: { readonly low: Verdict; readonly deep: Verdict; readonly over: Verdict },
    private readonly highest: number,
    readonly codes: readonly CellCode[],
  ) {}

  get unclear(): boolean {
    const { low, deep, over } = this.verdicts;
    return low === 'cannot tell' || deep === 'cannot tell' || over === 'cannot tell';
  }

  get limits(): readonly Limit[] {
    const { low, deep, over } = this.verdicts;
    return [
      onScale(this.cell, { id: 'cell.low', limit: CELL_VOLTS.low, side: 'min', verdict: low, beyond: 'low-voltage' }),
      onScale(this.cell, { id: 'cell.deep', limit: CELL_VOLTS.deep, side: 'min', verdict: deep, beyond: 'deep-discharge' }),
      onScale(this.cell, { id: 'cell.over', limit: this.highest, side: 'max', verdict: over, beyond: 'over-voltage' }),
    ];
  }
}

/** Judges one cell voltage against the low and high borders, guarded by its uncertainty. */
export function judgeCell(c: CellInput): CellJudgement {
  const codes: CellCode[] = [];
  const low = judge(c.volts, c.u, CELL_VOLTS.low, 'min');
  const deep = judge(c.volts, c.u, CELL_VOLTS.deep, 'min');
  const severe = judge(c.volts, c.u, CELL_VOLTS.severe, 'min');
  if (c.volts + c.u < 0) codes.push('reversed-cell');
  if (deep === 'fail') {
    // Between soft and hard, what cannot be told counts as the worse: the cell is damaged either way.
    const soft = severe === 'pass' && c.dwellHours !== undefined && c.dwellHours <= DWELL_HOURS;
    codes.push(soft ? 'deep-discharge' : 'deep-discharge-severe');
  } else if (low === 'fail') codes.push('low-voltage');
  const highest = (c.chargeLimit ?? HIGHEST_LIMIT) + CELL_VOLTS.overBy;
  const limit = (c.lowestLimit ?? c.chargeLimit ?? HIGHEST_LIMIT) + CELL_VOLTS.overBy;
  let over: Verdict = judge(c.volts, c.u, highest, 'max');
  if (over === 'fail') codes.push('over-voltage');
  else over = judge(c.volts, c.u, limit, 'max') === 'pass' ? 'pass' : 'cannot tell';
  return new JudgedCell(c, { low, deep, over }, limit, codes);
}

/**
 * The lowest voltage one cell can have when only the pack was measured: V - (n - 1) x charge limit. It can say "low" or "not
 * excluded", never "pass".
 */
export function worstPossibleCell(packVolts: number, series: number, chargeLimit: number): number {
  return packVolts - (series - 1) * chargeLimit;
}
