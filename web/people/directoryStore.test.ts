import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { tell } from '../testing/houseEvents.ts';
import { late } from '../testing/late.ts';
import { useDirectoryStore } from './directoryStore.ts';
import { useGroupStore } from './groupStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset().mockResolvedValue({ rows: [] });
  net.write.mockReset().mockResolvedValue({});
});

describe('the list of customers', () => {
  it('is asked for with what narrows it, and nothing else', async () => {
    const directory = useDirectoryStore();
    await directory.load();
    Object.assign(directory.filter, { find: 'ana m', group: 2, owes: 'overdue' });
    directory.sort = 'lastVisit' as never;
    directory.page = 3;
    await directory.load();
    expect(net.read.mock.calls.map(([path]) => path as string)).toEqual([
      '/people/directory?sort=name&page=0',
      '/people/directory?find=ana+m&group=2&owes=overdue&sort=lastVisit&page=3',
    ]);
  });

  it('says whether it is narrowed by more than words, and is widened at once', () => {
    const directory = useDirectoryStore();
    directory.filter.find = 'ana';
    expect(directory.narrowed).toBe(false);
    directory.filter.born = 5;
    expect(directory.narrowed).toBe(true);
    directory.widen();
    expect([directory.narrowed, directory.filter.find]).toEqual([false, '']);
  });

  it('shows what was asked for last, and is read again when somebody changed', async () => {
    const directory = useDirectoryStore();
    const slow = late();
    net.read.mockReturnValueOnce(slow.promise);
    const first = directory.load();
    net.read.mockResolvedValue({ rows: ['Ana'] });
    await directory.load();
    slow.come({ rows: ['everybody'] });
    await first;
    expect(directory.listed).toEqual({ rows: ['Ana'] });
    directory.follow();
    tell({ kind: 'sale-finished' });
    tell({ kind: 'people-changed' });
    expect(net.read).toHaveBeenCalledTimes(3);
  });
});

describe('groups of customers', () => {
  it('are read again after each change', async () => {
    const groups = useGroupStore();
    net.read.mockResolvedValue([{ id: 1 }]);
    await groups.save(null, { name: 'Choir' } as never);
    await groups.save(1, { name: 'Choirs' } as never);
    await groups.drop(1);
    expect(net.write.mock.calls).toEqual([
      ['POST', '/people/groups', { name: 'Choir' }],
      ['PUT', '/people/groups/1', { name: 'Choirs' }],
      ['DELETE', '/people/groups/1'],
    ]);
    expect(net.read).toHaveBeenCalledTimes(3);
    expect(groups.groups).toEqual([{ id: 1 }]);
  });
});
