import type { Money } from '../money.ts';
import { priceBasket, type PricingRules } from '../offers/price.ts';
import type { TaxRate } from '../offers/tax.ts';
import { PLAIN_LINE, type MoneyItem, type PromiseLine } from '../promises/promised.ts';
import { ONE } from '../quantity.ts';
import type { Basket } from './basket.ts';
import { dueOf } from './promisedLines.ts';
import { linesToPrice } from './toPrice.ts';

/** What a line of an order is priced by. */
export interface ShippingFacts {
  item: MoneyItem;
  /** Rates of the day by tax category. */
  rates: Readonly<Record<number, readonly TaxRate[]>>;
  rules: PricingRules;
}

/** The fee of shipping as goods of an order, with its tax; no offer reduces it. */
export function shippingLine(
  fee: Money,
  { exemption }: Pick<Basket, 'exemption'>,
  { item, rates, rules }: ShippingFacts,
): Omit<PromiseLine, 'position' | 'order'> {
  const figures = { unitPrice: fee, regular: fee, net: fee, records: [] };
  const line = {
    id: 'shipping',
    ...item,
    name: 'Shipping',
    decimals: 0,
    quantity: ONE,
    listPrice: fee,
    promised: { promiseId: '', number: '', part: 'goods' as const, position: 1, figures },
  };
  const priced = priceBasket(
    linesToPrice(
      { id: 'shipping', lines: [line], exemption },
      { rates, groupPrices: [], goodsOf: () => undefined },
    ),
    rules,
  );
  return {
    ...item,
    ...figures,
    name: line.name,
    decimals: 0,
    quantity: ONE,
    ...PLAIN_LINE,
    tax: dueOf([line], priced, () => true) - fee,
  };
}
