import type { PostedTender } from '../core/books/entries.ts';
import { sum, type Money } from '../core/money.ts';
import { lastFour, STORED_VALUE_NAMES } from '../core/giftCards/storedValue.ts';
import type { TenderKind } from '../core/payment/tenderKinds.ts';
import type { PastSale } from './history.ts';

/** A house account that past sales were charged to. */
export interface PastAccount {
  accountId: number;
  customerId: number;
  name: string;
  asksFor: string;
}

/** One payment of a past sale, as it is stored. */
export interface PastTender extends PostedTender {
  typeId: number;
  name: string;
  reference: string;
  accountId: number | null;
  valueNumber: string | null;
  refundsSale: string | null;
  refundsPosition: number | null;
}

/** A means of payment as the shop has it. */
export interface PastType {
  id: number;
  kind: TenderKind;
  name: string;
  counted: boolean;
}

/** A gift card that was sold in the past, and what is left on it. */
export interface PastCard {
  number: string;
  soldAt: Date;
  left: Money;
}

/** The first of the numbers that buyers, banks and cheques have given. */
const FIRST_NUMBER = 4101;

const NOTHING = {
  reference: '',
  tip: 0,
  subject: '',
  accountId: null,
  valueNumber: null,
  refundsSale: null,
  refundsPosition: null,
};

/**
 * How a past sale was paid.
 * @param due what was to be paid, with what was given to a fund
 * @param by what it can be paid with: an account where it is charged to one, and cards that have something left, which
 *   have less afterwards
 * @param nth a number of the sale, of which references are made
 */
export function pastTenders(
  { exact, way = {} }: PastSale,
  due: Money,
  by: { types: readonly PastType[]; account: PastAccount | null; cards: readonly PastCard[] },
  nth: number,
): PastTender[] {
  if (due === 0) return [];
  const of = (kind: TenderKind) => {
    const { id: typeId, name } = by.types.find((type) => type.kind === kind) ?? { id: 0, name: kind };
    return { ...NOTHING, kind, typeId, name };
  };
  const cash = (amount: Money): PastTender => ({
    ...of('cash'),
    amount,
    handed: handedFor(amount, exact),
  });
  if (by.account) {
    const { customerId, accountId, name, asksFor } = by.account;
    const reference = asksFor ? `PO ${FIRST_NUMBER + nth}` : '';
    const charged = of('account');
    return [
      {
        ...charged,
        amount: due,
        handed: due,
        accountId,
        reference,
        name: [charged.name, name, reference].filter(Boolean).join(', '),
        subject: `customer:${customerId}`,
      },
    ];
  }
  if (way.pays === 'noted-card' || way.pays === 'cheque') {
    const noted = of(way.pays);
    const reference = String(way.pays === 'cheque' ? FIRST_NUMBER + nth : 310_000 + nth * 7);
    const subject = `tender:${noted.typeId}`;
    return [{ ...noted, amount: due, handed: due, reference, subject, name: `${noted.name} ${reference}` }];
  }
  const card = way.pays === 'stored-value' ? by.cards.find(({ left }) => left > 0) : undefined;
  if (!card) return [cash(due)];
  const amount = Math.min(card.left, due);
  card.left -= amount;
  const paid: PastTender = {
    ...of('stored-value'),
    amount,
    handed: amount,
    valueNumber: card.number,
    subject: 'gift-card',
    name: `${STORED_VALUE_NAMES['gift-card']} ·· ${lastFour(card.number)}`,
  };
  return amount < due ? [paid, cash(due - amount)] : [paid];
}

/** What goes back the way it came. @param total below zero */
export function pastRefund(total: Money, saleId: string, paid: PastTender): PastTender {
  return { ...paid, amount: total, handed: total, refundsSale: saleId, refundsPosition: 1 };
}

/** Cash that tenders moved, as a drawer has it. */
export function cashOf(tenders: readonly PastTender[]): Record<'taken' | 'change' | 'refunds', Money> {
  const cash = tenders.filter(({ kind }) => kind === 'cash');
  const into = cash.filter(({ amount }) => amount > 0);
  return {
    taken: sum(into.map(({ handed }) => handed)),
    change: sum(into.map(({ handed, amount }) => handed - amount)),
    refunds: 0 - sum(cash.map(({ amount }) => Math.min(0, amount))),
  };
}

/** What somebody hands over who has not the exact amount: the next five, or the next twenty. */
function handedFor(total: Money, exact: boolean): Money {
  if (exact) return total;
  const step = total > 1500 ? 2000 : 500;
  return Math.ceil(total / step) * step;
}
