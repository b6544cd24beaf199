import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { ROOT, Trouble } from './common';

const BENCH = join(ROOT, 'apps/bench');
export const DIST = join(BENCH, 'dist');
const MARK = join(DIST, '.built');

const NOT_SOURCE = ['node_modules', 'dist', '.expo', 'fonts'];

function* files(folder: string, without: readonly string[] = []): Generator<string> {
  for (const name of readdirSync(folder).sort()) {
    if (without.includes(name)) continue;
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* files(path, without);
    else yield path;
  }
}

/** One hash over everything that was built, so that a file that was lost, cut off or changed since is noticed. */
function builtHash(): string {
  const hash = createHash('sha256');
  for (const f of files(DIST)) if (f !== MARK) hash.update(f.slice(DIST.length)).update(readFileSync(f));
  return hash.digest('hex');
}

/** One hash over everything the application is made from. */
function sourceHash(): string {
  const hash = createHash('sha256');
  for (const folder of [BENCH, join(ROOT, 'packages')]) {
    for (const f of files(folder, NOT_SOURCE)) hash.update(f.slice(ROOT.length)).update(readFileSync(f));
  }
  return hash.update(readFileSync(join(ROOT, 'package-lock.json'))).digest('hex');
}

const COMPRESS = /\.(js|css|html|json|svg|ttf|map|wasm)$/;

/** The four faces that ship with the application, from their packages into the public folder. */
function fonts(): void {
  const to = join(BENCH, 'public/fonts');
  mkdirSync(to, { recursive: true });
  for (const family of ['Next', 'Mono']) {
    const from = join(ROOT, 'node_modules/@expo-google-fonts', `atkinson-hyperlegible-${family.toLowerCase()}`);
    for (const cut of ['400Regular', '700Bold']) {
      copyFileSync(join(from, cut, `AtkinsonHyperlegible${family}_${cut}.ttf`), join(to, `${family}_${cut}.ttf`));
    }
  }
}

/** The worker that keeps the whole application on a device: every file of it, fetched once, and again when it changed. */
async function keepable(): Promise<void> {
  // Slow to load, and needed only where something is built.
  const { generateSW } = await import('workbox-build');
  const { warnings } = await generateSW({
    swDest: join(DIST, 'sw.js'),
    globDirectory: DIST,
    globPatterns: ['**/*.{html,js,css,ttf,png,svg,json}'],
    globIgnores: ['metadata.json', 'sw.js', 'reader/**'],
    // Megabytes that only those need who read labels: kept from their first use on, and renewed behind it.
    runtimeCaching: [{ urlPattern: /\/reader\//, handler: 'StaleWhileRevalidate', options: { cacheName: 'reader' } }],
    maximumFileSizeToCacheInBytes: 20 * 1024 * 1024,
    // A name that holds its content's hash needs no other mark.
    dontCacheBustURLsMatching: /\/_expo\/static\//,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//, /^\/(healthz|readyz|metrics)$/],
    inlineWorkboxRuntime: true,
    sourcemap: false,
    // An open page goes on with its own version until a person changes over.
    skipWaiting: false,
    clientsClaim: true,
  });
  if (warnings.length > 0) throw new Trouble(`the application cannot be kept on a device: ${warnings[0]}`);
}

/** What reads labels and codes, with its own worker and what that loads: it is served with a policy of its own. */
async function reader(): Promise<void> {
  const to = join(DIST, 'reader');
  mkdirSync(to, { recursive: true });
  const { build: bundle } = await import('esbuild');
  await bundle({
    entryPoints: [join(BENCH, 'src/reader/reader.ts')],
    outfile: join(to, 'reader.js'),
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    alias: { '@gavrel/core/read-label': join(ROOT, 'packages/core/src/read-label/index.ts') },
    logLevel: 'error',
  });
  const files = {
    'tesseract.js/dist/worker.min.js': 'tesseract-worker.js',
    'tesseract.js-core/tesseract-core-simd-lstm.js': 'tesseract-core-simd-lstm.js',
    'tesseract.js-core/tesseract-core-simd-lstm.wasm': 'tesseract-core-simd-lstm.wasm',
    '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz': 'eng.traineddata.gz',
    'zxing-wasm/dist/reader/zxing_reader.wasm': 'zxing_reader.wasm',
  };
  for (const [from, name] of Object.entries(files)) copyFileSync(join(ROOT, 'node_modules', from), join(to, name));
}

/** Most that a first visit loads before anything stands, bytes of brotli: what only some screens need belongs in a file of its own. */
const FIRST_LOAD_MOST = 400_000;

/** @throws Trouble when the scripts of the page weigh more. */
function weigh(): void {
  const scripts = [...readFileSync(join(DIST, 'index.html'), 'utf8').matchAll(/<script src="\/([^"]+)"/g)].map((m) => m[1]!);
  const bytes = scripts.reduce((sum, f) => sum + statSync(join(DIST, `${f}.br`)).size, 0);
  if (bytes > FIRST_LOAD_MOST)
    throw new Trouble(
      `the first load is ${bytes} bytes of code, ${FIRST_LOAD_MOST} at most: load what was added later, see shell/later.ts`,
    );
}

/** Exports the application once and keeps it while nothing changed; writes the compressed copies last. */
export async function build(say: (line: string) => void): Promise<string> {
  const want = sourceHash();
  if (existsSync(MARK) && readFileSync(MARK, 'utf8') === `${want} ${builtHash()}`) return DIST;
  say('building the application (the first time two to three minutes)');
  rmSync(DIST, { recursive: true, force: true });
  fonts();
  const env = { ...process.env, EXPO_OFFLINE: '1', CI: '1', EXPO_NO_TELEMETRY: '1', NODE_ENV: 'production' };
  const r = spawnSync(
    process.execPath,
    [join(ROOT, 'node_modules/expo/bin/cli'), 'export', '-p', 'web', '--output-dir', 'dist'],
    { cwd: BENCH, env, encoding: 'utf8' },
  );
  const log = join(ROOT, 'var/build.log');
  writeFileSync(log, `${r.stdout}\n${r.stderr}`);
  if (r.status !== 0 || !existsSync(join(DIST, 'index.html')))
    throw new Trouble('the application did not build: see var/build.log');
  await reader();
  await keepable();
  for (const f of files(DIST)) {
    if (!COMPRESS.test(f)) continue;
    const bytes = readFileSync(f);
    writeFileSync(`${f}.gz`, gzipSync(bytes, { level: 9 }));
    writeFileSync(`${f}.br`, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 10 } }));
  }
  weigh();
  writeFileSync(MARK, `${want} ${builtHash()}`);
  return DIST;
}
