import { spawn, spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from './build';
import { ROOT } from './common';

interface Count {
  passed: number;
  failed: number;
}

/** Runs one program, shows what it prints unless that is to come later, returns its output and exit code. */
function run(command: string, args: readonly string[], show = true): Promise<{ code: number; text: string }> {
  return new Promise((done) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, CI: 'true', FORCE_COLOR: '0', EXPO_NO_TELEMETRY: '1' },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let text = '';
    const take = (chunk: Buffer) => {
      text += chunk.toString();
      if (show) process.stdout.write(chunk);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('close', (code) => done({ code: code ?? 1, text }));
  });
}

const bin = (name: string) => join(ROOT, 'node_modules/.bin', name);

/** Checks that pass or fail as one; what they print comes whole, for they run side by side. */
async function check(name: string, command: string, args: readonly string[], count: Count): Promise<void> {
  const { code, text } = await run(command, args, false);
  process.stdout.write(`\n== ${name}\n${text}`);
  if (code === 0) count.passed += 1;
  else count.failed += 1;
}

/** Known holes of what ships; counted only where the registry answers such questions. */
async function audit(count: Count): Promise<void> {
  process.stdout.write('\n== audit\n');
  const { stdout } = spawnSync('npm', ['audit', '--omit=dev', '--json'], { cwd: ROOT, encoding: 'utf8', timeout: 60_000 });
  const asked = /\{[\s\S]*\}/.exec(stdout ?? '')?.[0] ?? '{}';
  const found = (JSON.parse(asked) as { metadata?: { vulnerabilities?: Record<string, number> } }).metadata?.vulnerabilities;
  if (!found) return void process.stdout.write('the registry answers no such question here: not counted\n');
  const bad = (found.high ?? 0) + (found.critical ?? 0);
  process.stdout.write(`${bad} high or critical, ${found.moderate ?? 0} moderate\n`);
  if (bad === 0) count.passed += 1;
  else count.failed += 1;
}

/** The application as it ships, built before a test waits for it. */
async function built(count: Count): Promise<void> {
  process.stdout.write('\n== build\n');
  try {
    await build((line) => process.stdout.write(`${line}\n`));
    count.passed += 1;
  } catch (e) {
    process.stdout.write(`${e instanceof Error ? e.message : String(e)}\n`);
    count.failed += 1;
  }
}

/** A Jest run: its own counts, and one failure more when it ended badly without saying a failed test. */
async function jest(name: string, projects: readonly string[], count: Count): Promise<void> {
  const began = performance.now();
  process.stdout.write(`\n== ${name}\n`);
  // A test that failed may leave a browser open: the run still ends, and says so.
  const plain = ['--ci', '--silent=false', '--verbose=false', '--forceExit', '--maxWorkers=2'];
  const { code, text } = await run(bin('jest'), ['--selectProjects', ...projects, ...plain]);
  process.stdout.write(`${name}: ${Math.round((performance.now() - began) / 1000)} s\n`);
  const line = /^Tests:\s+(.*)$/m.exec(text)?.[1] ?? '';
  const number = (word: string) => Number(new RegExp(`(\\d+) ${word}`).exec(line)?.[1] ?? 0);
  const failed = number('failed');
  count.passed += number('passed');
  count.failed += failed > 0 ? failed : code === 0 ? 0 : 1;
}

/** Everything that must hold before a change lands; the last line counts. */
export async function main(say: (line: string) => void): Promise<void> {
  const count: Count = { passed: 0, failed: 0 };
  const style = async () => {
    await check('lint', bin('eslint'), ['.', '--max-warnings', '0'], count);
    await check('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'], count);
  };
  await Promise.all([style(), check('types', 'npm', ['run', '--silent', 'types'], count)]);
  await audit(count);
  // Where nothing but the processor is shared two files run at a time.
  await jest('unit', ['unit', 'bench'], count);
  await built(count);
  // Each file has worlds of its own, and waits as long as it works: two run at a time, the longest first.
  await jest('server, two servers behind a proxy, outside, browser', ['server', 'pair', 'outside', 'browser'], count);
  say('');
  say(`${count.passed} passed, ${count.failed} failed`);
  if (count.failed > 0) process.exitCode = 1;
}
