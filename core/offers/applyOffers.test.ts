import { describe, expect, it } from 'vitest';
import type { Offer, OfferRule } from './offer.ts';
import { apply, line } from './testing/applied.ts';
import { plainOffer } from './testing/plainOffer.ts';

const offerOf = (id: number, rule: OfferRule, more: Partial<Offer> = {}): Offer =>
  plainOffer(id, `Offer ${id}`, rule, more);

const category = (...categories: string[]) => ({ itemIds: [], categories });
const items = (...itemIds: number[]) => ({ itemIds, categories: [] });

describe('the choice among offers', () => {
  it('frees the cheapest of three, and groups a fourth for the best', () => {
    const threePacks = offerOf(1, {
      kind: 'together',
      groups: [{ goods: category('Reeds', 'Strings'), count: 3 }],
      reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
    });
    const lines = [line(1, 900, 2, 'Reeds'), line(2, 1500, 1, 'Strings'), line(3, 700, 1, 'Reeds')];
    const { value, parts, uses } = apply(lines, [threePacks]);
    expect(value).toBe(900);
    expect(uses).toEqual([{ offer: threePacks, uses: 1, amount: 900 }]);
    // Spread over the three that earned it, 1500, 900 and 900.
    expect(parts.map(({ line: at, amount }) => [at, amount])).toEqual([
      [0, 491],
      [1, 409],
    ]);
  });

  it('prefers two offers together to the best single one', () => {
    const pair = (id: number, a: number, b: number, amount: number) =>
      offerOf(id, {
        kind: 'together',
        groups: [
          { goods: items(a), count: 1 },
          { goods: items(b), count: 1 },
        ],
        reward: { kind: 'amount', amount },
      });
    const lines = [line(1, 1000), line(2, 1000), line(3, 1000), line(4, 1000)];
    const { value, bound } = apply(lines, [pair(1, 2, 3, 500), pair(2, 1, 2, 300), pair(3, 3, 4, 300)]);
    expect([value, bound]).toEqual([600, 600]);
  });

  it('takes a part off the strap that is bought with a case', () => {
    const caseAndStrap = offerOf(1, {
      kind: 'together',
      groups: [
        { goods: category('Cases'), count: 1 },
        { goods: category('Straps'), count: 1 },
      ],
      reward: { kind: 'percent', rates: [50_000, 200_000] },
    });
    expect(apply([line(1, 8000, 1, 'Cases'), line(2, 2000, 2, 'Straps')], [caseAndStrap]).value).toBe(800);
    expect(apply([line(2, 2000, 2, 'Straps')], [caseAndStrap]).value).toBe(0);
  });

  it('gives ten sticks or more, any mix, twelve per cent off all of them', () => {
    const sticks = offerOf(1, {
      kind: 'quantity',
      goods: category('Sticks'),
      tiers: [{ from: 10, rate: 120_000 }],
    });
    expect(apply([line(1, 1000, 9, 'Sticks')], [sticks]).value).toBe(0);
    expect(apply([line(1, 1000, 9, 'Sticks'), line(2, 500, 2, 'Sticks')], [sticks]).value).toBe(1200);
  });

  it('tests what is spent on list prices, and takes eight off once', () => {
    const music = offerOf(1, {
      kind: 'spend',
      goods: category('Printed music'),
      tiers: [{ from: 7500, off: { kind: 'amount', amount: 800 } }],
    });
    const sheet = { ...line(1, 4000, 2, 'Printed music'), net: 7000 };
    expect(apply([sheet], [music]).value).toBe(800);
    expect(apply([line(1, 7499, 1, 'Printed music')], [music]).value).toBe(0);
    expect(apply([line(1, 4000, 9, 'Printed music')], [music]).uses).toEqual([
      { offer: music, uses: 1, amount: 800 },
    ]);
  });

  it('makes a bundle cost its price, and never dearer', () => {
    const bundle = (price: number) =>
      offerOf(1, {
        kind: 'together',
        groups: [
          { goods: items(1), count: 1 },
          { goods: items(2), count: 2 },
        ],
        reward: { kind: 'price', price },
      });
    const lines = [line(1, 3000), line(2, 1000, 4)];
    expect(apply(lines, [bundle(4500)]).value).toBe(500);
    expect(apply(lines, [bundle(5500)])).toMatchObject({ value: 0, uses: [] });
  });

  it('counts neither what is cut or weighed nor what comes back or costs nothing', () => {
    const pair = offerOf(1, {
      kind: 'together',
      groups: [{ goods: items(), count: 2 }],
      reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
    });
    const part = offerOf(2, { kind: 'each', goods: items(), off: { kind: 'percent', rate: 100_000 } });
    const cut = { ...line(1, 420, 1), quantity: 2500, counted: false, regular: 1050, net: 1050 };
    const back = { ...line(2, 900), quantity: -1000, regular: -900, net: -900 };
    expect(apply([cut, back, line(3, 0), line(4, 500)], [pair]).value).toBe(0);
    expect(apply([cut, back], [part]).parts).toEqual([{ line: 0, offer: part, amount: 105 }]);
  });

  it('applies what combines afterwards, parts before amounts, down to nothing', () => {
    const member = offerOf(
      1,
      { kind: 'each', goods: items(), off: { kind: 'amount', amount: 600 } },
      { combines: true },
    );
    const tenth = offerOf(
      2,
      { kind: 'each', goods: items(), off: { kind: 'percent', rate: 100_000 } },
      { combines: true },
    );
    const half = offerOf(3, { kind: 'each', goods: items(1), off: { kind: 'percent', rate: 500_000 } });
    const { parts, value } = apply([line(1, 1000)], [member, tenth, half]);
    expect(parts.map(({ offer, amount }) => [offer.id, amount])).toEqual([
      [3, 500],
      [2, 50],
      [1, 450],
    ]);
    expect(value).toBe(1000);
  });

  it('leaves goods to what comes on top where both together take off more', () => {
    const any3 = offerOf(
      1,
      {
        kind: 'together',
        groups: [{ goods: items(), count: 3 }],
        reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
      },
      { limits: { perSale: 1, perCustomer: null, total: null } },
    );
    const pair = offerOf(
      2,
      {
        kind: 'together',
        groups: [
          { goods: items(1), count: 1 },
          { goods: items(2), count: 1 },
        ],
        reward: { kind: 'price', price: 2400 },
      },
      { combines: true },
    );
    const lines = [line(1, 2000), line(2, 2000), line(3, 2000), line(4, 1000, 3)];
    expect(apply(lines, [any3, pair])).toMatchObject({ value: 2600, bound: 2600 });
    expect(apply(lines.toSpliced(2, 1), [any3, pair]).value).toBe(2600);
  });

  it('keeps limits per sale', () => {
    const once = offerOf(
      1,
      { kind: 'each', goods: items(), off: { kind: 'percent', rate: 500_000 } },
      { limits: { perSale: 1, perCustomer: null, total: null } },
    );
    expect(apply([line(1, 300, 3), line(2, 900)], [once]).uses).toEqual([
      { offer: once, uses: 1, amount: 450 },
    ]);
  });
});
