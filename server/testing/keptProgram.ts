import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';

declare global {
  /** The embedded database's program, compiled. */
  var databaseProgram: WebAssembly.Module | undefined;
}

/**
 * As long as somebody holds it, the engine of the language compiles the same program only once: every shop that a
 * test opens takes it as it is, and as quick as it has become.
 */
globalThis.databaseProgram ??= await WebAssembly.compile(
  await readFile(fileURLToPath(import.meta.resolve('@electric-sql/pglite/pglite.wasm'))),
);
