import type { OfferRule } from '../offer.ts';
import { Each } from './each.ts';
import type { OfferKind } from './kind.ts';
import { Quantity } from './quantity.ts';
import { Spend } from './spend.ts';
import { Together } from './together.ts';

/** What a rule is and does, by its kind. */
export function kindOf(rule: OfferRule): OfferKind {
  switch (rule.kind) {
    case 'each':
      return new Each(rule);
    case 'together':
      return new Together(rule);
    case 'quantity':
      return new Quantity(rule);
    case 'spend':
      return new Spend(rule);
  }
}
