import type { Provision } from './facts';

const WORDS: Partial<Record<Provision, string>> = {
  'SP376-P908': 'SP 376, P908',
  'SP376-P911': 'SP 376, P911',
  'SP377-P909': 'SP 377, P909',
  SP670a: 'SP 670(a)',
  SP670b: 'SP 670(b)',
  none: 'no provision',
};

/** A provision as the printed rules cite it: "PI 965, Section IB", "SP 188", "49 CFR 173.185(c)"; "no provision" without one. */
export function provisionWords(p: Provision | null): string {
  if (p === null) return 'no provision';
  const known = WORDS[p];
  if (known !== undefined) return known;
  if (p.startsWith('173.')) return `49 CFR ${p}`;
  const air = /^PI(\d{3})-(I[AB]?|II)$/.exec(p);
  if (air) return `PI ${air[1]}, Section ${air[2]}`;
  return p.replace(/^SP(\d)/, 'SP $1');
}
