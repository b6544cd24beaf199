import { readFileSync } from 'node:fs';
import { isStrong, licenceList, licences } from '../../tools/licences';

test('nothing under a strong copyleft licence is delivered, and the list is of what is locked', () => {
  expect(licences().filter((p) => !p.dev && isStrong(p.licence))).toEqual([]);
  expect(
    licences()
      .filter((p) => isStrong(p.licence))
      .map((p) => p.name),
  ).toEqual(['hyperformula']);
  expect(licenceList()).toBe(readFileSync('docs/licences.md', 'utf8'));
  expect(['GPL-3.0-only', 'AGPL-3.0', 'GPL-2.0+', 'LGPL-3.0-or-later', '(BSD-3-Clause OR GPL-2.0)', 'MIT'].map(isStrong)).toEqual(
    [true, true, true, false, false, false],
  );
});
