import { asRule, type Rule } from '../rules/rule';

/** Held by the same text since 2016; no end date, to be checked every year. */
const CFR = ['2016-01-01', null, '49 CFR as held 2026'] as const;

/** United States, highway and rail. From memory. */
// prettier-ignore
export const US_RULES: readonly Rule[] = [
  asRule('us.edition', '49 CFR as held in 2026: check it every year', '49 CFR', 'M', ...CFR),
  asRule('us.b', 'larger: fully regulated, packing group II packaging, class 9, papers', '49 CFR 173.185(b)', 'H', ...CFR),
  asRule('us.c', 'small: strong outer packaging, drop 1.2 m unless installed, battery mark; loose packages up to 30 kg gross and not by passenger aircraft', '49 CFR 173.185(c)', 'H', ...CFR, { grossKg: 30, textNetKg: 5 }),
  asRule('us.c-iv', 'highway and rail only: a cell up to 60 Wh, a battery up to 300 Wh', '49 CFR 173.185(c)(1)(iv)', 'H', ...CFR, { cellWh: 60, batteryWh: 300, cellG: 5, batteryG: 25, grossKg: 30 }),
  asRule('us.mark', 'watt-hours on the case of everything offered under (c)', '49 CFR 173.185(c)(3)', 'M', ...CFR),
  asRule('us.mark-battery', 'battery mark on every package; waived only for packs in equipment: button cells, or up to 4 cells or 2 batteries a package and 2 packages a consignment', '49 CFR 173.185(c)(3)', 'H', ...CFR, { cells: 4, batteries: 2, packages: 2 }),
  asRule('us.d', 'recycling or disposal by motor vehicle: strong outer packaging, no type test, no specification packaging; small ones by the conditions of (c), loose up to 30 kg gross', '49 CFR 173.185(d)', 'M', ...CFR),
  asRule('us.f', 'damaged, defective or recalled: one pack in each outer packaging of packing group I, own non-metallic inner, cushioning; highway, rail and vessel', '49 CFR 173.185(f)', 'H', ...CFR, { packs: 1 }),
  asRule('us.21c', 'liable to heat or react: not without a special permit', '49 CFR 173.21(c)', 'M', ...CFR),
];
