import { sum, type Money } from '../money.ts';
import { discountRate, isPreset, type DiscountPreset, type DiscountSize } from '../pricing/discount.ts';
import type { PricedBasket } from '../pricing/price.ts';
import { agreedFee } from '../promises/promised.ts';
import { lineAmount, type Quantity } from '../quantity.ts';
import type { Rate } from '../rate.ts';
import type { Step, StepUnit } from '../staff/approval.ts';
import type { Right } from '../staff/rights.ts';
import { refunded, type Basket, type BasketLine } from './basket.ts';
import { discountEffect } from './basketDiscounts.ts';

/** What somebody needs more rights for, or an approval by a second person that names this very step. */
export interface NeededRight {
  right: Extract<
    Right,
    | 'price.change'
    | 'tax.exempt'
    | 'open-price.large'
    | 'return.no-receipt'
    | 'return.take'
    | 'return.late'
    | 'return.large'
    | 'discount.large'
    | 'line.remove-late'
    | 'fee.waive'
    | 'account.pay-out'
  >;
  step: Step;
  /** The approval that the basket carries, if any. */
  countersign: string | undefined;
}

const lineSubject = (id: string): string => `line:${id}`;
const money = (subject: string, to: Money | null, amount: Money | null, from: Money | null = null): Step => ({
  subject,
  from,
  to,
  unit: 'money',
  amount,
});

/** What so many units cost at a price, whichever way they go. */
const worth = (price: Money, quantity: Quantity): Money => lineAmount(price, Math.abs(quantity));

/** An open price above the limit, before or after its line is there. */
export const openPriceStep = (itemId: number, unitPrice: Money, quantity: Quantity): Step =>
  money(`item:${itemId}`, unitPrice, worth(unitPrice, quantity));

/** Goods that come back without their receipt. */
export const withoutReceiptStep = (itemId: number, unitPrice: Money, quantity: Quantity): Step =>
  money(`item:${itemId}`, null, worth(unitPrice, quantity));

const typedPriceStep = ({ id, listPrice, typedPrice, quantity }: BasketLine): Step => {
  const unitPrice = typedPrice?.unitPrice ?? listPrice;
  return money(lineSubject(id), unitPrice, worth(Math.abs(listPrice - unitPrice), quantity), listPrice);
};

/**
 * Every step in a basket that not everybody may take. @param openPriceLimit up to which anybody may sell at an open
 * price
 */
export function neededRights(
  basket: Basket,
  openItems: ReadonlySet<number>,
  openPriceLimit: Money,
): NeededRight[] {
  const needed: NeededRight[] = [];
  for (const line of basket.lines) {
    const { itemId, listPrice, typedPrice, openPriceCountersign, quantity, returnCountersign } = line;
    const from = line.comesBack?.sale;
    if (quantity < 0 && !from) {
      const step = withoutReceiptStep(itemId, listPrice, quantity);
      needed.push({ right: 'return.no-receipt', step, countersign: returnCountersign });
    }
    if (from) {
      const step = money(`sale:${from.saleId}`, null, 0 - from.figures.net);
      needed.push({ right: 'return.take', step, countersign: undefined });
      if (from.late) needed.push({ right: 'return.late', step, countersign: from.countersign });
    }
    if (line.account && listPrice < 0) {
      const step = money(`account:${line.account.accountId}`, null, 0 - listPrice);
      needed.push({ right: 'account.pay-out', step, countersign: returnCountersign });
    }
    if (typedPrice) {
      needed.push({ right: 'price.change', step: typedPriceStep(line), countersign: typedPrice.countersign });
    }
    if (
      openItems.has(itemId) &&
      !line.label &&
      !line.storedValue &&
      !line.promised &&
      !line.account &&
      listPrice > openPriceLimit
    ) {
      const step = openPriceStep(itemId, listPrice, quantity);
      needed.push({ right: 'open-price.large', step, countersign: openPriceCountersign });
    }
  }
  if (basket.exemption) {
    const step = money(`exemption:${basket.exemption.reason}`, null, null);
    needed.push({ right: 'tax.exempt', step, countersign: basket.exemption.countersign });
  }
  return needed;
}

const sizeOf = (size: DiscountSize): { to: number; unit: StepUnit } => {
  switch (size.kind) {
    case 'percent':
      return { to: size.rate, unit: 'rate' };
    case 'amount':
      return { to: size.amount, unit: 'money' };
    case 'target':
      return { to: size.price, unit: 'money' };
  }
};

/**
 * Discounts above a limit, which need a right or an approval. What the shop has ready as a preset needs none.
 * @param limit the largest part that may be given without
 */
export function largeDiscounts(
  { discounts = [] }: Basket,
  priced: PricedBasket,
  limit: Rate,
  presets: readonly DiscountPreset[],
): NeededRight[] {
  return discounts.flatMap((discount): NeededRight[] => {
    const { taken, before } = discountEffect(priced, discount.id);
    if (isPreset(discount, presets) || discountRate(discount, taken, before) <= limit) return [];
    const { id, size, countersign } = discount;
    const step: Step = { subject: `discount:${id}:${size.kind}`, from: null, ...sizeOf(size), amount: taken };
    return [{ right: 'discount.large', step, countersign }];
  });
}

/** A refund above the limit of a role needs a right or an approval. @param limit nothing for any amount */
export function largeRefund(basket: Basket, priced: PricedBasket, limit: Money | null): NeededRight[] {
  const amount = refunded(basket, priced);
  if (limit === null || amount <= limit) return [];
  return [
    { right: 'return.large', step: money('refund', null, amount), countersign: basket.refundCountersign },
  ];
}

/** Less is kept than the fee that was agreed. */
export const waivedFeeStep = (promiseId: string, agreed: Money, kept: Money): Step =>
  money(`fee:${promiseId}`, kept, agreed - kept, agreed);

/** Promises that are given up for less than their fee, which needs a right or an approval. */
export function waivedFees(
  { lines }: Basket,
  promises: ReadonlyMap<string, { fee: Money; held: Money; heldThere: Money }>,
): NeededRight[] {
  return lines.flatMap(({ promised, returnCountersign }): NeededRight[] => {
    const promise = promised?.part === 'back' && promises.get(promised.promiseId);
    if (!promise) return [];
    const mine = lines.filter((line) => line.promised?.promiseId === promised.promiseId);
    // What is left of a deposit after a handover goes back whole.
    if (mine.some((line) => line.promised?.part === 'goods')) return [];
    const kept = sum(mine.filter((line) => line.promised?.part === 'fee').map(({ listPrice }) => listPrice));
    const agreed = agreedFee(promise);
    if (kept >= agreed) return [];
    return [
      {
        right: 'fee.waive',
        step: waivedFeeStep(promised.promiseId, agreed, kept),
        countersign: returnCountersign,
      },
    ];
  });
}

/**
 * Goods that were in a basket and are no longer in it, or fewer of them: once payment has begun, that needs a right.
 */
export function takenOut(before: Basket, after: Basket): NeededRight[] {
  const left = new Map(after.lines.map((line) => [line.id, line.quantity]));
  return before.lines.flatMap(({ id, quantity }): NeededRight[] => {
    const to = left.get(id) ?? 0;
    if (quantity <= 0 || to >= quantity) return [];
    const step: Step = { subject: lineSubject(id), from: quantity, to, unit: 'quantity', amount: null };
    return [{ right: 'line.remove-late', step, countersign: undefined }];
  });
}

/** Every approval that a basket carries, by its id. */
export function carriedApprovals(basket: Basket): Set<string> {
  const ids = [
    basket.refundCountersign,
    basket.exemption?.countersign,
    ...(basket.discounts ?? []).map(({ countersign }) => countersign),
    ...basket.lines.flatMap((line) => [
      line.typedPrice?.countersign,
      line.openPriceCountersign,
      line.returnCountersign,
      line.comesBack?.sale?.countersign,
    ]),
  ];
  return new Set(ids.filter((id) => id !== undefined));
}

/** Puts an approval into the place in a basket where a step carries it; for other rights there is none. */
export function withApproval(
  basket: Basket,
  { right, step }: { right: Right; step: Step },
  id: string,
): Basket {
  const countersign = id;
  const onLines = (change: (line: BasketLine) => Partial<BasketLine> | undefined): Basket => ({
    ...basket,
    lines: basket.lines.map((line) => ({ ...line, ...change(line) })),
  });
  switch (right) {
    case 'price.change':
      return onLines((line) =>
        lineSubject(line.id) === step.subject && line.typedPrice
          ? { typedPrice: { ...line.typedPrice, countersign } }
          : undefined,
      );
    case 'open-price.large':
      return onLines((line) =>
        `item:${line.itemId}` === step.subject ? { openPriceCountersign: countersign } : undefined,
      );
    case 'return.no-receipt':
      return onLines((line) =>
        `item:${line.itemId}` === step.subject && line.quantity < 0
          ? { returnCountersign: countersign }
          : undefined,
      );
    case 'fee.waive':
      return onLines(({ promised }) =>
        promised?.part === 'back' && `fee:${promised.promiseId}` === step.subject
          ? { returnCountersign: countersign }
          : undefined,
      );
    case 'account.pay-out':
      return onLines(({ account }) =>
        account && `account:${account.accountId}` === step.subject
          ? { returnCountersign: countersign }
          : undefined,
      );
    case 'return.late':
      return onLines(({ comesBack }) =>
        comesBack?.sale && `sale:${comesBack.sale.saleId}` === step.subject
          ? { comesBack: { ...comesBack, sale: { ...comesBack.sale, countersign } } }
          : undefined,
      );
    case 'tax.exempt':
      return basket.exemption ? { ...basket, exemption: { ...basket.exemption, countersign } } : basket;
    case 'return.large':
      return { ...basket, refundCountersign: countersign };
    case 'discount.large':
      return {
        ...basket,
        discounts: basket.discounts?.map((discount) =>
          step.subject.startsWith(`discount:${discount.id}:`) ? { ...discount, countersign } : discount,
        ),
      };
    default:
      return basket;
  }
}
