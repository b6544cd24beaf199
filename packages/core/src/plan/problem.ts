import type { BoxBody, Outline } from '../logbook/entry';
import type { Outcome, Provision, Route, ShippingFacts } from '../shipping/facts';

/** Packs that are alike in everything that counts. */
export interface PackKind {
  readonly id: string;
  /** How many, at least 1. */
  readonly count: number;
  /** Without a package: the plan makes it. `mass` in kg must be there. */
  readonly facts: ShippingFacts;
  readonly outline: Outline;
  /** What does not agree in its facts: it stays here until that is settled. */
  readonly odd?: string;
}

/** A box in stock. */
export interface Box {
  readonly id: string;
  readonly inner: Outline;
  readonly tareKg: number;
  readonly maxGrossKg: number;
  /** How many there are. */
  readonly stock: number;
  readonly price: number;
  /** Bears a UN packaging mark, and what it is made of; where nobody said, it serves for everything. */
  readonly un?: boolean;
  readonly kind?: BoxBody['kind'];
}

/** What is to be packed, into what, and how it travels. */
export interface PlanOrder {
  readonly kinds: readonly PackKind[];
  readonly boxes: readonly Box[];
  readonly route: Route;
  /** Left between packs, mm. */
  readonly gapMm: number;
  readonly fillKgPerBox: number;
  readonly price: { readonly perPackage: number; readonly perKg: number };
  readonly maxPackages?: number;
}

export interface PlannedPackage {
  readonly box: string;
  readonly contents: Readonly<Record<string, number>>;
  readonly netKg: number;
  readonly grossKg: number;
  readonly outcome: Outcome;
  readonly provision: Provision | null;
}

export interface Plan {
  readonly packages: readonly PlannedPackage[];
  /** What no way or no box is left for. */
  readonly left: readonly { readonly kind: string; readonly count: number; readonly why: string }[];
  readonly count: number;
  readonly price: number;
  /** No plan for the same packs has fewer packages, and none with as many is cheaper. */
  readonly bound: { readonly count: number; readonly price: number };
  /** True where count and price are those of the bound. */
  readonly proved: boolean;
}

/** How many packs of one outline lie in a box: layers of the better of the two turns, the height upright. */
export function capacityOf(outline: Outline, inner: Outline, gap: number): number {
  const along = (room: number, pack: number) => Math.floor((room + gap) / (pack + gap) + 1e-9);
  const layer = Math.max(
    along(inner.length, outline.length) * along(inner.width, outline.width),
    along(inner.length, outline.width) * along(inner.width, outline.length),
  );
  return Math.floor(inner.height / (outline.height + gap) + 1e-9) * layer;
}
