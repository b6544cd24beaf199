/**
 * A second reading of the shipping rules, in tables: every possible completion of what is not known is looked up, and what comes out is
 * joined. Written from our notes on the texts (from memory), sharing no code with the program: ICAO TI / IATA DGR 2025 and 2026, ADR/RID 2025,
 * IMDG 42-24, 49 CFR 173.185.
 */
export type Answer = 'allowed' | 'split' | 'hold' | 'approval' | 'forbidden';
export interface Said {
  condition: string;
  outcome: Answer;
  provision: string | null;
  un: string | null;
  batteryMark: boolean | null;
}

/* eslint-disable @typescript-eslint/no-explicit-any -- facts come as any program may send them */
type Facts = any;
type Route = { mode?: string; region?: string; on: string };

const ORDER: Answer[] = ['allowed', 'split', 'hold', 'approval', 'forbidden'];

// Section 3, one line a class.
const CODES: Record<string, string> = {};
const classes: [string, string][] = [
  ['critical', 'smoke flame sparks hissing venting hot temperature-rising leaking swelling-growing container-smell'],
  [
    'hard',
    'swollen leaked vented smell punctured crushed cell-dented burn-mark discoloured immersed opened wrap-torn corrosion protection-damaged internal-short soft-short over-voltage reversed-cell deep-discharge-severe imbalance-severe',
  ],
  ['recall', 'safety-recall safety-notice'],
  [
    'soft',
    'case-dented dropped heat-exposed warm spill wet deep-discharge imbalance gauge-silent gauge-permanent-failure hot-while-charging container-alarm drifts in-incident',
  ],
  ['never cleared', 'cannot-examine'],
  ['unproven', 'low-voltage no-output recelled'],
  ['spent', 'worn-out unwanted expired'],
  ['grown', 'swelling-spent'],
];
for (const [cls, codes] of classes) for (const c of codes.split(' ')) CODES[c] = cls;

export function conditionOf(f: Facts): string {
  const codes: string[] = f.findings ?? [];
  const has = (cls: string) => codes.filter((c) => CODES[c] === cls);
  const cleared = (c: string) => f.cleared === true || (Array.isArray(f.cleared) && f.cleared.includes(c));
  if (has('critical').length > 0) return 'critical';
  if (codes.includes('smell') && ['wet', 'immersed', 'hot-while-charging', 'warm'].some((c) => codes.includes(c)))
    return 'critical';
  if (has('hard').length + has('never cleared').length > 0) return 'damaged';
  if (has('recall').length > 0 && f.makerCleared !== true) return 'damaged';
  if (has('soft').some((c) => !cleared(c))) return 'damaged';
  if (has('grown').length > 0 && f.policy?.swelling !== 'allowance') return 'damaged';
  if (has('unproven').length > 0 || codes.some((c) => !CODES[c])) return 'unproven';
  if (f.findings === undefined || f.conditionKnown === false) return 'unproven';
  if (has('spent').length + has('grown').length > 0 || codes.includes('deep-discharge')) return 'spent';
  return 'sound';
}

// Which editions are held on a day, and since when packs with equipment are bound to a charge.
const HELD: [string, string, string][] = [
  ['air', '2025-01-01', '2026-12-31'],
  ['road', '2025-01-01', '2027-06-30'],
  ['sea', '2025-01-01', '2027-12-31'],
  ['us', '2016-01-01', '9999-12-31'],
];
const held = (book: string, on: string) => HELD.some(([b, from, to]) => b === book && from <= on && on <= to);

// Section 4: net kg of a package. Light and full, on passenger and cargo aircraft.
const AIR: Record<string, [number, number | null, number | null, number, number]> = {
  'li-ion loose': [965, null, null, 10, 35],
  'li-ion with-equipment': [966, 5, 5, 5, 35],
  'li-ion in-equipment': [967, 5, 5, 5, 35],
  'li-metal loose': [968, null, null, 2.5, 35],
  'li-metal with-equipment': [969, 5, 5, 5, 35],
  'li-metal in-equipment': [970, 5, 5, 5, 35],
};
const suffix = (placement: string, small: boolean) => (placement === 'loose' ? (small ? '-IB' : '-IA') : small ? '-II' : '-I');

const near = (a: number, b: number) => Math.abs(a - b) < 1e-9 * Math.max(1, Math.abs(a));
const over = (a: number, limit: number) => a > limit && !near(a, limit);

interface Whole {
  f: Facts;
  energies: number[];
  grams: number | null;
  cell: boolean;
  cells: number;
  tested: string;
  marked: boolean;
  soc: number;
  placement: string;
  mode: string;
  condition: string;
  waste: boolean;
  packs: number;
  holds: number;
  net: number;
  gross: number;
}

/** A class of sizes: true inside, false over, null where two printed figures disagree. */
function inside(w: Whole, cellLimit: number, batteryLimit: number): boolean | null {
  const limit = w.cell ? cellLimit : batteryLimit;
  const sides = w.energies.map((e) => !over(e, limit));
  if (sides.some((s) => s !== sides[0])) return null;
  if (!sides[0]) return false;
  if (!w.cell && w.f.policy?.innerCellLimit && over(Math.max(...w.energies) / w.cells, cellLimit)) return false;
  return true;
}
function metalInside(w: Whole, cellLimit: number, batteryLimit: number): boolean {
  if (w.grams === null) return true;
  return w.grams <= (w.cell ? cellLimit : batteryLimit);
}

/** Section 7: is the battery mark on it? */
function mark(w: Whole): boolean {
  if (w.placement !== 'in-equipment') return true;
  if (w.f.buttonCell === true) return false;
  const packages = w.f.consignment?.packages;
  if (packages === undefined || packages > 2) return true;
  if (w.packs <= 2) return false;
  return !(w.cell && w.packs <= 4);
}

const latest = (madeOn?: string) =>
  !madeOn ? '9999' : madeOn.length === 10 ? madeOn : madeOn.length === 7 ? `${madeOn}-31` : `${madeOn}-12-31`;

type Line = [Answer, string | null, boolean?];
/** Several things may apply: the most severe is reported. */
const worst = (lines: Line[]): Line => lines.reduce((a, b) => (ORDER.indexOf(b[0]) > ORDER.indexOf(a[0]) ? b : a));

function air(w: Whole, on: string): Line {
  const metal = w.f.chemistry === 'li-metal';
  const [pi, passLight, passFull, cargoLight, cargoFull] = AIR[`${w.f.chemistry} ${w.placement}`]!;
  const passenger = w.mode === 'air-passenger';
  const size = metal ? metalInside(w, 1, 2) : inside(w, 20, 100);
  const named = `PI${pi}${suffix(w.placement, size === true)}`;
  const large = `PI${pi}${suffix(w.placement, false)}`;
  if (w.condition === 'damaged') return ['forbidden', 'A154'];
  if (passenger && w.placement === 'loose') return ['forbidden', named];
  if (w.waste) return ['approval', 'A183'];
  const with3 = w.placement === 'with-equipment';
  const excess = with3 ? w.packs - 3 * w.holds : 0;
  if (passenger && excess > 0) return ['forbidden', named];
  if (w.tested === 'no') return ['forbidden', null];
  const lines: Line[] = [];
  if ((w.f.findings ?? []).includes('recelled')) lines.push(['hold', null]);
  const exempt = with3 && w.energies.every((e) => !over(e, 2.7));
  const bound = !metal && (w.placement === 'loose' || (with3 && on >= '2026-01-01' && !exempt) || (excess > 0 && with3));
  if (bound && over(w.soc, 30)) lines.push(['approval', 'A331']);
  if (size === null) lines.push(['hold', large]);
  const made = latest(w.f.madeOn);
  // Both duties: SP 188 since 2009 for what would be small, SP 348 after 2011 for everything; not on single cells.
  if (!metal && size !== null && !w.cell && !w.marked && made >= (size ? '2009-01-01' : '2012-01-01'))
    lines.push(['hold', large]);
  if (lines.length > 0) return worst(lines);
  if (excess > 0) {
    const stay = Math.min(w.net, (w.net / w.packs) * 3 * w.holds);
    const light = size === true && !over(stay, cargoLight);
    return ['split', `PI${pi}${light ? '-II' : '-I'}`, light];
  }
  const lightLimit = passenger ? passLight! : cargoLight;
  if (size === true && (passenger || !over(w.net, lightLimit)))
    return [over(w.net, lightLimit) ? 'split' : 'allowed', named, mark(w)];
  const fullLimit = passenger ? passFull! : cargoFull;
  return [over(w.net, fullLimit) ? 'split' : 'allowed', large, false];
}

function land(w: Whole, mode: string): Line {
  const metal = w.f.chemistry === 'li-metal';
  if (w.condition === 'damaged') return [w.packs > 1 && over(w.net, 30) ? 'split' : 'allowed', 'SP376-P908', false];
  if (w.waste) return ['allowed', wasteProvision(w.f, mode, w.placement), false];
  if (w.tested === 'no') return ['forbidden', null];
  const size = metal ? metalInside(w, 1, 2) : inside(w, 20, 100);
  if ((w.f.findings ?? []).includes('recelled')) return ['hold', null];
  if (size === null) return ['hold', 'P903'];
  if (!metal && !w.cell && !w.marked && latest(w.f.madeOn) >= (size ? '2009-01-01' : '2012-01-01')) return ['hold', 'P903'];
  if (!size) return ['allowed', 'P903', false];
  return [w.placement === 'loose' && over(w.gross, 30) ? 'split' : 'allowed', 'SP188', mark(w)];
}

/** Collection is decided by what is stated: what is not is never assumed. */
function wasteProvision(f: Facts, mode: string, placement: string): string {
  const c = f.consignment ?? {};
  const scheme = c.collectionScheme === true && (c.netKgTransportUnit === undefined || c.netKgTransportUnit <= 333);
  if (mode === 'sea') return 'SP377-P909';
  if (placement === 'in-equipment') {
    if (c.household !== true) return 'SP377-P909';
    if (c.mainPower === false) return 'SP670a';
    return scheme ? 'SP670b' : 'SP377-P909';
  }
  const p = f.package ?? {};
  const mass = f.mass ?? (p.netKg !== undefined && p.packs !== undefined ? p.netKg / p.packs : undefined);
  if (!scheme || mass === undefined || over(mass, 0.5)) return 'SP377-P909';
  return statedSmall(f) === true ? 'SP636' : 'SP377-P909';
}

/** Small by what is stated alone; null where that does not settle it. */
function statedSmall(f: Facts): boolean | null {
  const ways = shapes(f).flatMap((s) =>
    f.chemistry === 'li-metal'
      ? grams(f).map((g) => metalInside({ ...blank(f), ...s, grams: g }, 1, 2))
      : energyGrid(f).map((e) => inside({ ...blank(f), ...s, energies: e }, 20, 100)),
  );
  return ways.every((x) => x === ways[0]) ? ways[0]! : null;
}

function us(w: Whole, mode: string): Line {
  const metal = w.f.chemistry === 'li-metal';
  if (w.condition === 'damaged') return [w.packs > 1 ? 'split' : 'allowed', '173.185(f)', false];
  if (w.waste && mode === 'road') return usWaste(w);
  if (w.tested === 'no') return ['forbidden', null];
  if ((w.f.findings ?? []).includes('recelled')) return ['hold', null];
  const small = metal ? metalInside(w, 1, 2) : inside(w, 20, 100);
  const middle = metal ? metalInside(w, 5, 25) : inside(w, 60, 300);
  const size = small === true ? 'c' : small === null ? null : middle === true ? 'c-iv' : middle === null ? null : 'b';
  if (size === null) return ['hold', '173.185(b)'];
  if (size === 'b') {
    if (!metal && !w.cell && !w.marked && latest(w.f.madeOn) >= '2012-01-01') return ['hold', '173.185(b)'];
    return ['allowed', '173.185(b)', false];
  }
  if (!metal && !w.cell && !w.marked) return ['hold', '173.185(b)'];
  return [
    w.placement === 'loose' && over(w.gross, 30) ? 'split' : 'allowed',
    size === 'c' ? '173.185(c)' : '173.185(c)(1)(iv)',
    mark(w),
  ];
}

/** (d): what is stated decides between the lighter conditions and "as a larger one". */
function usWaste(w: Whole): Line {
  const f = w.f;
  const metal = f.chemistry === 'li-metal';
  const known = metal ? f.lithiumContent !== undefined || f.buttonCell === true : energyStated(f);
  const sizes = !known
    ? [false]
    : shapes(f).flatMap((s) => {
        const x = { ...blank(f), ...s };
        if (metal) return grams(f).map((g) => metalInside({ ...x, grams: g }, 5, 25));
        // Each printed figure on its own: both lie in a class with the mark, or one does not.
        return energyGrid(f)[0]!.map(
          (e) => inside({ ...x, energies: [e] }, 60, 300) === true || inside({ ...x, energies: [e] }, 20, 100) === true,
        );
      });
  if (sizes.some((s) => s !== true)) return ['allowed', '173.185(d)', false];
  return [w.placement === 'loose' && over(w.gross, 30) ? 'split' : 'allowed', '173.185(d)', mark(w)];
}

const energyStated = (f: Facts) =>
  f.ratedEnergy !== undefined || (f.nominalVoltage !== undefined && f.ratedCapacity !== undefined);
const blank = (f: Facts): Whole =>
  ({ f, energies: [], grams: null, cell: false, cells: 1, tested: 'yes', marked: true, soc: 0 }) as unknown as Whole;

/** Energies that may be: both printed figures, or anything. */
function energyGrid(f: Facts): number[][] {
  const product =
    f.nominalVoltage !== undefined && f.ratedCapacity !== undefined
      ? (Math.round(f.nominalVoltage * 1000) * Math.round(f.ratedCapacity * 1e6)) / 1e9
      : undefined;
  const stated = [f.ratedEnergy, product].filter((x) => x !== undefined);
  return stated.length > 0
    ? [stated]
    : [0.5, 2.7, 2.71, 15, 20, 20.01, 59, 60, 60.01, 99, 100, 100.01, 250, 300, 300.01, 500, 2000].map((x) => [x]);
}
function grams(f: Facts): (number | null)[] {
  if (f.lithiumContent !== undefined) return [f.lithiumContent];
  return f.buttonCell === true ? [null] : [0.5, 1, 1.01, 2, 2.01, 5, 5.01, 25, 25.01, 90];
}
/** Cell or battery, and how many cells. */
function shapes(f: Facts): { cell: boolean; cells: number }[] {
  const list = (x: number | undefined) => (x !== undefined ? [x] : [1, 2, 3, 4, 5, 6, 15, 100, 1000]);
  const out = new Map<string, { cell: boolean; cells: number }>();
  for (const s of list(f.series))
    for (const p of list(f.parallel)) {
      const cell = s * p === 1 && !(f.nominalVoltage !== undefined && f.nominalVoltage > 4.5);
      if (s * p === 1 && !cell && f.series === undefined) continue;
      out.set(`${cell} ${s * p}`, { cell, cells: s * p });
    }
  return [...out.values()];
}

interface Package {
  packs: number;
  holds: number;
  net: number;
  gross: number;
}
const COUNTS = [1, 2, 3, 4, 5, 6, 7, 9, 12, 13, 40, 99, 300, 4000, 100000];
const KG = [0.0001, 1, 2.5, 2.51, 4.9, 5, 5.01, 9, 10, 10.01, 29, 30, 30.01, 35, 35.01, 80, 5000];

/** Every package that agrees with what is stated of it; what a question does not look at is left at one value. */
function packagesOf(f: Facts, looks: { holds: boolean; gross: boolean }): Package[] {
  const p = f.package ?? {};
  const fitted = p.fittedPacks ?? 0;
  const kinds = new Map<string, Package>();
  for (const n of packCounts(f))
    for (const net of netsOf(f, n)) {
      if (p.grossKg !== undefined && p.netKg === undefined && net >= p.grossKg) continue;
      const gross: number[] =
        p.grossKg !== undefined ? [p.grossKg] : looks.gross ? [...KG.filter((g) => g > net), net * 1.001 + 0.001] : [net];
      const equipment: number[] = p.equipment !== undefined ? [p.equipment] : COUNTS;
      const each: number[] = p.packsPerEquipment !== undefined ? [p.packsPerEquipment] : [1, 2, 3, 50];
      const takes = equipment.flatMap((e) => each.map((x) => e * x));
      const unit = p.equipment ?? p.packsPerEquipment ?? 1;
      const least = Math.ceil(fitted / unit) * unit;
      // Where not both are said, the machines may take just what is fitted.
      const open = p.equipment === undefined || p.packsPerEquipment === undefined;
      const holds = looks.holds
        ? [...new Set([...takes, ...(open && least > 0 ? [least] : [])])].filter((h) => h >= fitted)
        : [1];
      for (const g of gross)
        for (const h of holds) {
          const stay = (net / n) * 3 * h;
          // One of each kind: which limits it is over.
          const kind = [
            n > 1,
            n > 2,
            n > 4,
            n > 3 * h,
            stay > 5,
            g > 30,
            ...[2.5, 5, 10, 30, 35].map((x) => over(net, x)),
          ].join();
          if (!kinds.has(kind)) kinds.set(kind, { packs: n, holds: h, net, gross: g });
        }
    }
  return [...kinds.values()];
}

/** Net over mass settles how many packs there are; fitted packs are packs. */
function packCounts(f: Facts): number[] {
  const p = f.package ?? {};
  if (p.packs !== undefined) return [p.packs];
  const least = Math.max(1, p.fittedPacks ?? 0);
  if (p.netKg === undefined && f.mass !== undefined && p.grossKg !== undefined)
    return [...new Set([...COUNTS, least, Math.ceil(p.grossKg / f.mass) - 1])].filter(
      (n) => n >= least && n * f.mass < p.grossKg,
    );
  if (p.netKg === undefined || f.mass === undefined) return [...COUNTS.filter((n) => n >= least), least];
  const n = p.netKg / f.mass;
  const whole = Math.max(1, Math.round(n));
  const list = Math.abs(whole * f.mass - p.netKg) <= 0.05 * whole * f.mass ? [whole] : [Math.floor(n), Math.ceil(n)];
  return [...new Set(list.map((x) => Math.max(least, x)))];
}

function netsOf(f: Facts, packs: number): number[] {
  const stated = f.package?.netKg;
  const product = f.mass !== undefined ? f.mass * packs : undefined;
  if (stated === undefined) return product !== undefined ? [product] : KG;
  const apart = product !== undefined && f.package.packs !== undefined && Math.abs(stated - product) > 0.05 * product;
  return apart ? [stated, product!] : [stated];
}

/** Fitted and loose in one package is packed with equipment; so is more than the machines take. */
function placementsOf(f: Facts): string[] {
  const { packs, fittedPacks: fitted, equipment, packsPerEquipment: each } = f.package ?? {};
  if (packs !== undefined && fitted !== undefined && fitted > 0 && packs > fitted) return ['with-equipment'];
  const takes = equipment !== undefined && each !== undefined ? equipment * each : undefined;
  const spare = fitted === undefined && packs !== undefined && takes !== undefined && packs > takes;
  const said: string[] = f.placement === undefined ? ['loose', 'with-equipment', 'in-equipment'] : [f.placement];
  return said.map((x) => (x === 'in-equipment' && spare ? 'with-equipment' : x));
}

const UNS: Record<string, [string, string]> = { 'li-ion': ['UN 3480', 'UN 3481'], 'li-metal': ['UN 3090', 'UN 3091'] };

export function secondOpinion(f: Facts, route: Route): Said {
  const condition = conditionOf(f);
  const modes = route.mode ? [route.mode] : ['road', 'rail', 'sea', 'air-cargo', 'air-passenger'];
  const answers = modes.map((mode) => byMode(f, { ...route, mode }, condition));
  const first = answers[0]!;
  if (answers.every((a) => a.outcome === first.outcome && a.provision === first.provision && a.un === first.un))
    return { condition, ...first };
  if (answers.every((a) => ORDER.indexOf(a.outcome) >= 3)) {
    const asked = answers.find((a) => a.outcome === 'approval');
    return {
      condition,
      ...(asked ?? ruled('forbidden', null, first.un)),
      un: answers.every((a) => a.un === first.un) ? first.un : null,
    };
  }
  return {
    condition,
    outcome: 'hold',
    provision: null,
    un: answers.every((a) => a.un === first.un) ? first.un : null,
    batteryMark: null,
  };
}

type Ruled = Omit<Said, 'condition'>;
const ruled = (outcome: Answer, provision: string | null, un: string | null, batteryMark: boolean | null = null): Ruled => ({
  outcome,
  provision,
  un,
  batteryMark: outcome === 'allowed' || outcome === 'split' ? un !== null && (batteryMark ?? false) : null,
});

function byMode(f: Facts, route: Required<Pick<Route, 'mode'>> & Route, condition: string): Ruled {
  const { mode, on } = route;
  const flying = mode.startsWith('air');
  const american = route.region === 'us' && (mode === 'road' || mode === 'rail');
  const book = flying ? 'air' : mode === 'sea' ? 'sea' : american ? 'us' : 'road';
  const lithium = f.chemistry === undefined || f.chemistry in UNS;
  if (condition === 'critical') {
    const un = lithium ? UNS[f.chemistry ?? 'li-ion']![f.placement && f.placement !== 'loose' ? 1 : 0] : null;
    return ruled('forbidden', !lithium ? null : flying ? 'A154' : american ? '173.21(c)' : 'SP376-P911', un);
  }
  if (f.chemistry === 'none') return ruled('allowed', 'none', null, false);
  // Canada: no rules of road and rail held.
  if (route.region === 'ca' && (mode === 'road' || mode === 'rail')) return ruled('hold', null, null);
  if (!held(book, on)) return ruled('hold', null, null);
  if (f.chemistry === 'ni-mh') return nickel(f, mode, condition);
  if (!(f.chemistry in UNS)) return ruled('hold', null, null);
  if (condition === 'unproven' && (f.findings ?? []).some((c: string) => !CODES[c])) return ruled('hold', null, null);
  const examined = f.findings !== undefined && f.conditionKnown !== false;
  const rebuiltOnly =
    condition === 'unproven' &&
    examined &&
    (f.findings ?? []).filter((c: string) => CODES[c] === 'unproven').every((c: string) => c === 'recelled');
  const unknown = condition === 'unproven' && !rebuiltOnly;
  const conditions = unknown ? ['damaged', 'sound'] : [condition];
  const placements = placementsOf(f);
  const byPlacement = placements.map((placement) => {
    const each = conditions.map((c) => ({ c, r: everyWay(f, route, placement, c, american) }));
    if (!unknown) return each[0]!.r;
    const rs = each.map((x) => x.r);
    if (rs.every((x) => x.outcome === 'forbidden')) return { ...rs[1]! };
    if (rs.every((x) => ORDER.indexOf(x.outcome) >= 3)) return rs.find((x) => x.outcome === 'approval')!;
    return ruled('hold', null, rs[0]!.un);
  });
  const first = byPlacement[0]!;
  if (placements.length === 1) return first;
  if (byPlacement.every((x) => x.outcome === 'forbidden')) {
    const same = byPlacement.every((x) => x.provision === first.provision);
    return ruled('forbidden', same ? first.provision : null, null);
  }
  if (byPlacement.every((x) => ORDER.indexOf(x.outcome) >= 3))
    return ruled('approval', byPlacement.find((x) => x.outcome === 'approval')!.provision, null);
  return ruled('hold', null, null);
}

function nickel(f: Facts, mode: string, condition: string): Ruled {
  if (condition === 'unproven') return ruled('hold', null, null);
  if (condition === 'damaged' && mode.startsWith('air')) return ruled('hold', null, null);
  if (mode === 'sea' && f.buttonCell !== true && f.placement !== 'in-equipment') {
    const p = f.package ?? {};
    const count = Math.max(p.packs ?? 1, p.fittedPacks ?? 1);
    // Two weights that disagree are both tried.
    const nets =
      f.mass === undefined ? [p.netKg ?? 0] : p.packs === undefined && p.netKg !== undefined ? [p.netKg] : netsOf(f, count);
    const loads = (p.grossKg !== undefined ? [p.grossKg] : nets).map((kg) =>
      Math.max(f.consignment?.netKgTransportUnit ?? 0, kg * (f.consignment?.packages ?? 1)),
    );
    const heavy = loads.filter((x) => over(x, 100)).length;
    if (heavy === loads.length) return ruled('hold', null, f.placement === undefined ? null : 'UN 3496');
    if (heavy > 0) return ruled('hold', null, null);
  }
  return ruled('allowed', 'none', null, false);
}

/** Every completion of what is not known, looked up and joined. */
function everyWay(f: Facts, route: Route, placement: string, condition: string, american: boolean): Ruled {
  const mode = route.mode!;
  const flying = mode.startsWith('air');
  const un = UNS[f.chemistry]![placement === 'loose' ? 0 : 1];
  const waste = f.purpose !== undefined && f.purpose !== 'use';
  const metal = f.chemistry === 'li-metal';
  const tested = f.typeTested === 'yes' || f.typeTested === 'no' ? [f.typeTested] : ['yes', 'no'];
  const marked: boolean[] = metal ? [true] : f.energyMarked !== undefined ? [f.energyMarked] : [true, false];
  const socs: number[] = metal || !flying ? [0] : f.stateOfCharge !== undefined ? [f.stateOfCharge] : [0, 30, 30.01, 100];
  const wastes = flying && condition === 'spent' && !waste ? [false, true] : [waste];
  const base = { ...blank(f), placement, mode, condition };
  const packages = packagesOf(f, { holds: flying && placement === 'with-equipment', gross: !flying && placement === 'loose' });
  const lines = new Map<string, Line>();
  for (const [w, test, mark_, soc] of wastes.flatMap((x) =>
    tested.flatMap((y) => marked.flatMap((z) => socs.map((q) => [x, y, z, q] as const))),
  ))
    for (const size of sizesOf(f, metal))
      for (const pk of packages) {
        const whole: Whole = { ...base, ...size, ...pk, waste: w, tested: test, marked: mark_, soc };
        const line = flying ? air(whole, route.on) : american ? us(whole, mode) : land(whole, mode);
        lines.set(line.join(), line);
      }
  return joined(f, [...lines.values()], un);
}

type Size = Pick<Whole, 'energies' | 'grams' | 'cell' | 'cells'>;

/** One of each kind of size that what is stated allows. */
function sizesOf(f: Facts, metal: boolean): Size[] {
  const kinds = new Map<string, Size>();
  for (const shape of shapes(f))
    for (const e of metal ? [[]] : energyGrid(f))
      for (const g of metal ? grams(f) : [null]) {
        const size: Size = { ...shape, energies: e, grams: g };
        const w = { ...blank(f), ...size };
        const kind = metal
          ? [metalInside(w, 1, 2), metalInside(w, 5, 25), shape.cell]
          : [inside(w, 20, 100), inside(w, 60, 300), shape.cell, e.every((x) => !over(x, 2.7))];
        kinds.set(JSON.stringify(kind), size);
      }
  return [...kinds.values()];
}

const LARGE = /^P903$|^173\.185\(b\)$|-IA?$/;

function joined(f: Facts, lines: Line[], un: string | null): Ruled {
  const outcomes = lines.map((l) => l[0]);
  const provisions = [...new Set(lines.map((l) => l[1]))];
  const larger = provisions.find((p) => p !== null && LARGE.test(p)) ?? null;
  const only = provisions.length === 1;
  if (outcomes.every((o) => o === 'forbidden'))
    return ruled('forbidden', only ? provisions[0]! : provisions.includes(null) ? null : larger, un);
  if (outcomes.every((o) => ORDER.indexOf(o) >= 3)) return ruled('approval', lines.find((l) => l[0] === 'approval')![1], un);
  if (outcomes.every((o) => ORDER.indexOf(o) <= 1) && only)
    return ruled(
      outcomes.includes('allowed') ? 'allowed' : 'split',
      provisions[0]!,
      un,
      lines.some((l) => l[2] === true),
    );
  if (outcomes.every((o) => o === 'hold') && only) return ruled('hold', provisions[0]!, un);
  // While the type test is open nothing else is named; a size or mark that is open names the larger one.
  const untested = f.typeTested !== 'yes' && f.typeTested !== 'no' && outcomes.includes('forbidden');
  return ruled('hold', untested ? null : 'open', un);
}
