/** Characters that are misread for each other on worn labels, folded to one. Common practice, no source. */
const LOOK_ALIKE: Record<string, string> = { O: '0', Q: '0', I: '1', L: '1', B: '8', S: '5', Z: '2', G: '6' };

/** The code with case, spaces and dashes ignored. */
export function plainCode(code: string): string {
  return code.toUpperCase().replace(/[\s\-_.]/g, '');
}

/** The code with look-alike characters folded together, for matching only; never shown. */
export function foldedCode(code: string): string {
  return [...plainCode(code)].map((c) => LOOK_ALIKE[c] ?? c).join('');
}

export type CodeMatch =
  { readonly kind: 'exact' } | { readonly kind: 'forgiven'; readonly pairs: readonly string[] } | { readonly kind: 'none' };

/**
 * Does a typed code (or its beginning, for a partly legible one) match a known code? A match that needed forgiveness names
 * each pair of characters it took for the same.
 */
export function matchCode(typed: string, known: string): CodeMatch {
  const t = plainCode(typed);
  const k = plainCode(known);
  if (t === '' || t.length > k.length) return { kind: 'none' };
  const at = k.indexOf(t);
  if (at >= 0) return { kind: 'exact' };
  const start = foldedCode(known).indexOf(foldedCode(typed));
  if (start < 0) return { kind: 'none' };
  const pairs: string[] = [];
  for (let i = 0; i < t.length; i++) {
    const a = t[i] as string;
    const b = k[start + i] as string;
    if (a !== b) pairs.push(`${a} taken for ${b}`);
  }
  return { kind: 'forgiven', pairs };
}
