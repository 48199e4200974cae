import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, describe, it, vi } from 'vitest';
import { useGroupStore } from './groupStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);

beforeEach(() => {
  setActivePinia(createPinia());
  net.write.mockResolvedValue({});
});

describe('groups of customers', () => {
  it('are read again after each change', async () => {
    const groups = useGroupStore();
    net.read.mockResolvedValue([{ id: 1 }]);
    await groups.save(null, { name: 'Choir' } as never);
    await groups.save(
      { id: 1, name: 'Choir', rule: null, count: 4, filledOn: null },
      { name: 'Choirs', rule: null },
    );
    await groups.drop(1);
    expect(net.write.mock.calls).toEqual([
      ['POST', '/people/groups', { name: 'Choir' }],
      ['PUT', '/people/groups/1', { name: 'Choirs', rule: null, seen: { name: 'Choir', rule: null } }],
      ['DELETE', '/people/groups/1'],
    ]);
    expect(net.read).toHaveBeenCalledTimes(3);
    expect(groups.groups).toEqual([{ id: 1 }]);
  });
});
