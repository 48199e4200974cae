import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick, reactive } from 'vue';
import type { CloseShift } from '../../contract/drawer.ts';
import { worth, type Pieces } from '../../core/drawer/countSheet.ts';
import { useClosingStore } from './closingStore.ts';

const stores = vi.hoisted(() => ({ drawer: {} as unknown, till: {} as unknown, session: {} as unknown }));
vi.mock('./drawerStore.ts', () => ({ useDrawerStore: () => stores.drawer }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => stores.till }));
vi.mock('../staff/sessionStore.ts', () => ({ useSessionStore: () => stores.session }));

const close = vi.fn((_wanted: Omit<CloseShift, 'pieces' | 'total' | 'tillId'>) => Promise.resolve({ id: 3 }));
function drawerOf() {
  const drawer = reactive({
    state: {
      shift: { id: 3 },
      expected: 35_000,
      others: [
        { typeId: 2, counted: true, amount: 8_000, tips: 0, currency: null },
        { typeId: 4, counted: false, amount: 100, tips: 0, currency: null },
      ],
    },
    pieces: { '10000': 3, '5000': 1 } as Pieces,
    total: null as number | null,
    get counted(): number {
      return drawer.total ?? worth(drawer.pieces);
    },
    close,
  });
  return drawer;
}
let drawer: ReturnType<typeof drawerOf>;

beforeEach(() => {
  setActivePinia(createPinia());
  close.mockClear();
  drawer = drawerOf();
  stores.drawer = drawer;
  stores.till = { digits: 2, facts: { shop: { openingFloat: 20_000 } } };
  stores.session = { person: { name: 'Isolde Brandt' } };
});

describe('the way to a closed shift', () => {
  it('compares what was counted with what is expected, and plans what stays', () => {
    const closing = useClosingStore();
    expect([closing.difference, closing.float]).toEqual([0, 20_000]);
    expect(closing.plan).toMatchObject({ kept: 20_000, banked: 15_000, outcome: 'exact' });
    drawer.pieces = { '10000': 3 };
    expect(closing.difference).toBe(-5_000);
    expect(closing.words).toContain('50.00');
    closing.form.float = 'x';
    expect(closing.plan).toBeNull();
  });

  it('plans amounts alone where the drawer was counted as one total', () => {
    const closing = useClosingStore();
    drawer.total = 34_990;
    expect(closing.difference).toBe(-10);
    expect(closing.plan).toEqual({ keep: {}, bag: {}, kept: 20_000, banked: 14_990, outcome: 'exact' });
  });

  it('lets the pieces that stay be chosen by hand, never more than there are', () => {
    const closing = useClosingStore();
    closing.keepByHand('5000', 9);
    expect(closing.plan).toMatchObject({ keep: { '10000': 2, '5000': 1 }, kept: 25_000 });
    // Fewer were counted after all.
    drawer.pieces = { '10000': 1, '5000': 1 };
    expect(closing.plan?.keep).toEqual({ '10000': 1, '5000': 1 });
    closing.planAgain();
    expect(closing.plan).toMatchObject({ outcome: 'short', kept: 15_000 });
  });

  it('counts the other means that are counted, as far as they are typed', () => {
    const closing = useClosingStore();
    const [card] = closing.others;
    if (!card) throw new Error('no card was paid with');
    expect([closing.differenceOf(card), closing.counts]).toEqual([null, []]);
    closing.form.others[2] = '79.50';
    expect(closing.differenceOf(card)).toBe(-50);
    closing.form.others[4] = '1.00';
    expect(closing.counts).toEqual([{ typeId: 2, counted: 7_950 }]);
  });

  it('keeps what is typed through a reload, until the shift is closed', async () => {
    useClosingStore().form.note = 'A roll of coins was torn';
    await nextTick();
    setActivePinia(createPinia());
    const after = useClosingStore();
    expect(after.form.note).toBe('');
    after.begin();
    expect(after.form).toMatchObject({
      note: 'A roll of coins was torn',
      name: 'Isolde Brandt',
      float: '200.00',
    });
    after.form.witnessName = ' Teo ';
    await after.close();
    expect(close).toHaveBeenCalledWith(
      expect.objectContaining({
        expected: 35_000,
        float: 20_000,
        keep: null,
        note: 'A roll of coins was torn',
        signature: { name: 'Isolde Brandt', path: '' },
        witness: { name: 'Teo', path: '' },
      }),
    );
    expect(localStorage.getItem('mondrel.close.3')).toBeNull();
  });

  it('says which pieces stay only where they were chosen by hand', async () => {
    const closing = useClosingStore();
    closing.keepByHand('5000', 1);
    await closing.close();
    expect(close.mock.lastCall?.[0].keep).toEqual({ '10000': 2, '5000': 1 });
    drawer.total = 35_000;
    await closing.close();
    expect(close.mock.lastCall?.[0].keep).toBeNull();
  });
});
