import { type PolicyFacts, type Provision, REGION_RULES, counted } from '@gavrel/core';
import { writeList } from '@gavrel/core/batch';
import {
  declarationLines,
  draftBand,
  fromMemory,
  loadPoints,
  marksOf,
  RELIEF_POINTS,
  shippingName,
  waybillStatements,
} from '@gavrel/core/dispatch';
import type { ReportPaper } from '../../paper/draw';
import type { MarksPaper } from '../../paper/marks';
import type { ConsignmentView, PackageView } from './view';
import { contentsOf } from './view';
import { DESTINATION_WORDS, kgWords, MODE_WORDS, nameOf, packsWord } from './words';

/** Who sends and who gets it, each as lines of an address. */
export interface Parties {
  readonly from: readonly string[];
  readonly to: readonly string[];
}

/** One package as every paper tells it. */
export interface PackageData {
  readonly package: number;
  readonly box: string;
  /** Each UN number in it. */
  readonly goods: readonly { readonly un: string; readonly name: string; readonly netKg: number }[];
  readonly provision: string;
  readonly packs: readonly string[];
  readonly netKg: number;
  readonly grossKg: number | null;
  readonly seal: string;
}

const inside = (v: ConsignmentView): boolean => v.facts.placement === 'in-equipment';

function dataOf(v: ConsignmentView, p: PackageView): PackageData {
  // What left is told as it left.
  const { sent } = p;
  const netKg = sent?.netKg ?? p.ruled.netKg.hi;
  const goods = sent ? (sent.goods ?? (sent.un === undefined ? [] : [{ un: sent.un, netKg }])) : p.ruled.goods;
  const grossKg = sent ? (sent.grossKg ?? null) : p.ruled.grossKg;
  return {
    package: p.number,
    box: v.means.boxes.find((b) => b.id === p.box)?.name ?? '',
    goods: goods.map((g) => ({ ...g, name: shippingName(g.un, inside(v)) })),
    provision: (sent ? sent.provision : p.ruled.result.provision) ?? '',
    packs: contentsOf(p).map((id) => v.sendings.get(id)?.tag ?? '?'),
    netKg,
    grossKg,
    seal: p.closed?.seal ?? '',
  };
}

/** Fields of the shipper's declaration of what flies, and words of the air waybill before it leaves. */
function formsOf(v: ConsignmentView) {
  const packages = v.packages.flatMap((p) => {
    const kind = v.means.boxes.find((b) => b.id === p.box)?.kind;
    const packaging = kind === undefined ? 'package' : `${kind[0]!.toUpperCase()}${kind.slice(1)} box`;
    const data = dataOf(v, p);
    const marked = p.sent === null && p.ruled.result.batteryMark === true;
    return data.goods.map((g) => ({ ...data, ...g, packaging, marked }));
  });
  return { declaration: declarationLines(packages), waybill: waybillStatements(packages) };
}

/** The consignment as data: the same that the papers say. */
export const consignmentData = (v: ConsignmentView) => ({
  ...formsOf(v),
  consignment: nameOf(v.facts),
  destination: v.facts.destination ?? null,
  mode: tripOf(v).mode ?? null,
  region: tripOf(v).region,
  on: tripOf(v).on,
  packages: v.packages.map((p) => dataOf(v, p)),
});

const unWords = (d: PackageData): string => d.goods.map((g) => g.un).join('; ');

const HEAD = ['package', 'box', 'UN number', 'name', 'provision', 'tag', 'net kg of package', 'gross kg', 'seal'] as const;

/** One line a pack. */
export const listCsv = (v: ConsignmentView): string =>
  writeList(
    HEAD,
    v.packages
      .map((p) => dataOf(v, p))
      .flatMap((d) =>
        d.packs.map((tag) => [
          String(d.package),
          d.box,
          unWords(d),
          d.goods.map((g) => g.name).join('; '),
          d.provision,
          tag,
          d.netKg.toFixed(3),
          d.grossKg === null ? '' : d.grossKg.toFixed(3),
          d.seal,
        ]),
      ),
  );

/** The day, the way and the region it goes by; of what left, those it left by. */
export const tripOf = ({ facts, on, region }: ConsignmentView) => facts.sent ?? { on, region, mode: facts.mode };

const bandOf = (v: ConsignmentView, policy: Pick<PolicyFacts, 'checked'>): string | undefined => {
  const rules = [...new Set(v.packages.flatMap((p) => p.sent?.rules.map((r) => r.rule) ?? p.ruled.result.rules))];
  return draftBand(fromMemory(rules, tripOf(v).on, policy)) ?? undefined;
};

/** "2 of 3"; where a package between was emptied the highest number is not how many there are. */
const numberWords = (v: ConsignmentView, p: PackageView): string =>
  v.packages.some((x) => x.number > v.packages.length)
    ? `${p.number} (${v.packages.length} in all)`
    : `${p.number} of ${v.packages.length}`;

/** Marks of every package that may go as it is. */
export function marksPaper(
  v: ConsignmentView,
  { from, to }: Parties,
  sheet: MarksPaper['sheet'],
  policy: Pick<PolicyFacts, 'checked'>,
): MarksPaper {
  return {
    sheet,
    band: bandOf(v, policy),
    packages: v.packages
      .filter((p) => p.ruled.lawful && p.ruled.carry)
      .map((p) => ({
        title: `${nameOf(v.facts)}, package ${numberWords(v, p)}`,
        marks: marksOf(
          p.ruled.carry!,
          p.ruled.goods.map((g) => g.un),
          p.ruled.netKg.hi,
          inside(v),
        ),
        from,
        to,
      })),
  };
}

/** Several packages as one handling unit: the marks of all of them once, and the word for it (ADR/RID 5.1.2.1, ICAO TI 5;2.4.10: letters of 12 mm; from memory). */
export function overpackPaper(v: ConsignmentView, parties: Parties, policy: Pick<PolicyFacts, 'checked'>): MarksPaper {
  const each = marksPaper(v, parties, 'A4', policy);
  const all = new Map(each.packages.flatMap((p) => p.marks.map((m) => [JSON.stringify(m), m] as const)));
  return {
    ...each,
    packages: [
      {
        title: `${nameOf(v.facts)}, overpack of ${each.packages.length} packages`,
        marks: [{ kind: 'words', words: 'OVERPACK', letterMm: 12 }, ...all.values()],
        ...parties,
      },
    ],
  };
}

/** Goods of one description as a transport document lists them: UN number, name, class, number and kind of packages, quantity. */
export function documentLines(v: ConsignmentView): string[] {
  const groups = new Map<string, PackageData[]>();
  for (const d of v.packages.map((p) => dataOf(v, p))) {
    const key = `${unWords(d)} ${d.provision}`;
    groups.set(key, [...(groups.get(key) ?? []), d]);
  }
  const { mode, region } = tripOf(v);
  const tunnel = mode === 'road' && REGION_RULES[region].road === 'adr' ? ', (E)' : '';
  return [...groups.values()].flatMap((of) => {
    const [d] = of;
    const statement = d!.provision.startsWith('SP376') ? '; Transport in accordance with special provision 376' : '';
    const count = counted(of.length, 'package');
    return d!.goods.map(({ un, name }, i) => {
      const kg = of.reduce((sum, x) => sum + x.goods[i]!.netKg, 0);
      // A package is counted once, however many goods lie in it.
      const where = i === 0 ? count : `in the same ${count}`;
      return `${un} ${name}, 9${tunnel}; ${where}; ${kgWords(kg)} net${statement}`;
    });
  });
}

/** List by package, the data of the transport document, and who must be trained. */
export function documentPaper(
  v: ConsignmentView,
  parties: Parties,
  policy: Pick<PolicyFacts, 'checked'>,
  workshop: string,
): ReportPaper {
  const { on, mode, region } = tripOf(v);
  const packages = v.packages.map((p) => dataOf(v, p));
  const forms = formsOf(v);
  // What is asked for before it leaves is not asked again afterwards, by rules that may be others by then.
  const ahead = v.facts.sent ? [] : v.packages.flatMap((p) => p.ruled.carry ?? []);
  const papers = [...new Set(ahead.flatMap((c) => c.papers))];
  const trained = [...new Set(ahead.map((c) => c.trained).filter(Boolean))];
  const load = loadPoints(packages.map((d) => ({ provision: (d.provision || 'P903') as Provision, netKg: d.netKg })));
  const waste = v.facts.destination === 'recycler' || v.facts.destination === 'disposal';
  return {
    workshop,
    title: nameOf(v.facts),
    owner: '',
    date: `${mode ? `by ${MODE_WORDS[mode]}, ` : ''}dispatch on ${on}`,
    band: bandOf(v, policy),
    sections: [
      { title: 'Consignor', lines: parties.from },
      { title: 'Consignee', lines: parties.to.length > 0 ? parties.to : ['not said yet'] },
      { title: 'Goods', lines: documentLines(v) },
      { title: 'Papers asked for', lines: papers },
      {
        title: 'Shipper’s declaration, by field',
        lines: forms.declaration.map(
          (d) =>
            `${d.un}; ${d.name}; class ${d.class}; ${d.quantity}; packing instruction ${d.instruction}${d.authorization && `; authorization ${d.authorization}`}`,
        ),
      },
      { title: 'On the air waybill', lines: forms.waybill },
      ...(waste
        ? [
            {
              title: 'Waste',
              lines: [`to ${DESTINATION_WORDS[v.facts.destination!]}; the waste note goes with it`],
            },
          ]
        : []),
      ...(mode === 'road' && REGION_RULES[region].road === 'adr'
        ? [
            {
              title: 'In one vehicle',
              lines: [
                `${Math.round(load.points)} of ${RELIEF_POINTS} points (ADR 1.1.3.6): ${load.relief ? 'relieved' : load.why}`,
              ],
            },
          ]
        : []),
      ...packages.map((d) => {
        return {
          title: `Package ${d.package}${d.box ? `, ${d.box}` : ''}`,
          lines: [
            [
              unWords(d),
              d.provision,
              `${kgWords(d.netKg)} net`,
              d.grossKg === null ? '' : `${kgWords(d.grossKg)} gross`,
              d.seal && `seal ${d.seal}`,
            ]
              .filter(Boolean)
              .join(', '),
            `${packsWord(d.packs.length)}: ${d.packs.join(', ')}`,
          ],
        };
      }),
      { title: 'Trained', lines: trained },
    ],
    foot: 'Data for the transport document, not the form itself. It does not state that a pack is safe. A trained person, the carrier and local law decide.',
  };
}
