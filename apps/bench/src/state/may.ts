import { whyNot } from '@gavrel/contract';
import type { Kind } from '@gavrel/core';
import { useAppSelector } from '.';

/** May whoever is signed in write this kind? A key that would be refused is not shown; the server goes by the same table. */
export const useMay = (kind: Kind): boolean =>
  useAppSelector((s) => {
    const person = s.session.session?.person;
    return person !== undefined && whyNot(kind, person) === null;
  });
