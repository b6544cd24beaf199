import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, Trouble } from './common';

interface Locked {
  readonly packages: Record<string, { readonly version?: string; readonly license?: string; readonly dev?: boolean }>;
}

export interface Licensed {
  readonly name: string;
  readonly version: string;
  readonly licence: string;
  /** Only tests and tools of ours need it: it is no part of what is delivered. */
  readonly dev: boolean;
}

/** Licences that ask for the source of whatever is delivered with them; a choice that has another way is none. */
export const isStrong = (licence: string): boolean => /(^|[^L])A?GPL/.test(licence) && !/ OR /.test(licence);

/** Every package of others that is locked, with its licence. @throws Trouble for one that says none. */
export function licences(): Licensed[] {
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8')) as Locked;
  return Object.entries(packages)
    .filter(([path]) => path.startsWith('node_modules/') && !path.startsWith('node_modules/@gavrel/'))
    .map(([path, p]) => ({
      name: path.replace(/.*node_modules\//, ''),
      version: p.version ?? '',
      licence: p.license ?? UNSAID[path.replace(/.*node_modules\//, '')] ?? '',
      dev: p.dev === true,
    }))
    .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.version < b.version ? -1 : 1));
}

/** Packages whose description names no licence, and what the file beside it says. */
const UNSAID: Readonly<Record<string, string>> = { exit: 'MIT' };

/** The list, as it stands in docs/licences.md. */
export function licenceList(): string {
  const all = licences();
  const without = all.filter((p) => p.licence === '');
  if (without.length > 0) throw new Trouble(`no licence is said by ${without.map((p) => p.name).join(', ')}: look into them`);
  const groups = (dev: boolean) => {
    const by = new Map<string, Set<string>>();
    for (const p of all.filter((x) => x.dev === dev))
      by.set(p.licence, (by.get(p.licence) ?? new Set()).add(`${p.name} ${p.version}`));
    return [...by]
      .sort((a, b) => b[1].size - a[1].size || (a[0] < b[0] ? -1 : 1))
      .map(([l, names]) => `- **${l}** (${names.size}): ${[...names].join(', ')}`);
  };
  return [
    '# Licences of what others wrote',
    '',
    'Made by `./gavrel licences` from the locked packages; a test holds it to them. No package under a strong copyleft licence is delivered.',
    'libvips (LGPL-3.0-or-later) comes as a library of its own that the server loads, unchanged; it may be replaced.',
    '',
    '## Delivered, and what builds it',
    '',
    ...groups(false),
    '',
    '## Needed by tests and tools only',
    '',
    'Of these `hyperformula` is under a strong copyleft licence (GPL-3.0-only): a spreadsheet engine that tests and the benchmark measure',
    'ourselves against. It is not delivered.',
    '',
    ...groups(true),
    '',
  ].join('\n');
}

/** Writes the list. */
export function main(say: (line: string) => void): void {
  writeFileSync(join(ROOT, 'docs/licences.md'), licenceList());
  say(`${licences().length} packages listed in docs/licences.md`);
}
