import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import { useTurnStore, type Turn } from './turnStore.ts';

const counter = vi.hoisted(() => ({ basket: { id: 'first' }, busy: false }));
vi.mock('./basketStore.ts', () => ({ useBasketStore: () => counter }));
/** What the window keeps through a reload. */
const kept = shallowRef<Turn[]>([]);
vi.mock('@vueuse/core', () => ({ useSessionStorage: () => kept }));

/** The page is loaded anew: stores are new, what the window keeps is there. */
const reload = () => setActivePinia(createPinia());
beforeEach(() => {
  kept.value = [];
  counter.basket = { id: 'first' };
  reload();
});

describe('what waits behind a question', () => {
  it('is in sight until its turn comes, in the order in which it came', () => {
    const turns = useTurnStore();
    const [asks, next, last] = ['REP-OPEN', 'LES-30', 'MET-C'].map((typed) => turns.add(typed));
    turns.begin(asks?.id ?? '');
    expect(turns.behind.map(({ typed }) => typed)).toEqual(['LES-30', 'MET-C']);
    turns.mean(next?.id ?? '', { typed: 'LES-30', name: 'Lesson' });
    turns.end();
    turns.begin(next?.id ?? '');
    expect(turns.behind.map(({ name }) => name)).toEqual(['MET-C']);
    turns.end(last?.id);
    expect(turns.behind).toEqual([]);
  });

  it('comes again after a reload, once, with what asked', () => {
    const before = useTurnStore();
    const asks = before.add('REP-OPEN');
    before.add('4006381333931', { scanned: true });
    before.begin(asks.id);
    reload();
    const after = useTurnStore();
    expect(after.takeLeft().map(({ typed, scanned }) => [typed, scanned])).toEqual([
      ['REP-OPEN', false],
      ['4006381333931', true],
    ]);
    expect(after.takeLeft()).toEqual([]);
  });

  it('is for the next sale where a payment is being stored, also after a reload', () => {
    counter.busy = true;
    useTurnStore().add('MET-C', { scanned: true });
    counter.busy = false;
    reload();
    counter.basket = { id: 'second' };
    expect(useTurnStore().takeLeft()).toMatchObject([{ typed: 'MET-C', scanned: true }]);
  });

  it('is not taken for another basket, and not twice in one window', () => {
    useTurnStore().add('REP-OPEN');
    // The same window goes on with it: signing in again is no reload.
    expect(useTurnStore().takeLeft()).toEqual([]);
    reload();
    counter.basket = { id: 'second' };
    expect(useTurnStore().takeLeft()).toEqual([]);
  });
});
