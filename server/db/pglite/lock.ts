import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { InUseError } from '../database.ts';

/** Thrown when another process works on the data folder. */
export class FolderInUseError extends InUseError {
  constructor(folder: string) {
    super(`Another Mondrel is running on ${folder}. Stop it first, or set MONDREL_DATA to another folder.`);
  }
}

/**
 * Makes this process the only one on a folder until it ends or releases it. On Linux the lock is an abstract
 * socket, which the system frees at once when the process dies; elsewhere it is a file with the process number.
 * @returns a function that releases the folder
 * @throws FolderInUseError
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  return process.platform === 'linux' ? lockBySocket(folder) : lockByFile(folder);
}

function lockBySocket(folder: string): Promise<() => Promise<void>> {
  const name = createHash('sha256').update(realpathSync(folder)).digest('hex').slice(0, 32);
  const server = createServer((socket) => socket.destroy());
  return new Promise((resolve, reject) => {
    server.once('error', (error) => {
      reject('code' in error && error.code === 'EADDRINUSE' ? new FolderInUseError(folder) : error);
    });
    server.listen(`\0mondrel-${name}`, () => {
      server.unref();
      resolve(() => new Promise((done) => server.close(() => done())));
    });
  });
}

async function lockByFile(folder: string): Promise<() => Promise<void>> {
  const file = join(folder, 'owner.pid');
  try {
    writeFileSync(file, String(process.pid), { flag: 'wx' });
  } catch {
    if (isRunning(Number(readFileSync(file, 'utf8')))) throw new FolderInUseError(folder);
    writeFileSync(file, String(process.pid));
  }
  return async () => rmSync(file, { force: true });
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
