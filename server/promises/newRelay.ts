import type { RelayWanted } from '../../contract/relay.ts';
import { linesAtPrices } from '../../core/counter/orderBasket.ts';
import { sum } from '../../core/money.ts';
import type { PricingRules } from '../../core/pricing/price.ts';
import type { TaxRate } from '../../core/pricing/tax.ts';
import { restOf, type MoneyItem } from '../../core/promises/promised.ts';
import { ONE } from '../../core/quantity.ts';
import { wordsOf } from '../../core/words.ts';
import type { NewPromise } from './goodsStore.ts';

/** What a relay is priced and rung up by, and who makes it. */
interface RelayMaking extends Pick<
  NewPromise,
  'id' | 'basketId' | 'customerId' | 'placeId' | 'tillId' | 'staffId' | 'at'
> {
  customer: string;
  partner: string;
  /** As which it is rung up: it is named by its words. */
  item: MoneyItem;
  rates: Readonly<Record<number, readonly TaxRate[]>>;
  rules: PricingRules;
}

/** A relay as a promise: one line of goods in words, all of it paid before it goes out. */
export function newRelay(
  { goods, recipient, price, postcode }: Pick<RelayWanted, 'goods' | 'recipient' | 'price' | 'postcode'>,
  { customer, partner, item, rates, rules, ...made }: RelayMaking,
): NewPromise {
  const name = `For ${recipient}: ${goods}`.slice(0, 120);
  const lines = linesAtPrices(
    [{ ...item, name, decimals: 0, quantity: ONE, unitPrice: price }],
    {},
    { rates, rules },
  ).map((line) => ({ ...line, position: 1, order: null, stocked: false }));
  const total = sum(lines.map(restOf));
  return {
    ...made,
    kind: 'relay',
    taxMode: rules.taxMode,
    total,
    fee: 0,
    note: '',
    coming: false,
    plan: [],
    firstPayment: total,
    lines,
    words: wordsOf([customer, recipient, postcode, partner, goods].join(' ')),
  };
}
