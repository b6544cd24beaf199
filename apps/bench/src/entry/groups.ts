/** Signs that are swelling whatever the calliper says. */
export const SWELLING_SIGNS: readonly string[] = [
  'pillow shape',
  'light under a straightedge',
  'rocks on a flat plate',
  'a part is displaced',
];
