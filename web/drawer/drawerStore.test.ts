import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { reactive } from 'vue';
import type { DrawerState } from '../../contract/drawer.ts';
import { ApiProblem, Unreachable } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { tell } from '../testing/houseEvents.ts';
import { useDrawerStore } from './drawerStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), writeSurely: vi.fn() }));
vi.mock('../net/api.ts', () => net);
vi.mock('../net/houseEvents.ts', () => import('../testing/houseEvents.ts'));
const till = vi.hoisted(() => ({ store: {} as unknown }));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => till.store }));

const stateOf = (more: Partial<DrawerState> = {}, shift: Partial<DrawerState['shift']> | null = {}) =>
  ({
    till: { id: 7, number: 1 },
    blind: false,
    expected: 20_000,
    others: [],
    shift: shift && { id: 3, countSheet: { '2000': 1 }, countRevision: 4, ...shift },
    ...more,
  }) as DrawerState;

beforeEach(() => {
  setActivePinia(createPinia());
  vi.useFakeTimers();
  for (const one of [net.read, net.write, net.writeSurely]) one.mockReset();
  net.write.mockResolvedValue({ revision: 5 });
  till.store = reactive({ digits: 2, facts: { till: { id: 7 } } });
});
afterEach(() => {
  vi.useRealTimers();
});

const sheets = () =>
  net.write.mock.calls.filter(([, path]) => path === '/drawer/count-sheet').map((call): unknown => call[2]);

describe('the count sheet', () => {
  it('is what the server has, unless something was typed here for the same shift', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    expect([drawer.pieces, drawer.counted]).toEqual([{ '2000': 1 }, 2_000]);
    drawer.count(500, 3);
    setActivePinia(createPinia());
    const after = useDrawerStore();
    await after.load();
    expect([after.pieces, after.counted]).toEqual([{ '500': 3, '2000': 1 }, 3_500]);
    // Another shift has another sheet.
    net.read.mockResolvedValue(stateOf({}, { id: 4, countSheet: {} }));
    await after.load();
    expect(after.pieces).toEqual({});
  });

  it('is sent a moment after the last piece, and again where nobody answers', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    net.write.mockRejectedValueOnce(new Unreachable());
    drawer.count(500, 1);
    await vi.advanceTimersByTimeAsync(200);
    drawer.count(500, 2);
    await vi.advanceTimersByTimeAsync(200);
    expect(sheets()).toEqual([]);
    await vi.advanceTimersByTimeAsync(200);
    await vi.advanceTimersByTimeAsync(3_000);
    const sheet = { pieces: { '500': 2, '2000': 1 }, revision: 4, tillId: null };
    expect(sheets()).toEqual([sheet, sheet]);
    drawer.count(500, 0);
    await vi.advanceTimersByTimeAsync(400);
    expect(sheets().at(-1)).toEqual({ pieces: { '2000': 1 }, revision: 5, tillId: null });
  });

  it('of the newest hand counts, where two count the same drawer', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    net.write.mockRejectedValueOnce(
      new ApiProblem({
        type: 'count-changed',
        title: 'Counted elsewhere.',
        status: 409,
        data: { countRevision: 9 },
      } as never),
    );
    drawer.count(500, 1);
    await vi.advanceTimersByTimeAsync(400);
    expect(sheets().at(-1)).toMatchObject({ revision: 9, pieces: { '500': 1 } });
    expect(useNoticeStore().notice).toBeNull();
  });

  it('may be one total; what is no amount is wrong, and wipes no pieces', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    drawer.countTotal('12x');
    expect([drawer.totalWrong, drawer.counted]).toEqual([true, 2_000]);
    drawer.countTotal('-1');
    expect(drawer.totalWrong).toBe(true);
    drawer.countTotal('199.50');
    expect([drawer.totalWrong, drawer.counted]).toEqual([false, 19_950]);
    drawer.clearCount();
    expect([drawer.typedTotal, drawer.counted]).toEqual(['', 0]);
    expect(localStorage).toHaveLength(0);
  });
});

describe('a count without seeing what is expected', () => {
  it('shows it once the count stands, and that is noted', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf({ blind: true, expected: null }));
    await drawer.load();
    await drawer.look();
    expect([drawer.state?.expected, net.write.mock.calls.length]).toEqual([null, 0]);
    net.write.mockResolvedValue({ expected: 20_000 });
    await drawer.look(true);
    expect(net.write).toHaveBeenCalledWith('POST', '/drawer/comparisons', {
      tillId: null,
      pieces: { '2000': 1 },
      total: null,
    });
    expect(drawer.state?.expected).toBe(20_000);
    // What comes meanwhile changes nothing of that.
    await drawer.look();
    expect(drawer.state?.expected).toBe(20_000);
  });
});

describe('opening a drawer', () => {
  it('is one opening however often it is pressed, and another one for another count', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf({}, null));
    await drawer.load();
    drawer.count(1_000, 20);
    net.writeSurely.mockRejectedValue(new Error('gone'));
    await expect(drawer.open({})).rejects.toThrow('gone');
    await expect(drawer.open({})).rejects.toThrow('gone');
    drawer.count(1_000, 21);
    await expect(drawer.open({ fromSafe: 100 })).rejects.toThrow('gone');
    const keys = net.writeSurely.mock.calls.map((call): unknown => call[3]);
    expect(keys[0]).toBe(keys[1]);
    expect(keys[2]).not.toBe(keys[0]);
    net.writeSurely.mockResolvedValue({});
    await drawer.open({ asLeft: true });
    expect(net.writeSurely.mock.lastCall?.[2]).toEqual({ pieces: {}, asLeft: true });
    expect(localStorage).toHaveLength(0);
  });
});

describe('another till’s drawer', () => {
  it('is counted at this desk, with a sheet of its own', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    drawer.count(500, 1);
    net.read.mockResolvedValue(stateOf({ till: { id: 8, number: 2 } }, { id: 9, countSheet: {} }));
    await drawer.countAtDesk(8);
    expect(net.read).toHaveBeenLastCalledWith('/drawer?till=8');
    expect(drawer.pieces).toEqual({});
    drawer.count(100, 7);
    await vi.advanceTimersByTimeAsync(400);
    // What was typed last for the own one was sent before.
    expect(sheets()).toEqual([
      { pieces: { '500': 1, '2000': 1 }, revision: 4, tillId: null },
      { pieces: { '100': 7 }, revision: 4, tillId: 8 },
    ]);
    net.read.mockResolvedValue(stateOf());
    await drawer.countAtDesk(7);
    expect([drawer.deskTillId, drawer.pieces]).toEqual([null, { '500': 1, '2000': 1 }]);
  });

  it('is not counted in before it is shown: what is typed meanwhile is for the one in sight', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    await drawer.load();
    let answer = (_state: DrawerState): void => {};
    net.read.mockReturnValueOnce(new Promise<DrawerState>((resolve) => (answer = resolve)));
    const shown = drawer.countAtDesk(8);
    drawer.count(500, 3);
    await vi.advanceTimersByTimeAsync(400);
    expect([drawer.deskTillId, drawer.state?.till.id]).toEqual([null, 7]);
    answer(stateOf({ till: { id: 8, number: 2 } }, { id: 9, countSheet: { '100': 1 } }));
    await shown;
    expect([drawer.deskTillId, drawer.pieces]).toEqual([8, { '100': 1 }]);
    await vi.advanceTimersByTimeAsync(400);
    expect(sheets()).toEqual([{ pieces: { '500': 3, '2000': 1 }, revision: 4, tillId: null }]);
  });

  it('stays where it was while the server cannot be asked, and is left for the own one in any case', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValueOnce(stateOf());
    await drawer.load();
    net.read.mockResolvedValueOnce(stateOf({ till: { id: 8, number: 2 } }, { id: 9 }));
    await drawer.countAtDesk(8);
    net.read.mockRejectedValue(new Unreachable());
    await expect(drawer.countAtDesk(7)).rejects.toThrow('does not answer');
    expect([drawer.deskTillId, drawer.state?.till.id]).toEqual([8, 8]);
    await expect(drawer.leaveDesk()).rejects.toThrow('does not answer');
    expect([drawer.deskTillId, drawer.state?.till.id]).toEqual([null, 7]);
  });
});

describe('what happens elsewhere', () => {
  it('is read where it moves this drawer', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValue(stateOf());
    drawer.follow();
    tell({ kind: 'sale-finished', tillId: 7 });
    expect(net.read).not.toHaveBeenCalled();
    await drawer.load();
    tell({ kind: 'sale-finished', tillId: 8 });
    tell({ kind: 'shop-changed' });
    expect(net.read).toHaveBeenCalledTimes(1);
    tell({ kind: 'sale-finished', tillId: 7 });
    tell({ kind: 'held-changed' });
    await vi.advanceTimersByTimeAsync(0);
    expect(net.read).toHaveBeenCalledTimes(3);
  });

  it('takes the sheet up anew where another shift is open by now', async () => {
    const drawer = useDrawerStore();
    net.read.mockResolvedValueOnce(stateOf());
    await drawer.load();
    net.read.mockResolvedValue(stateOf({}, { id: 4, countSheet: { '100': 2 } }));
    await drawer.look();
    expect([drawer.state?.shift?.id, drawer.pieces]).toEqual([4, { '100': 2 }]);
  });
});
