import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const INSTALLED = '/usr/lib/postgresql';

/** A PostgreSQL server of the tests' own, on a private socket. */
export interface PostgresServer {
  urlOf(database: string): string;
  stop(): Promise<void>;
}

/** The newest PostgreSQL that is installed. @throws Error when there is none */
function programs(): string {
  const versions = existsSync(INSTALLED)
    ? readdirSync(INSTALLED)
        .map(Number)
        .sort((a, b) => b - a)
    : [];
  if (!versions[0]) throw new Error("PostgreSQL is not installed (Debian's package postgresql).");
  return join(INSTALLED, String(versions[0]), 'bin');
}

/** PostgreSQL does not run as root; Debian's package brings a user for it. */
function otherUser(): { uid: number; gid: number } | undefined {
  if (process.getuid?.() !== 0) return undefined;
  const id = (kind: '-u' | '-g') => Number(execFileSync('id', [kind, 'postgres'], { encoding: 'utf8' }));
  return { uid: id('-u'), gid: id('-g') };
}

export async function startPostgres(): Promise<PostgresServer> {
  const bin = programs();
  const user = otherUser();
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-postgres-'));
  if (user) chownSync(folder, user.uid, user.gid);
  const options = {
    ...user,
    cwd: folder,
    stdio: 'pipe' as const,
    env: { ...process.env, LC_ALL: 'C.UTF-8' },
  };
  execFileSync(
    join(bin, 'initdb'),
    ['-D', join(folder, 'db'), '-U', 'postgres', '-A', 'trust', '-E', 'UTF8', '--no-sync'],
    options,
  );
  const settings = [
    "listen_addresses=''",
    `unix_socket_directories=${folder}`,
    'shared_buffers=64MB',
    'max_connections=60',
  ];
  const server = spawn(
    join(bin, 'postgres'),
    ['-D', join(folder, 'db'), ...settings.flatMap((one) => ['-c', one.replaceAll("'", '')])],
    options,
  );
  await untilReady(server);
  return {
    urlOf: (database) => `postgresql://postgres@localhost/${database}?host=${encodeURIComponent(folder)}`,
    stop: () =>
      new Promise((done) => {
        server.once('exit', () => {
          rmSync(folder, { recursive: true, force: true });
          done();
        });
        server.kill('SIGINT');
      }),
  };
}

function untilReady(server: ChildProcess): Promise<void> {
  return new Promise((resolve, reject) => {
    let said = '';
    server.stderr?.on('data', (text: Buffer) => {
      said += text.toString();
      if (said.includes('ready to accept connections')) resolve();
    });
    server.once('exit', () => reject(new Error(`PostgreSQL did not start:\n${said}`)));
  });
}
