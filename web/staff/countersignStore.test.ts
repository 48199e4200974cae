import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Right } from '../../core/staff/rights.ts';
import { useCountersignStore } from './countersignStore.ts';

const net = vi.hoisted(() => ({ write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
const rights = vi.hoisted(() => new Set<string>());
vi.mock('./sessionStore.ts', () => ({
  useSessionStore: () => ({ may: (right: string) => rights.has(right) }),
}));

beforeEach(() => {
  setActivePinia(createPinia());
  rights.clear();
  net.write.mockReset();
});

const RIGHT: Right = 'price.change';

describe('a step that needs a second person', () => {
  it('goes on at once for whoever may', async () => {
    rights.add(RIGHT);
    const countersigns = useCountersignStore();
    await expect(countersigns.need(RIGHT, 'basket', 'Strap', [])).resolves.toEqual({ id: undefined });
    expect(countersigns.asking).toBeNull();
  });

  it('waits for a PIN, and has the approval', async () => {
    net.write.mockResolvedValue({ id: 'c-1', by: 'Maren K.' });
    const countersigns = useCountersignStore();
    const asked = countersigns.need(RIGHT, 'basket', 'Strap', []);
    expect(countersigns.asking).toMatchObject({ right: RIGHT, about: 'Strap' });
    await countersigns.approve('3690');
    await expect(asked).resolves.toEqual({ id: 'c-1' });
    expect(countersigns.asking).toBeNull();
    expect(net.write.mock.calls[0]?.[2]).toMatchObject({ pin: '3690', basketId: 'basket' });
  });

  it('stays when the PIN is wrong, and can be left', async () => {
    net.write.mockRejectedValue(new Error('Wrong PIN.'));
    const countersigns = useCountersignStore();
    const asked = countersigns.need(RIGHT, 'basket', 'Strap', []);
    await expect(countersigns.approve('1111')).rejects.toThrow('Wrong PIN.');
    expect(countersigns.asking).not.toBeNull();
    countersigns.leave();
    await expect(asked).resolves.toBeNull();
    await expect(countersigns.approve('3690')).resolves.toBeNull();
  });

  it('is left when another one asks: nobody approves what is not in sight', async () => {
    const countersigns = useCountersignStore();
    const first = countersigns.need(RIGHT, 'basket', 'Strap', []);
    void countersigns.need(RIGHT, 'basket', 'Reed', []);
    await expect(first).resolves.toBeNull();
    expect(countersigns.asking?.about).toBe('Reed');
  });
});
