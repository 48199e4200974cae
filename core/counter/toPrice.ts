import type { Money } from '../money.ts';
import type { OfferedGoods } from '../offers/offerUnits.ts';
import type { LineToPrice } from '../pricing/price.ts';
import type { TaxRate } from '../pricing/tax.ts';
import { isDeposit } from '../promises/promised.ts';
import type { Basket, BasketLine } from './basket.ts';

/** The price of an item for a group that the customer belongs to. */
export interface GroupPrice {
  itemId: number;
  price: Money;
  group: string;
}

/** What else than the basket a price depends on. */
export interface PriceFacts {
  /** Rates of the day by tax category. */
  rates: Readonly<Record<number, readonly TaxRate[]>>;
  /** Prices for the groups of the basket's customer; the lowest of an item counts. */
  groupPrices: readonly GroupPrice[];
  /** Where an item belongs, by which offers find it; nothing where it is not known. */
  goodsOf(itemId: number): OfferedGoods | undefined;
}

/** A basket as it is priced. */
export function linesToPrice(
  { lines, exemption }: Basket,
  { rates, groupPrices, goodsOf }: PriceFacts,
): LineToPrice[] {
  const lowest = new Map<number, GroupPrice>();
  for (const one of groupPrices) {
    const other = lowest.get(one.itemId);
    if (!other || one.price < other.price) lowest.set(one.itemId, one);
  }
  return lines.map((line): LineToPrice => {
    const back = swapOf(lines, line, goodsOf);
    // What comes back has its own price, whoever brings it.
    const found = line.quantity > 0 ? lowest.get(line.itemId) : undefined;
    return {
      ...line,
      groupPrice: found && { unitPrice: found.price, group: found.group },
      goods: goodsOf(line.itemId),
      counted: line.decimals === 0 && !line.label,
      // Gift cards, deposits and money on account are never reduced, and taxed when they are spent; what was promised
      // costs what was said.
      closed: Boolean(line.storedValue ?? line.promised ?? line.account ?? line.comesBack?.sale),
      refund: line.comesBack?.sale?.figures,
      promised: line.promised?.figures,
      swaps: back?.comesBack?.sale?.figures,
      rates:
        exemption || line.storedValue || line.account || isDeposit(line.promised?.part)
          ? []
          : (rates[line.taxCategoryId] ?? []),
    };
  });
}

/** The goods that come back for a line: of the same family, as many, and for no other line. */
export function swapOf(
  lines: readonly BasketLine[],
  line: BasketLine,
  goodsOf: PriceFacts['goodsOf'],
): BasketLine | undefined {
  if (line.swaps === undefined || line.typedPrice || line.label) return undefined;
  const back = lines.find(({ id }) => id === line.swaps);
  if (!back?.comesBack?.sale || back.quantity !== 0 - line.quantity) return undefined;
  const first = lines.find(({ swaps }) => swaps === line.swaps);
  if (first?.id !== line.id) return undefined;
  const [mine, other] = [goodsOf(line.itemId), goodsOf(back.itemId)];
  const family = mine?.familyId;
  const alike = line.itemId === back.itemId || (family !== undefined && family === other?.familyId);
  return alike ? back : undefined;
}

/** Whether everything that comes back from a sale is swapped: then what the customer keeps stays as it was. */
export function isSwap(
  lines: readonly BasketLine[],
  saleId: string,
  goodsOf: PriceFacts['goodsOf'],
): boolean {
  const back = lines.filter(({ comesBack }) => comesBack?.sale?.saleId === saleId);
  const swapped = new Set(lines.flatMap((line) => swapOf(lines, line, goodsOf)?.id ?? []));
  return back.length > 0 && back.every(({ id }) => swapped.has(id));
}
