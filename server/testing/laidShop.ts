import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { v4 as newKey } from 'uuid';

const KEPT = 'dist/laid';

/**
 * Lays a shop's data down in a folder, or copies them from where they were kept when that was last done: they are the
 * same until what the built server is made of changes.
 * @param name what is laid down
 * @param to the folder, which does not exist yet
 */
export async function layOnce(
  name: string,
  to: string,
  lay: (folder: string) => Promise<void>,
): Promise<void> {
  const built = readFileSync('dist/server.built', 'utf8');
  const kept = join(KEPT, built, name);
  if (existsSync(kept)) return cpSync(kept, to, { recursive: true });
  await lay(to);
  mkdirSync(join(KEPT, built), { recursive: true });
  for (const old of readdirSync(KEPT))
    if (old !== built) rmSync(join(KEPT, old), { recursive: true, force: true });
  // Whole, or not at all; where somebody else was quicker, theirs.
  const fresh = join(KEPT, built, newKey());
  cpSync(to, fresh, { recursive: true });
  if (existsSync(kept)) rmSync(fresh, { recursive: true });
  else renameSync(fresh, kept);
}
