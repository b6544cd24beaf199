import { type ParseArgsConfig, parseArgs } from 'node:util';
import { Trouble } from './common';

const FLAG = { type: 'boolean' } as const;
const VALUE = { type: 'string' } as const;

interface Takes {
  readonly options?: NonNullable<ParseArgsConfig['options']>;
  readonly files?: true;
}

/** What each command takes besides its name. */
const TAKES: Readonly<Record<string, Takes>> = {
  start: { options: { demo: FLAG, own: FLAG, lan: FLAG, 'no-lan': FLAG } },
  export: { files: true },
  import: { files: true },
  backup: { files: true, options: { auto: FLAG, 'passphrase-file': VALUE } },
  restore: { files: true, options: { replace: FLAG, 'passphrase-file': VALUE } },
  classify: { files: true, options: { csv: FLAG } },
  plan: { files: true },
  log: { files: true, options: { rated: VALUE, cells: VALUE } },
  'read-label': { files: true },
  instruments: { options: { seed: VALUE, full: FLAG, fault: VALUE } },
  practice: { options: { packs: VALUE, seed: VALUE } },
  torture: { options: { seed: VALUE, seconds: VALUE, every: VALUE, packs: VALUE } },
  bench: { options: { lives: FLAG, packs: VALUE } },
  ...Object.fromEntries(
    ['stop', 'status', 'recover', 'reset-demo', 'rebuild', 'licences', 'scan', 'screenshots', 'test'].map((c) => [c, {}]),
  ),
};

/**
 * A slip of the fingers must not run something else than was meant.
 * @param args a command with what it was given. @throws Trouble where it takes no such thing.
 */
export function checkOptions([command = '', ...given]: readonly string[]): void {
  const takes = TAKES[command];
  // That there is no such command is said elsewhere.
  if (!takes) return;
  const { options = {}, files = false } = takes;
  try {
    parseArgs({ args: [...given], options, allowPositionals: files, strict: true });
  } catch (e) {
    const { code, message } = e as NodeJS.ErrnoException;
    const named = /'([^' ]+)/.exec(message)?.[1] ?? '';
    const wrong =
      code === 'ERR_PARSE_ARGS_INVALID_OPTION_VALUE' ? `${named} is not given as it is taken` : `${command} takes no ${named}`;
    throw new Trouble(`${wrong}: ./gavrel help shows what there is`);
  }
}
