import type { LabelBody } from '../logbook/entry';
import { canonical } from '../logbook/ids';
import type { Statement } from '../logbook/fold';

export interface MergedLabel {
  /** Fields that stand undisputed. */
  readonly sure: LabelBody;
  /** Every value of every field, doubted ones too: what danger is judged on. */
  readonly all: LabelBody;
  /** Fields with more than one value, or in doubt: no evidence until a second person has confirmed one. */
  readonly disputed: readonly (keyof LabelBody)[];
}

const WORDS: Record<keyof LabelBody, string> = {
  chemistry: 'chemistry',
  nominalVoltage: 'nominal voltage',
  ratedCapacity: 'rated capacity',
  ratedEnergy: 'rated energy',
  limitedChargeVoltage: 'limited charge voltage',
  typeCode: 'type code',
  spareNumber: 'spare number',
  designation: 'designation',
  serial: 'serial number',
  series: 'cells in series',
  parallel: 'cells in parallel',
  madeOn: 'date of manufacture',
  energyMarked: 'watt-hours printed on the case',
};

/** A field of the label in words. */
export const labelWords = (field: keyof LabelBody): string => WORDS[field];

interface Stand {
  readonly value: unknown;
  sure: boolean;
  questioned: boolean;
  unconfirmed: boolean;
}

/** What a reading says of the label: how it was read is no field of it. */
function fieldsOf(body: LabelBody): LabelBody {
  const out: Record<string, unknown> = {};
  for (const k in WORDS) {
    const value = body[k as keyof LabelBody];
    if (value !== undefined) out[k] = value;
  }
  return out as LabelBody;
}

/**
 * Puts the label readings of a pack together; two that differ make a field disputed, whichever came first. A value that a waiting
 * correction leaves as it was is not in dispute.
 */
export function mergeLabels(labels: readonly Statement<LabelBody>[]): MergedLabel {
  const [only] = labels;
  if (only && labels.length === 1 && !only.doubted) {
    const said = fieldsOf(only.body);
    return { sure: said, all: said, disputed: [] };
  }
  const values = new Map<keyof LabelBody, Map<string, Stand>>();
  for (const l of labels) {
    for (const [k, value] of Object.entries(fieldsOf(l.body)) as [keyof LabelBody, unknown][]) {
      const at = values.get(k) ?? new Map<string, Stand>();
      const key = canonical(value);
      const stand = at.get(key) ?? { value, sure: false, questioned: false, unconfirmed: false };
      stand.sure ||= !l.doubted;
      stand.unconfirmed ||= l.unconfirmed;
      stand.questioned ||= l.doubted && !l.unconfirmed;
      at.set(key, stand);
      values.set(k, at);
    }
  }
  const sure: Record<string, unknown> = {};
  const all: Record<string, unknown> = {};
  const disputed: (keyof LabelBody)[] = [];
  for (const [k, at] of values) {
    const list = [...at.entries()].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, v]) => v);
    const first = list[0]!;
    all[k] = first.value;
    if (list.length === 1 && (first.sure || (first.questioned && first.unconfirmed))) sure[k] = first.value;
    else disputed.push(k);
  }
  return { sure: sure as LabelBody, all: all as LabelBody, disputed: disputed.sort() };
}
