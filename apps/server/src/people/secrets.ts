import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { problem, ProblemError } from '../problem';

const estimator = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
/** Guesses a secret must stand by the estimator: our own figures. A PIN is tried five times and then waits; a passphrase may be stolen as a hash. */
const GUESSES = { passphrase: 1e8, pin: 5000 } as const;

/** The same text however its accents were typed. */
export const sameText = (secret: string): string => secret.normalize('NFC');

/** Argon2id with the library's defaults (memory-hard, salted). */
export const secretHash = (secret: string): Promise<string> => hash(sameText(secret));

export const fits = (passhash: string, secret: string): Promise<boolean> => verify(passhash, sameText(secret));

/**
 * Refuses a secret that is guessed quickly.
 * @param known words others know of the person: their name, the workshop's. @throws ProblemError 422 that says what to do.
 */
export function refuseWeak(what: keyof typeof GUESSES, secret: string, known: readonly string[]): void {
  const { guesses } = estimator.check(sameText(secret).slice(0, 100), [...known, ...known.flatMap((k) => k.split(/\s+/))]);
  if (guesses >= GUESSES[what]) return;
  const field = what === 'pin' ? 'pin' : 'fresh';
  throw new ProblemError(
    what === 'pin'
      ? problem(422, 'weak', 'This PIN is guessed quickly', 'No row, year, date or repeated digits.', [
          { field, detail: 'is guessed quickly' },
        ])
      : problem(422, 'weak', 'This passphrase is guessed quickly', 'Take three or four words that do not belong together.', [
          { field, detail: 'is guessed quickly' },
        ]),
  );
}
