/** A column of a linear program: its cost and its entries, row by row. */
export interface Column {
  readonly cost: number;
  readonly entries: readonly number[];
}

const EPS = 1e-9;

/**
 * Revised simplex for `minimise c x, A x = b, x >= 0`, b >= 0, with columns that are made when they are asked for (Gilmore and Gomory 1961,
 * substance from memory). The basis and its inverse are kept, so that a new column costs one row operation a row.
 */
export class Master {
  readonly x: number[];
  private readonly basis: Column[];
  private readonly inverse: number[][];

  /** @param b right sides, none negative. @param start one column a row; together they are the unit matrix. */
  constructor(b: readonly number[], start: readonly Column[]) {
    this.x = [...b];
    this.basis = [...start];
    this.inverse = b.map((_, i) => b.map((__, j) => (i === j ? 1 : 0)));
  }

  get columns(): readonly Column[] {
    return this.basis;
  }
  get value(): number {
    return this.basis.reduce((sum, c, i) => sum + c.cost * this.x[i]!, 0);
  }
  /** The price of one more of each right side. */
  duals(): number[] {
    return this.inverse[0]!.map((_, j) =>
      this.basis.reduce((sum, c, i) => sum + (c.cost === 0 ? 0 : c.cost * this.inverse[i]![j]!), 0),
    );
  }

  /** Takes a column into the basis. @returns false where that cannot be done: nothing bounds it. */
  enter(column: Column): boolean {
    const m = this.x.length;
    const d = this.inverse.map((row) => {
      let sum = 0;
      for (let j = 0; j < m; j++) sum += row[j]! * column.entries[j]!;
      return sum;
    });
    let out = -1;
    let best = Infinity;
    for (let i = 0; i < m; i++) {
      if (d[i]! <= EPS) continue;
      const ratio = this.x[i]! / d[i]!;
      // Of equal ones the largest pivot: it keeps the inverse exact.
      if (ratio < best - EPS || (ratio < best + EPS && out >= 0 && d[i]! > d[out]!)) {
        best = Math.min(best, ratio);
        out = i;
      }
    }
    if (out < 0) return false;
    const step = Math.max(0, this.x[out]! / d[out]!);
    const pivot = this.inverse[out]!.map((v) => v / d[out]!);
    for (let i = 0; i < m; i++) {
      if (i === out) continue;
      this.x[i] = Math.max(0, this.x[i]! - step * d[i]!);
      const row = this.inverse[i]!;
      if (d[i] !== 0) for (let j = 0; j < m; j++) row[j]! -= d[i]! * pivot[j]!;
    }
    this.x[out] = step;
    this.inverse[out] = pivot;
    this.basis[out] = column;
    return true;
  }
}
