import type { OfferDraft } from '../../contract/offers.ts';
import {
  groupsOf,
  type CombinationReward,
  type OfferGoods,
  type OfferRule,
} from '../../core/offers/offer.ts';
import { WHOLE } from '../../core/rate.ts';

/** Something as a form changes it. */
export type Editable<T> = T extends readonly (infer One)[]
  ? Editable<One>[]
  : T extends object
    ? { -readonly [K in keyof T]: Editable<T[K]> }
    : T;

export type EditableOffer = Editable<OfferDraft>;

/** What kinds of offers there are, as the editor lists them. */
export const RULE_KINDS: readonly { value: OfferRule['kind']; title: string }[] = [
  { value: 'each', title: 'Something off every unit' },
  { value: 'together', title: 'Bought together: a set, a bundle, the cheapest free' },
  { value: 'quantity', title: 'The more units, the more off' },
  { value: 'spend', title: 'From an amount on' },
];

export const REWARD_KINDS: readonly { value: CombinationReward['kind']; title: string }[] = [
  { value: 'cheapest', title: 'the cheapest are free or reduced' },
  { value: 'percent', title: 'a percentage off each group' },
  { value: 'amount', title: 'an amount off' },
  { value: 'price', title: 'one price for all' },
];

const PLACEHOLDER_GOODS: OfferGoods = { itemIds: [], categories: [] };

/** A rule of a kind to begin with, about the goods that were chosen before. */
export function newRule(kind: OfferRule['kind'], before?: OfferRule): Editable<OfferRule> {
  const [first = { goods: PLACEHOLDER_GOODS, count: 1 }] = before ? groupsOf(before) : [];
  const goods = structuredClone(first.goods) as Editable<OfferGoods>;
  switch (kind) {
    case 'each':
      return { kind, goods, off: { kind: 'percent', rate: 100_000 } };
    case 'together':
      return { kind, groups: [{ goods, count: 3 }], reward: { kind: 'cheapest', count: 1, rate: WHOLE } };
    case 'quantity':
      return { kind, goods, tiers: [{ from: 10, rate: 100_000 }] };
    case 'spend':
      return { kind, goods, tiers: [{ from: 50_00, off: { kind: 'amount', amount: 5_00 } }] };
  }
}

/** A reward of a kind to begin with. @param groups how many groups there are */
export function newReward(kind: CombinationReward['kind'], groups: number): Editable<CombinationReward> {
  switch (kind) {
    case 'cheapest':
      return { kind, count: 1, rate: WHOLE };
    case 'percent':
      return { kind, rates: Array.from({ length: groups }, () => 100_000) };
    case 'amount':
      return { kind, amount: 5_00 };
    case 'price':
      return { kind, price: 50_00 };
  }
}

export const newOffer = (): EditableOffer => ({
  name: '',
  rule: newRule('together'),
  combines: false,
  onReturn: 'share',
  conditions: { from: null, to: null, weekdays: [], hours: null, placeIds: [], groups: [], minimum: 0 },
  limits: { perSale: null, perCustomer: null, total: null },
  needs: 'nothing',
  points: 0,
});
