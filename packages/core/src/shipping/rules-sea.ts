import { asRule, type Rule } from '../rules/rule';

const IMDG = ['2025-01-01', '2027-12-31', 'IMDG 42-24'] as const;

/** Sea, any region. Stowage and emergency schedules are notes, not decisions. From memory. */
// prettier-ignore
export const SEA_RULES: readonly Rule[] = [
  asRule('sea.edition', 'IMDG amendment 42-24 is held', 'IMDG 42-24', 'M', ...IMDG),
  asRule('sea.188', 'small: strong outer packaging, drop 1.2 m unless installed, loose packages up to 30 kg gross', 'IMDG SP 188', 'H', ...IMDG, { grossKg: 30 }),
  asRule('sea.903', 'large: fully regulated, packing group II packaging, class 9A label, dangerous goods declaration; EmS F-A, S-I, stowage A', 'IMDG P903', 'H', ...IMDG),
  asRule('sea.376', 'damaged: each pack in its own inner packaging, non-combustible fill, marked, class 9A; stowage category C, SW19', 'IMDG SP 376, P908', 'H', ...IMDG, { netKg: 30 }),
  asRule('sea.377', 'for recycling or disposal: P909, class 9A, declaration; no type test needed; stowage category C, SW19', 'IMDG SP 377, P909', 'H', ...IMDG, { grossKg: 30 }),
  asRule('sea.ni-mh', 'nickel-metal hydride at sea: no other provisions in equipment, as button cells, or up to 100 kg gross in a transport unit; above it UN 3496', 'IMDG SP 963', 'M', ...IMDG, { unitKg: 100 }),
];
