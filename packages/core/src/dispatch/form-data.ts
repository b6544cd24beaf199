/** A package as forms tell it. */
export interface FormPackage {
  readonly un: string;
  readonly name: string;
  readonly provision: string;
  /** "Fibreboard box". */
  readonly packaging: string;
  readonly netKg: number;
}

/** One line of the shipper's declaration, field by field (IATA DGR 8.1.6.9, ICAO TI 5;4.1; from memory). */
export interface DeclarationLine {
  readonly un: string;
  readonly name: string;
  readonly class: '9';
  readonly quantity: string;
  readonly instruction: string;
  readonly authorization: string;
}

interface Flown {
  readonly instruction: string;
  readonly section: string;
}

/** Packing instruction and section of a provision of the air; null of any other. */
function flown(provision: string): Flown | null {
  const found = /^PI(9\d\d)-(IA|IB|II|I)$/.exec(provision);
  return found && { instruction: found[1]!, section: found[2]! };
}

const grouped = (all: readonly FormPackage[]): FormPackage[][] => {
  const groups = new Map<string, FormPackage[]>();
  for (const p of all) {
    const key = `${p.un} ${p.provision} ${p.packaging} ${p.netKg.toFixed(2)}`;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  return [...groups.values()];
};

/**
 * What the declaration says of packages that need one: sections IA, IB and I. Packages of one sort and weight stand in one line.
 * @param netKg of each package, kg, shown to the hundredth.
 */
export function declarationLines(packages: readonly FormPackage[]): DeclarationLine[] {
  return grouped(packages.filter((p) => !['', 'II'].includes(flown(p.provision)?.section ?? ''))).map((of) => {
    const [p] = of;
    const { instruction, section } = flown(p!.provision)!;
    return {
      un: p!.un,
      name: p!.name,
      class: '9',
      quantity: `${of.length} ${p!.packaging}${of.length === 1 ? '' : ' each'} x ${p!.netKg.toFixed(2)} kg`,
      instruction,
      // The section is named where the instruction has two that need a declaration.
      authorization: section === 'IB' ? 'IB' : '',
    };
  });
}

const NATURE: Partial<Record<string, string>> = {
  '965': 'ion',
  '966': 'ion',
  '967': 'ion',
  '968': 'metal',
  '969': 'metal',
  '970': 'metal',
};

/** What the air waybill says of packages under Section II that bear the mark (ICAO TI PI 966, 967, 969, 970; from memory). */
export function waybillStatements(packages: readonly { readonly provision: string; readonly marked: boolean }[]): string[] {
  const said = packages.flatMap(({ provision, marked }) => {
    const f = flown(provision);
    const kind = f && NATURE[f.instruction];
    return marked && f?.section === 'II' && kind
      ? [`Lithium ${kind} batteries in compliance with Section II of PI${f.instruction}`]
      : [];
  });
  return [...new Set(said)];
}
