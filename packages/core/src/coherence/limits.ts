/** Wh from volts times capacity may differ from the printed Wh by this share before the label contradicts itself: makers print typical beside rated figures. */
export const LABEL_APART = 0.06;
/** Share by which a stated net weight may differ from mass times count. */
export const NET_APART = 0.05;
/** Wh for each kg of a lithium-ion pack, least and most. */
export const WH_PER_KG = { lo: 50, hi: 320 } as const;
/** Volts over the charge limit of a cell from which it is over-voltage. */
export const OVER_BY = 0.1;
/** What adding up decimal fractions leaves behind. */
export const EPS = 1e-9;
