import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Sources of the computation: conditions are judged by nothing else. */
const CORE = join(process.cwd(), 'packages/core/src');

function hashOfCore(): string {
  const hash = createHash('sha256');
  const files = readdirSync(CORE, { recursive: true, encoding: 'utf8' }).filter(
    (f) => f.endsWith('.ts') && !f.endsWith('.test.ts'),
  );
  for (const f of files.sort()) hash.update(f).update(readFileSync(join(CORE, f)));
  return hash.digest('hex');
}

/** Names the computation as it stands: what another one judged is judged anew, without anybody having to think of a version. */
export const PROGRAM = hashOfCore();
