import type { Money } from '../money.ts';
import type { OfferGoods } from '../offers/offer.ts';
import type { OfferedGoods } from '../offers/offerUnits.ts';
import type { OfferNames } from '../offers/goodsWords.ts';
import type { LineToPrice } from '../pricing/price.ts';
import type { TaxRate } from '../pricing/tax.ts';

/** Something to say to the customer: what is missing for an offer, or a reward within reach. */
export interface Nudge {
  offerId: number;
  offer: string;
  /** What is missing, or how it could be had. */
  words: string;
  /** What the offer gives. */
  gives: string;
  /** What the customer would pay less; zero where an offer was asked for and yields nothing. */
  saving: Money;
  /** The item that one key adds, with its price. */
  adds: string | null;
  /** What one key does. */
  act:
    | { kind: 'add'; itemId: number; count: number }
    | { kind: 'reward'; offerId: number }
    | { kind: 'customer' }
    | null;
}

/** An item as it would be added. */
export interface NudgeItem extends OfferedGoods {
  price: Money;
  groupPrice?: LineToPrice['groupPrice'];
  rates: readonly TaxRate[];
}

/** What nudges need to know besides the basket. */
export interface NudgeFacts {
  names: OfferNames;
  /** An item that stands for some goods, where none of them is in the basket. */
  example(goods: OfferGoods): NudgeItem | undefined;
  /** Points of the customer that are not spent on this basket yet. */
  points: number;
  /** Groups that customers belong to: an offer for members is worth a word. */
  asksForGroups: boolean;
}
