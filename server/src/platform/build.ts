import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const CORE = fileURLToPath(new URL('../../../core/dist/', import.meta.url));

/** What the built core is, from its own text: what another core worked out is worked out anew. */
export const coreBuild: string = (() => {
  const hash = createHash('sha256');
  const files = (readdirSync(CORE, { recursive: true }) as string[]).filter((f) => f.endsWith('.js') && !f.endsWith('.test.js')).sort();
  for (const f of files) hash.update(f).update(readFileSync(join(CORE, f)));
  return hash.digest('hex').slice(0, 20);
})();
