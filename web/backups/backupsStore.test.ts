import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { BackupFacts } from '../../contract/backups.ts';
import { ApiProblem } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBackupsStore } from './backupsStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => ({ hear: () => () => {} }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => ({ time: (at: string) => at.slice(0, 10) }) }));
const session = vi.hoisted(() => ({ may: vi.fn() }));
vi.mock('../staff/sessionStore.ts', () => ({ useSessionStore: () => session }));

const LAST = { name: 'mondrel-2026-03-01-200000.backup', at: '2026-03-01T20:00:00Z', bytes: 9e6 };
const is = (facts: Partial<BackupFacts>) =>
  net.read.mockResolvedValue({
    folder: '/backups',
    kept: 14,
    files: [LAST],
    running: false,
    trouble: null,
    late: false,
    disk: { free: 9e9, low: false },
    ...facts,
  } satisfies BackupFacts);

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
  session.may.mockReturnValue(true);
});

describe('backups', () => {
  it('are of no concern to who does not set up the shop: nothing is asked', async () => {
    session.may.mockReturnValue(false);
    const backups = useBackupsStore();
    await backups.load();
    expect(net.read).not.toHaveBeenCalled();
    expect(backups.troubles).toEqual([]);
  });

  it('say what has to be looked after, in words', async () => {
    const backups = useBackupsStore();
    is({});
    await backups.load();
    expect(backups.troubles).toEqual([]);
    is({ late: true, trouble: 'The disk is full.', disk: { free: 3e8, low: true } });
    await backups.load();
    expect(backups.troubles).toEqual([
      'The last try failed: The disk is full.',
      'The last good backup is of 2026-03-01.',
      'The disk is nearly full: 300 MB are left. Make room before the shop stands still.',
    ]);
    const notices = useNoticeStore();
    expect(notices.notice?.text).toContain('The last try failed: The disk is full.');
    // Said once; it stays at Setup.
    notices.clear();
    await backups.load();
    expect(notices.notice).toBeNull();
    is({ late: true, files: [] });
    await backups.load();
    expect(backups.troubles).toEqual(['There is no backup yet.']);
  });

  it('can be made again after one failed', async () => {
    is({});
    const backups = useBackupsStore();
    const refused = new ApiProblem({ type: 'backup-failed', title: 'No backup was made.', status: 503 });
    net.write.mockRejectedValueOnce(refused);
    await expect(backups.make()).rejects.toBe(refused);
    expect(backups.making).toBe(false);
    net.write.mockResolvedValueOnce(LAST);
    expect(await backups.make()).toEqual(LAST);
    expect(net.write).toHaveBeenLastCalledWith('POST', '/backups', {});
  });
});
