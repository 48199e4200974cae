import { sum } from '../money.ts';
import { rateOf } from '../rate.ts';
import type { OfferRule } from './offer.ts';
import { offEach } from './offerReduction.ts';
import type { OfferUnit } from './offerUnits.ts';

/** Bounds are counted in parts of a minor unit, so that they stay whole numbers on every till. */
export const SCALE = 64;

/** The most that a unit adds to what its combination earns, times `SCALE`, rounded up. */
export function largestShare(rule: OfferRule, { price, list }: OfferUnit, group: number): number {
  switch (rule.kind) {
    case 'each':
      return offEach(price, rule.off) * SCALE;
    case 'together': {
      const size = sum(rule.groups.map(({ count }) => count));
      const { reward } = rule;
      switch (reward.kind) {
        case 'cheapest':
          // The cheapest are at most as dear as all on average; a rounded cent for each.
          return Math.ceil(((rateOf(price, reward.rate) + 1) * SCALE * reward.count) / size);
        case 'percent':
          return rateOf(price, reward.rates[group] ?? 0) * SCALE;
        case 'amount':
          return Math.ceil((reward.amount * SCALE) / size);
        case 'price':
          return price * SCALE - Math.floor((reward.price * SCALE) / size);
      }
    }

    case 'quantity':
      return Math.max(...rule.tiers.map(({ rate }) => rateOf(price, rate))) * SCALE;
    case 'spend':
      return Math.max(
        ...rule.tiers.map(({ from, off }) =>
          off.kind === 'percent'
            ? rateOf(price, off.rate) * SCALE
            : from === 0
              ? off.amount * SCALE
              : Math.ceil((off.amount * Math.min(list, from) * SCALE) / from),
        ),
      );
  }
}
