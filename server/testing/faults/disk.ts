import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const run = (program: string, ...args: string[]) => execFileSync(program, args, { stdio: 'pipe' });

/** Cuts the power of a mounted ext4 file system: what was not synced is gone (EXT4_IOC_SHUTDOWN, log not flushed). */
export function cutPower(mount: string): void {
  const script =
    "import fcntl,os,struct,sys\nfcntl.ioctl(os.open(sys.argv[1],os.O_RDONLY),0x8004587D,struct.pack('I',2))";
  run('python3', '-c', script, mount);
}

/** Whether this machine lets us mount a file system of our own. */
export function canMount(): boolean {
  if (process.platform !== 'linux' || process.getuid?.() !== 0) return false;
  const folder = mkdtempSync(join(tmpdir(), 'mondrel-mount-'));
  try {
    makeDisk(folder, 8);
    run('umount', join(folder, 'disk'));
    run('python3', '--version');
    return true;
  } catch {
    return false;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A file system of our own in a file, mounted below the folder. */
export function makeDisk(folder: string, megabytes: number): string {
  const image = join(folder, 'image');
  const mount = join(folder, 'disk');
  run('truncate', '-s', `${megabytes}M`, image);
  run('mkfs.ext4', '-q', image);
  mkdirSync(mount, { recursive: true });
  run('mount', '-o', 'loop', image, mount);
  return mount;
}
