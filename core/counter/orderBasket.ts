import type { Money } from '../money.ts';
import { priceBasket, type PricingRules } from '../pricing/price.ts';
import type { TaxRate } from '../pricing/tax.ts';
import { PLAIN_LINE, type MoneyItem, type PromiseLine } from '../promises/promised.ts';
import { lineAmount, ONE, type Quantity } from '../quantity.ts';
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

/** Goods at a price that was said elsewhere, or a fee. */
export interface GoodsAtPrice extends MoneyItem {
  name: string;
  decimals: number;
  quantity: Quantity;
  unitPrice: Money;
}

/** Goods as lines of an order at prices that stand, priced together, each with its tax; no offer reduces them. */
export function linesAtPrices(
  goods: readonly GoodsAtPrice[],
  { exemption }: Pick<Basket, 'exemption'>,
  { rates, rules }: Omit<ShippingFacts, 'item'>,
): Omit<PromiseLine, 'position' | 'order'>[] {
  const lines = goods.map(({ unitPrice, ...one }, at) => {
    const regular = lineAmount(unitPrice, one.quantity);
    const figures = { unitPrice, regular, net: regular, records: [] };
    const promised = { promiseId: '', number: '', part: 'goods' as const, position: at + 1, figures };
    return { ...one, id: String(at), listPrice: unitPrice, promised };
  });
  const priced = priceBasket(
    linesToPrice({ id: 'order', lines, exemption }, { rates, groupPrices: [], goodsOf: () => undefined }),
    rules,
  );
  return lines.map(({ id, listPrice: _price, promised, ...line }) => ({
    ...PLAIN_LINE,
    ...line,
    ...promised.figures,
    tax: dueOf(lines, priced, (one) => one.id === id) - promised.figures.net,
  }));
}

/** The fee of shipping as it stands among the goods of an order. */
export const shippingGoods = (fee: Money, item: MoneyItem): GoodsAtPrice => ({
  ...item,
  name: 'Shipping',
  decimals: 0,
  quantity: ONE,
  unitPrice: fee,
});

/** The fee of shipping as goods of an order, with its tax; no offer reduces it. */
export function shippingLine(
  fee: Money,
  basket: Pick<Basket, 'exemption'>,
  { item, ...facts }: ShippingFacts,
): Omit<PromiseLine, 'position' | 'order'> {
  const [line] = linesAtPrices([shippingGoods(fee, item)], basket, facts);
  if (!line) throw new Error('a line was not priced');
  return line;
}
