import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const FOLDER = join(import.meta.dirname, 'migrations');
const sealed = JSON.parse(readFileSync(join(FOLDER, 'sealed.json'), 'utf8')) as Record<string, string>;
const files = readdirSync(FOLDER).filter((name) => name.endsWith('.sql'));
const hashOf = (name: string) =>
  createHash('sha256')
    .update(readFileSync(join(FOLDER, name)))
    .digest('hex');

it.each(files)(
  '%s stays as it ran in shops: what changes is a migration of its own, sealed by its hash',
  (name) => {
    expect(sealed[name]).toBe(hashOf(name));
  },
);

it('seals nothing that is not there', () => {
  expect(Object.keys(sealed)).toEqual(files);
});
