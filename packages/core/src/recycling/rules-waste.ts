import { asRule, type Rule, Rulebook } from '../rules/rule';

const EU = 'Regulation (EU) 2023/1542';
const CFR = '40 CFR 273';

/** Edition in which lithium waste is hazardous. */
export const NEW_LIST = 'list of waste 2025';

/** Waste rules held. From memory; codes of the list of waste are to be looked up where the certainty is L. */
// prettier-ignore
export const WASTE_RULES: readonly Rule[] = [
  asRule('waste.us.handler', 'universal waste: under 5,000 kg on site a small handler, from 5,000 kg a large one with an EPA id and records for 3 years', `${CFR}.9, .32, .39`, 'H', null, null, CFR, { kg: 5000, recordYears: 3 }),
  asRule('waste.us.clock', 'one year from the day it became waste, and the day can be shown', `${CFR}.15`, 'H', null, null, CFR, { years: 1 }),
  asRule('waste.us.label', 'labelled "Universal Waste—Battery(ies)", "Waste Battery(ies)" or "Used Battery(ies)"', `${CFR}.14(a)`, 'H', null, null, CFR),
  asRule('waste.us.damaged', 'damaged ones in a closed, sound container; a breached cell leaves the regime', `${CFR}.13(a)`, 'H', null, null, CFR),
  asRule('waste.eu.portable', 'portable battery: sealed, up to 5 kg; take-back by distributors', `${EU} Art. 3, 62`, 'H', '2025-08-18', null, EU, { kg: 5 }),
  asRule('waste.eu.removable', 'portable batteries can be removed by the user', `${EU} Art. 11`, 'H', '2027-02-18', null, EU),
  asRule('waste.eu.efficiency', 'lithium batteries are recycled to 65 % of their mass', `${EU} Annex XII`, 'H', '2025-12-31', '2030-12-30', EU, { percent: 65 }),
  asRule('waste.eu.efficiency', 'lithium batteries are recycled to 70 % of their mass', `${EU} Annex XII`, 'H', '2030-12-31', null, EU, { percent: 70 }),
  asRule('waste.eu.recovery', 'recovered: Co, Cu, Ni, Pb 90 %, Li 50 %', `${EU} Annex XII`, 'H', '2027-12-31', '2031-12-30', EU, { cobalt: 90, lithium: 50 }),
  asRule('waste.eu.recovery', 'recovered: Co, Cu, Ni, Pb 95 %, Li 80 %', `${EU} Annex XII`, 'H', '2031-12-31', null, EU, { cobalt: 95, lithium: 80 }),
  asRule('waste.eu.code', 'list of waste 16 06 05 or, from households, 20 01 34', 'Decision 2000/532/EC', 'H', null, '2026-11-08', 'list of waste'),
  asRule('waste.eu.code', 'list of waste: lithium ones are hazardous, recalled as 16 06 07* or, from households, 20 01 42*; look the digits up', 'Decision (EU) 2025/934', 'L', '2026-11-09', null, NEW_LIST),
  asRule('waste.eu.carrier', 'who carries waste for others is registered or has a permit; who treats it has one', 'Directive 2008/98/EC Art. 23, 26', 'H', null, null, 'Directive 2008/98/EC'),
  asRule('waste.eu.note', 'hazardous waste goes with a document that identifies it, packed and labelled by the rules in force, and is not mixed with other waste', 'Directive 2008/98/EC Art. 18, 19', 'H', null, null, 'Directive 2008/98/EC'),
  asRule('waste.eu.records', 'hazardous waste: quantity, nature, origin and destination are recorded in order of time and kept 3 years', 'Directive 2008/98/EC Art. 35', 'H', null, null, 'Directive 2008/98/EC', { recordYears: 3 }),
  asRule('waste.eu.shipment', 'over a border: hazardous waste only after notification and the written consent of the authorities; other waste with the document of Annex VII', 'Regulation (EC) 1013/2006 Art. 3, 18', 'M', null, '2026-05-20', 'Regulation (EC) 1013/2006'),
  asRule('waste.eu.shipment', 'over a border: hazardous waste only after notification and the written consent of the authorities; other waste with the document of Annex VII', 'Regulation (EU) 2024/1157 Art. 4, 18', 'M', '2026-05-21', null, 'Regulation (EU) 2024/1157'),
  asRule('waste.uk.carrier', 'who carries waste is registered; a transfer note goes with it and is kept 2 years', 'Environmental Protection Act 1990 s. 34; SI 2011/988 reg. 35', 'M', null, null, 'SI 2011/988', { recordYears: 2 }),
  asRule('waste.uk.note', 'hazardous waste goes with a consignment note, kept 3 years', 'SI 2005/894 reg. 35 to 37, 49', 'M', null, null, 'SI 2005/894', { recordYears: 3 }),
  asRule('waste.uk.shipment', 'over a border: hazardous waste only after notification and consent; other waste with the document of Annex VII', 'Regulation (EC) 1013/2006 as kept in Great Britain; SI 2007/1711', 'M', null, null, 'SI 2007/1711'),
  asRule('waste.us.sent', 'universal waste goes to a handler or a destination facility that agreed to take it, without a manifest', `${CFR}.18, .38`, 'H', null, null, CFR),
  asRule('waste.us.export', 'export only after notice to EPA and the consent of the receiving country', `${CFR}.20, .40; 40 CFR 262 subpart H`, 'M', null, null, CFR),
  asRule('waste.uk.code', 'list of waste as before: 16 06 05 or, from households, 20 01 34', 'Decision 2000/532/EC as kept in Great Britain', 'M', null, null, 'list of waste'),
];

export const WASTE = new Rulebook(WASTE_RULES);
