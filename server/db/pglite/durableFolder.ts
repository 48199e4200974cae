import { fsyncSync } from 'node:fs';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import type { PGlite } from '@electric-sql/pglite';

type EmscriptenOptions = Parameters<NodeFS['init']>[1];

/** The parts of the Emscripten module that a sync goes through. */
interface FileModule {
  NODEFS: { stream_ops: { fsync?: (stream: { nfd: number }) => number } };
  FS: { ErrnoError: new (errno: number) => Error };
}

/** EIO of the WebAssembly system interface: the only kind of error that the database takes for a failed sync. */
const EIO = 29;

/**
 * A data folder whose syncs reach the disk. The file system layer as it comes ignores fsync, so that a power
 * cut loses commits that were acknowledged.
 */
export class DurableFolder extends NodeFS {
  /** @param onFailure called once a sync has failed: nothing written after that can be trusted */
  constructor(
    folder: string,
    private readonly onFailure: (error: unknown) => void,
  ) {
    super(folder);
  }

  override async init(database: PGlite, options: EmscriptenOptions) {
    const { emscriptenOpts } = await super.init(database, options);
    const sync = (module: unknown) => {
      const { NODEFS, FS } = module as FileModule;
      NODEFS.stream_ops.fsync = ({ nfd }) => {
        try {
          fsyncSync(nfd);
          return 0;
        } catch (error) {
          this.onFailure(error);
          throw new FS.ErrnoError(EIO);
        }
      };
    };
    const before = emscriptenOpts.preRun;
    const preRun = typeof before === 'function' ? [before] : (before ?? []);
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...preRun, sync] } };
  }
}
