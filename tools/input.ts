import { readFileSync, statSync } from 'node:fs';
import { localDay } from '@gavrel/core';
import { decodeText, MAX_TABLE } from '@gavrel/core/batch';
import { fileGiven, Trouble } from './common';

/** The bytes of the file a command was given, or of standard input for `-`. @throws Trouble where there is none, or too much of it. */
export function inputBytes(args: readonly string[], command: string): Uint8Array {
  const file = args.slice(1).find((a) => a === '-' || !a.startsWith('--'));
  if (!file) throw new Trouble(`which file? ./gavrel ${command} FILE, or - for standard input`);
  if (file !== '-') {
    const size = statSync(fileGiven(file), { throwIfNoEntry: false })?.size;
    if (size === undefined) throw new Trouble(`there is no file ${file}`);
    if (size > MAX_TABLE.bytes) throw new Trouble(`${file} is larger than 100 MB: cut it into parts`);
  }
  return readFileSync(file === '-' ? 0 : fileGiven(file));
}

/** The same as text. @throws RangeError where it is in no Unicode. */
export const inputText = (args: readonly string[], command: string): string => decodeText(inputBytes(args, command));

/** The day it is where the command runs, YYYY-MM-DD: a day of dispatch is a local one. */
export const today = (): string => localDay(Intl.DateTimeFormat().resolvedOptions().timeZone, new Date());
