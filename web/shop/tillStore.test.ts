import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { late } from '../../contract/testing/late.ts';
import type { TillFacts } from '../../contract/setup.ts';
import { writeFiguresAs } from '../../core/locale.ts';
import { houseNow } from './houseClock.ts';
import { useTillStore } from './tillStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn() }));
vi.mock('../net/api.ts', () => net);

const factsOf = (digits: number, shop: object) =>
  ({ now: '2026-03-02T15:00:00.000Z', currency: { digits }, shop }) as unknown as TillFacts;

beforeEach(() => {
  setActivePinia(createPinia());
  vi.useFakeTimers({ now: new Date('2026-03-02T14:00:00Z'), toFake: ['Date'] });
});
afterEach(() => {
  vi.useRealTimers();
  writeFiguresAs('en-US');
});

describe('the shop as a till knows it', () => {
  it('goes by the server’s clock, whatever the till’s own says', async () => {
    net.read.mockResolvedValue(factsOf(2, { locale: 'en-US', timezone: 'UTC' }));
    await useTillStore().load();
    expect(houseNow().toISOString()).toBe('2026-03-02T15:00:00.000Z');
    vi.setSystemTime(new Date('2026-03-02T14:10:00Z'));
    expect(houseNow().toISOString()).toBe('2026-03-02T15:10:00.000Z');
  });

  it('writes moments and days as the shop does, by its own clock', async () => {
    const till = useTillStore();
    net.read.mockResolvedValue(factsOf(2, { locale: 'de-DE', timezone: 'America/Chicago' }));
    await till.load();
    expect(till.time('2026-03-03T01:30:00Z')).toBe('19:30');
    expect(till.time('2026-03-03T01:30:00Z', 'full')).toBe('02.03.2026, 19:30');
    expect(till.day(new Date('2026-03-03T01:30:00Z'))).toBe('2. März 2026');
    expect(till.calendarDay('2026-03-03')).toBe('03.03.2026');
  });

  it('writes money and its examples with the digits of its currency', async () => {
    const till = useTillStore();
    expect([till.digits, till.example(12.5)]).toEqual([2, '12.50']);
    net.read.mockResolvedValue(factsOf(0, { locale: 'ja-JP', timezone: 'Asia/Tokyo' }));
    await till.load();
    expect([till.digits, till.money(1_250), till.example(12.5)]).toEqual([0, '1,250', '13']);
    net.read.mockResolvedValue(factsOf(3, { locale: 'en-US', timezone: 'UTC' }));
    await till.load();
    expect([till.money(1_250), till.example(12.5)]).toEqual(['1.250', '12.500']);
  });

  it('is as it was asked for last, whatever is answered first', async () => {
    const till = useTillStore();
    const [first, second] = [late<TillFacts>(), late<TillFacts>()];
    const [before, after] = [1, 2].map((digits) => factsOf(digits, { locale: 'en-US', timezone: 'UTC' }));
    if (!before || !after) throw new Error('there are two');
    net.read.mockReturnValueOnce(first.promise).mockReturnValueOnce(second.promise);
    const loads = [till.load(), till.load()];
    second.come(after);
    first.come(before);
    expect(await Promise.all(loads)).toEqual([after, after]);
    expect(till.digits).toBe(2);
  });

  it('is asked for again where the answer that counts did not come', async () => {
    const till = useTillStore();
    const [first, second] = [late<TillFacts>(), late<TillFacts>()];
    const facts = factsOf(2, { locale: 'en-US', timezone: 'UTC' });
    net.read
      .mockReturnValueOnce(first.promise)
      .mockReturnValueOnce(second.promise)
      .mockResolvedValueOnce(facts);
    const loads = Promise.allSettled([till.load(), till.load()]);
    second.fail(new Error('no answer'));
    first.come(facts);
    expect((await loads).map(({ status }) => status)).toEqual(['fulfilled', 'rejected']);
    expect(till.facts).toEqual(facts);
  });
});
