import { describe, expect, it } from 'vitest';
import { nudgesFor, type NudgeFacts } from './nudges.ts';
import type { Offer, OfferSituation } from './offer.ts';
import { plainOffer } from './testing/plainOffer.ts';
import { indexOffers, type OfferLine } from './offerUnits.ts';

const NAMES: Record<number, string> = { 1: 'Reed, strength 2', 2: 'Folding stand', 3: 'Metronome' };

const facts: NudgeFacts = {
  names: { item: (id) => NAMES[id] ?? `item ${id}`, place: () => 'here', digits: 2 },
  example: ({ itemIds }) =>
    itemIds[0] ? { itemId: itemIds[0], category: 'Stands', price: 2400 } : undefined,
  points: 0,
  asksForGroups: true,
};

const situation: OfferSituation = {
  day: '2026-03-02',
  time: '12:00',
  placeId: 1,
  customer: false,
  groups: [],
  unlocked: new Map(),
  left: new Map(),
};

const line = (itemId: number, price: number, count: number, category: string): OfferLine => ({
  id: `line ${itemId}`,
  goods: { itemId, category },
  quantity: count * 1000,
  counted: true,
  regular: price * count,
  net: price * count,
  closed: false,
});

const reeds = { itemIds: [], categories: ['Reeds'] };
const three = plainOffer(1, 'Three packs', {
  kind: 'together',
  groups: [{ goods: reeds, count: 3 }],
  reward: { kind: 'cheapest', count: 1, rate: 1_000_000 },
});
const ten = plainOffer(2, 'Ten reeds', {
  kind: 'quantity',
  goods: reeds,
  tiers: [{ from: 10, rate: 120_000 }],
});
const spend = plainOffer(3, 'Reed week', {
  kind: 'spend',
  goods: reeds,
  tiers: [{ from: 3000, off: { kind: 'amount', amount: 400 } }],
});

const nudge = (
  lines: OfferLine[],
  offers: Offer[],
  change: Partial<OfferSituation> = {},
  more: Partial<NudgeFacts> = {},
) => nudgesFor(lines, indexOffers(offers), { ...situation, ...change }, { ...facts, ...more });

describe('nudges', () => {
  it('say what is missing, what it saves, and what one key adds', () => {
    expect(nudge([line(1, 900, 2, 'Reeds')], [three])).toEqual([
      {
        offerId: 1,
        offer: 'Three packs',
        words: '1 more of Reeds',
        adds: 'Reed, strength 2 at 9.00',
        gives: 'Any 3 of Reeds: the cheapest is free.',
        saving: 900,
        act: { kind: 'add', itemId: 1, count: 1 },
      },
    ]);
  });

  it('say nothing of what is out of reach or brings nothing', () => {
    expect(nudge([line(1, 900, 4, 'Reeds')], [ten])).toEqual([]);
    expect(nudge([line(1, 900, 3, 'Reeds')], [three])).toEqual([]);
    expect(nudge([line(9, 900, 3, 'Picks')], [three, ten, spend])).toEqual([]);
  });

  it('come in the order of what they save, at most three', () => {
    const more = [5, 6, 7].map((id) => ({ ...spend, id, name: `Reeds ${id}` }));
    const found = nudge([line(1, 900, 3, 'Reeds')], [spend, ...more]);
    expect(found).toHaveLength(3);
    expect(found[0]).toMatchObject({ words: '3.00 more on Reeds', saving: 400, act: null });
  });

  it('add the one item that is meant, though none is in the basket', () => {
    const set = plainOffer(4, 'Stand and metronome', {
      kind: 'together',
      groups: [
        { goods: { itemIds: [3], categories: [] }, count: 1 },
        { goods: { itemIds: [2], categories: [] }, count: 1 },
      ],
      reward: { kind: 'amount', amount: 500 },
    });
    expect(nudge([line(3, 3000, 1, 'Metronomes')], [set])).toMatchObject([
      { saving: 500, act: { kind: 'add', itemId: 2, count: 1 } },
    ]);
  });

  it('tell of an offer for members, and of a reward that points pay for', () => {
    const conditions = { ...three.conditions, groups: ['Band Circle'] };
    const members = plainOffer(
      8,
      'Members',
      { kind: 'each', goods: reeds, off: { kind: 'percent', rate: 100_000 } },
      { conditions },
    );
    const reward = plainOffer(
      9,
      'Free reed',
      { kind: 'each', goods: reeds, off: { kind: 'percent', rate: 1_000_000 } },
      { needs: 'points', points: 300 },
    );
    expect(nudge([line(1, 900, 1, 'Reeds')], [members])).toMatchObject([
      { words: 'Member of Band Circle?', saving: 90, act: { kind: 'customer' } },
    ]);
    expect(nudge([line(1, 900, 1, 'Reeds')], [reward], { customer: true }, { points: 299 })).toEqual([]);
    expect(nudge([line(1, 900, 1, 'Reeds')], [reward], { customer: true }, { points: 300 })).toMatchObject([
      { words: '300 points pay for it', saving: 900, act: { kind: 'reward', offerId: 9 } },
    ]);
  });

  it('say first why an offer that was asked for yields nothing', () => {
    const coded = { ...spend, id: 10, name: 'SPRINGTERM', needs: 'code' as const };
    const unlocked = new Map([[10, 1]]);
    const [first] = nudge([line(1, 900, 1, 'Reeds')], [three, coded], { unlocked });
    expect(first).toMatchObject({ offer: 'SPRINGTERM', words: '21.00 more on Reeds' });
    const over = { ...coded, conditions: { ...coded.conditions, to: '2026-03-01' } };
    expect(nudge([line(1, 900, 5, 'Reeds')], [over], { unlocked })).toMatchObject([
      { words: 'SPRINGTERM does not apply today.', saving: 0 },
    ]);
  });
});
