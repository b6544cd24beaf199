import { type LabelBody, show } from '@gavrel/core';

/** What a label says, in a line. */
export const typeWords = (l: LabelBody): string =>
  [
    l.typeCode,
    ...[l.nominalVoltage, l.ratedCapacity, l.ratedEnergy].map((f) => f && show(f)),
    l.limitedChargeVoltage && `limit ${show(l.limitedChargeVoltage)}`,
    l.designation,
    l.chemistry,
  ]
    .filter(Boolean)
    .join(' · ');
