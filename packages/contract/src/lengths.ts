/** Longest texts an entry takes, in characters: forms say so while one types, the schemas refuse what is longer. */
export const LONGEST = {
  tag: 40,
  /** Of a person, a maker, a model, a supplier. */
  name: 80,
  /** Printed on a label. */
  typeCode: 60,
  designation: 40,
  /** A remark on one act. */
  note: 500,
  /** Why something is mended, taken back or signed. */
  reason: 500,
  /** What an owner says, as it was told or pasted from a letter. */
  story: 4000,
} as const;
