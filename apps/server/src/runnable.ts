import { join } from 'node:path';

/** Folder of the compiled program, put in by `tools/compile.mjs`; not there where the sources run as they are. */
declare const COMPILED: string | undefined;

/** How a source of ours runs in a thread or process of its own: compiled where this program is, through the loader otherwise. */
export function runnable(source: string): { readonly file: string; readonly execArgv: string[] } {
  return typeof COMPILED === 'string'
    ? { file: join(process.cwd(), COMPILED, source.replace(/\.ts$/, '.js')), execArgv: ['--enable-source-maps'] }
    : { file: join(process.cwd(), source), execArgv: ['--import', 'tsx'] };
}
