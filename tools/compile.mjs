/**
 * Compiles the server, its threads and the commands into tools/dist, so that a command starts in less than half the time and the computation
 * runs without the loader's wrappers. Plain JavaScript: it runs before anything of ours can. Ends with 1 where it cannot; the sources then
 * run as they are.
 */
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

const DIST = 'tools/dist';
const STAMP = join(DIST, 'stamp.json');
const ROOMS = ['packages/core', 'packages/contract', 'apps/server', 'tools'];
/** What runs as a process or thread of its own. */
const ENTRIES = [
  'tools/cli.ts',
  'tools/serve.ts',
  'tools/classify-worker.ts',
  'tools/practice-worker.ts',
  'apps/server/src/classify/worker.ts',
  'apps/server/src/log/due-worker.ts',
  'apps/server/src/projection/refresh-worker.ts',
];
/** Pieces of an earlier version stay this long for a server that still runs it, ms. */
const KEPT_MS = 7 * 86_400_000;

const hashOf = (bytes) => createHash('sha256').update(bytes).digest('hex');

function* files(folder) {
  for (const e of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, e.name);
    if (e.isDirectory()) {
      if (e.name !== 'node_modules' && e.name !== 'dist') yield* files(path);
    } else yield path;
  }
}

function sourceHash() {
  const hash = createHash('sha256').update(readFileSync('package-lock.json')).update(process.version);
  const sources = ROOMS.flatMap((room) => [...files(room)]).filter((f) => /\.(ts|mjs|json)$/.test(f) && !f.endsWith('.test.ts'));
  for (const f of sources.sort()) hash.update(f).update(readFileSync(f));
  return hash.digest('hex');
}

/** Is what was compiled of these sources there, whole? */
function isWhole(source) {
  try {
    const stamp = JSON.parse(readFileSync(STAMP, 'utf8'));
    return (
      stamp.source === source && Object.entries(stamp.files).every(([f, hash]) => hashOf(readFileSync(join(DIST, f))) === hash)
    );
  } catch {
    return false;
  }
}

/** Our own packages by the names they are imported by. */
function aliases() {
  const out = {};
  for (const room of ['packages/core', 'packages/contract', 'apps/server']) {
    const { name, exports } = JSON.parse(readFileSync(join(room, 'package.json'), 'utf8'));
    for (const [sub, file] of Object.entries(exports)) out[join(name, sub)] = join(process.cwd(), room, file);
  }
  return out;
}

function put(path, bytes) {
  mkdirSync(dirname(path), { recursive: true });
  const beside = `${path}.${process.pid}.new`;
  writeFileSync(beside, bytes);
  renameSync(beside, path);
}

function forgetOld(written) {
  for (const f of files(DIST)) if (!written.has(f) && Date.now() - statSync(f).mtimeMs > KEPT_MS) rmSync(f);
}

async function compile(source) {
  const { build } = await import('esbuild');
  const { outputFiles } = await build({
    entryPoints: ENTRIES,
    outdir: DIST,
    outbase: '.',
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: `node${process.versions.node}`,
    packages: 'external',
    alias: aliases(),
    define: { COMPILED: JSON.stringify(DIST) },
    sourcemap: 'linked',
    write: false,
    logLevel: 'error',
  });
  const written = new Set([STAMP]);
  const stamp = { source, files: {} };
  for (const { path, contents } of outputFiles) {
    const at = path.slice(process.cwd().length + 1);
    put(at, contents);
    written.add(at);
    stamp.files[at.slice(DIST.length + 1)] = hashOf(contents);
  }
  put(STAMP, JSON.stringify(stamp));
  forgetOld(written);
}

try {
  const source = sourceHash();
  if (!isWhole(source)) await compile(source);
} catch (e) {
  // A folder that cannot be written, say: the sources run as they are, only slower.
  if (process.env.GAVREL_DEBUG) process.stderr.write(`${e.stack}\n`);
  process.exitCode = 1;
}
