import { randomInt } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import type { FinishedSale } from '../../contract/counter.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { promiseChanges } from '../../core/counter/promisedLines.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { saleEntries, soldAndReturned, type PostedTender } from '../../core/books/entries.ts';
import { sum, type Money } from '../../core/money.ts';
import { cashRounding } from '../../core/payment/cash.ts';
import { tenderKind } from '../../core/payment/tenderKinds.ts';
import { isDeposit } from '../../core/promises/promised.ts';
import {
  lapsesOf,
  lastFour,
  newStoredValueNumber,
  STORED_VALUE_NAMES,
} from '../../core/giftCards/storedValue.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { saleDay } from '../clock.ts';
import { RAISED, sqlState } from '../db/database.ts';
import type { House } from '../house.ts';
import { Problem } from '../http/problem.ts';
import { wasCarriedOut, type Asked } from '../http/write.ts';
import { offerUses, usedUp } from '../offers/service.ts';
import { pointsUsed } from '../people/pointsClaim.ts';
import { paymentChanged } from '../tenders/begin.ts';
import type { PaymentTender } from '../tenders/store.ts';
import { tenderName } from '../tenders/tenderName.ts';
import type { Facts } from './priceSale.ts';
import type { FinalTender, LineToFinish, SaleToFinish } from './saleToFinish.ts';
import * as store from './store.ts';

/** A payment that was taken before, as the sale keeps it. */
export function finalTender(
  tender: PaymentTender,
  sale: { facts: Pick<Facts, 'cashRounding'>; basket: Pick<Basket, 'customer'> },
): FinalTender {
  const { kind, typeId, tip, roundUp, reference, foreignAmount, storedValueId, accountId, id } = tender;
  const rounding = refundRounding(tender, sale.facts);
  const amount = tender.amount + rounding;
  const handed = tender.handed + rounding;
  const { refundsSale, refundsPosition } = tender;
  // What goes back and names no card goes to the customer's store credit.
  const credit = tender.refund && kind === 'stored-value' && storedValueId === null;
  return {
    kind,
    typeId,
    name: tenderName(tender),
    amount: amount + roundUp,
    handed: handed + roundUp,
    tip,
    reference,
    foreignAmount,
    storedValueId,
    lapses: lapses(tender),
    accountId,
    paymentTenderId: id,
    subject: credit ? `customer:${sale.basket.customer?.id ?? 0}` : subjectOf(tender),
    ...(credit && {
      name: STORED_VALUE_NAMES['store-credit'],
      creditNumber: newStoredValueNumber(() => randomInt(10)),
    }),
    ...(refundsSale !== null &&
      refundsPosition !== null && { refunds: { saleId: refundsSale, position: refundsPosition } }),
  };
}

function lapses({ refund, storedValueSingleUse, storedValueBalance, amount }: PaymentTender): Money {
  if (refund || storedValueBalance === null) return 0;
  return lapsesOf({ singleUse: storedValueSingleUse ?? false, balance: storedValueBalance }, amount);
}

/** What a refund in cash is rounded by; zero for everything else. */
export function refundRounding(
  { refund, kind, amount }: PaymentTender,
  { cashRounding: step }: Pick<Facts, 'cashRounding'>,
): Money {
  return refund && kind === 'cash' ? 0 - cashRounding(0 - amount, step) : 0;
}

function subjectOf({
  kind,
  typeId,
  terminalId,
  storedValueKind,
  storedValueCustomer,
  accountCustomer,
}: PaymentTender): string {
  switch (tenderKind(kind).by) {
    case 'till':
      return '';
    case 'terminal':
      return `terminal:${terminalId}`;
    case 'account':
      return `customer:${accountCustomer}`;
    case 'value':
      return storedValueKind === 'store-credit' ? `customer:${storedValueCustomer}` : (storedValueKind ?? '');
    case 'type':
      return `tender:${typeId}`;
  }
}

export interface SaleToStore {
  basket: Basket;
  facts: Facts;
  lines: readonly BasketLine[];
  priced: PricedBasket;
  tenders: readonly FinalTender[];
  /** What was given to a fund on terminals; what was given at the till is on the basket. */
  roundUp: Money;
  cashRounding: Money;
  tillId: number;
  staffId: number;
  at: Date;
  /** The request that finishes it, where it is one. */
  asked?: Asked;
}

/**
 * Stores a sale that is paid, in one transaction. Asked again for the same basket it answers with the sale that is
 * there.
 * @throws Problem 409 where something was used up, sold or undone meanwhile; nothing is stored then
 */
export async function storeSale(house: House, sale: SaleToStore): Promise<FinishedSale> {
  const { basket, facts, lines, priced, tenders, tillId, at } = sale;
  const donation = (basket.roundUp?.amount ?? 0) + sale.roundUp;
  const fundId = basket.roundUp?.fundId ?? facts.fundId;
  const posted: PostedTender[] = tenders.map(({ kind, amount, handed, tip, lapses, subject }) => ({
    kind,
    amount,
    handed,
    tip,
    lapses,
    subject,
  }));
  const stored = await finishStoring(house, {
    id: basket.id,
    tillId,
    placeId: facts.placeId,
    staffId: sale.staffId,
    at: at.toISOString(),
    businessDate: saleDay(at, facts),
    currency: facts.currency,
    taxMode: priced.taxMode,
    regular: priced.regular,
    reductions: priced.reductions,
    tax: sum(priced.taxes.map(({ tax }) => tax)),
    total: priced.total,
    donation,
    fundId: donation > 0 ? fundId : null,
    cashRounding: sale.cashRounding,
    note: basket.note ?? '',
    customerId: basket.customer?.id ?? null,
    exemptReason: basket.exemption?.reason ?? null,
    exemptCertificate: basket.exemption?.certificate ?? '',
    lines: storedLines(sale),
    taxes: priced.taxes.map((tax, place) => ({ position: place + 1, ...tax })),
    tenders: tenders.map(({ refunds, subject: _, ...tender }, place) => ({
      position: place + 1,
      ...tender,
      refundsSale: refunds?.saleId ?? null,
      refundsPosition: refunds?.position ?? null,
    })),
    opensDrawer: tenders.some(({ typeId }) =>
      facts.types.some(({ id, opensDrawer }) => id === typeId && opensDrawer),
    ),
    asked: sale.asked ?? null,
    ...receiptWay(facts),
    offerUses: offerUses(basket, priced, facts),
    pointsOff: priced.pointsOff?.points ?? 0,
    kind: saleKind(lines),
    promises: promisesToMove(lines, priced),
    entries: saleEntries({
      tillId,
      ...soldAndReturned(lines, priced),
      total: priced.total,
      taxes: priced.taxes,
      tenders: posted,
      valueSold: lines.flatMap(({ storedValue }, place) =>
        storedValue ? [{ kind: storedValue.kind, amount: priced.lines[place]?.net ?? 0 }] : [],
      ),
      deposits: lines.flatMap(({ promised }, place) =>
        promised && isDeposit(promised.part)
          ? [{ promiseId: promised.promiseId, amount: priced.lines[place]?.net ?? 0 }]
          : [],
      ),
      onAccounts: lines.flatMap(({ account }, place) =>
        account
          ? [{ customerId: accountOwner(account.accountId, facts), amount: priced.lines[place]?.net ?? 0 }]
          : [],
      ),
      donation: donation > 0 && fundId !== null ? { fundId, amount: donation } : null,
      cashRounding: sale.cashRounding,
    }),
  });
  if (stored.again) {
    const earlier = await house.database.ask(async (sql) => {
      if (sale.asked) await wasCarriedOut(sql, sale.asked);
      return store.finishedSale(sql, basket.id);
    });
    if (earlier) return earlier;
  }
  const promised = lines.some((line) => line.promised);
  const charged = tenders.some(({ accountId }) => accountId !== null) || lines.some((line) => line.account);
  const places = new Set([facts.placeId, ...placesLeft(lines, facts)]);
  tellTills(house, { tillId, saleId: basket.id, places, promised, charged }, stockedItems(sale)).catch(
    (error: unknown) => house.log.error({ err: error }, 'the tills could not be told of a sale'),
  );
  return {
    id: basket.id,
    number: receiptNumber(facts.tillNumber, stored.number),
    total: priced.total,
    donation,
    cashRounding: sale.cashRounding,
    handed: sum(tenders.map(({ handed }) => handed)),
    change: sum(tenders.map(({ handed, amount }) => handed - amount)),
    tenders: tenders.map(({ name, amount, handed, tip }) => ({ name, amount, handed, tip })),
    points: stored.points ?? null,
  };
}

function accountOwner(accountId: number, { accounts }: Facts): number {
  const account = accounts.get(accountId);
  if (!account) throw new Error('money is for an account that is not known');
  return account.customerId;
}

/** The places that promised goods have left: they lie where they were picked. */
const placesLeft = (lines: readonly BasketLine[], { promises }: Facts): number[] =>
  lines.flatMap(({ promised }) => {
    const known = promised && promises.get(promised.promiseId);
    const line = known?.lines.find(({ position }) => position === promised?.position);
    return line?.order?.placeId ?? [];
  });

/** What the sale does to promises. */
function promisesToMove(lines: readonly BasketLine[], priced: PricedBasket): SaleToFinish['promises'] {
  const changes = promiseChanges(lines, priced);
  if (typeof changes === 'string') throw new Problem('promise-changed', changes);
  return changes.map(({ id, moves, handed }) => ({ id, moves, gone: handed }));
}

/** Goods went, came back, or both; so do deposits that go back. */
function saleKind(lines: readonly BasketLine[]): 'sale' | 'return' | 'exchange' {
  const back = ({ promised, account, listPrice }: BasketLine) =>
    promised?.part === 'back' || (account !== undefined && listPrice < 0);
  if (lines.some(back)) {
    return lines.some((line) => !back(line) && line.promised?.part !== 'fee') ? 'exchange' : 'return';
  }
  if (lines.every(({ quantity }) => quantity > 0)) return 'sale';
  return lines.every(({ quantity }) => quantity < 0) ? 'return' : 'exchange';
}

/** Of what is sold, the items whose stock is kept. */
const stockedItems = ({ facts }: SaleToStore): number[] =>
  facts.items.filter(({ stocked }) => stocked).map(({ id }) => id);

function storedLines(sale: SaleToStore): LineToFinish[] {
  const { lines, priced } = sale;
  const stocked = new Set(stockedItems(sale));
  return lines.map((line, place) => {
    const figures = priced.lines[place];
    if (!figures) throw new Error('a line was not priced');
    const { unitPrice, regular, net, records, taxes } = figures;
    return {
      position: place + 1,
      itemId: line.itemId,
      number: line.number,
      name: line.name,
      unit: line.unit,
      quantity: line.quantity,
      serial: line.serial,
      bundle: line.bundle,
      ageChecked: line.ageChecked,
      storedValue: line.storedValue,
      promised: line.promised,
      account: line.account,
      note: line.note ?? '',
      gift: line.gift ?? false,
      unitPrice,
      regular,
      net,
      records,
      taxes,
      comesBack: line.comesBack ?? withoutReceipt(line),
      stocked: stocked.has(line.itemId),
    };
  });
}

/** Goods that come back without any more said. */
const withoutReceipt = ({ quantity }: BasketLine) =>
  quantity < 0 ? { reason: 'Without receipt', condition: 'to-stock' } : undefined;

/** How the receipt goes out by itself: as the customer likes it, where that is known. */
function receiptWay({ customerReceipt }: Facts): { receiptBy: string; receiptTo: string } {
  if (!customerReceipt) return { receiptBy: 'print', receiptTo: '' };
  const { by, mail, phone } = customerReceipt;
  const to = by === 'mail' ? mail : by === 'text' ? phone : '';
  // A customer without an address gets paper.
  return (by === 'mail' || by === 'text') && !to
    ? { receiptBy: 'print', receiptTo: '' }
    : { receiptBy: by, receiptTo: to };
}

/** Stores the sale; what was taken elsewhere meanwhile is said in words, and nothing is stored. */
async function finishStoring({ database }: House, sale: SaleToFinish): Promise<store.StoredSale> {
  try {
    return await database.ask((sql) => store.finishSale(sql, sale));
  } catch (error) {
    const state = sqlState(error);
    const about = (error as Error).message;
    if (state === RAISED.offerUsedUp) throw about === 'points' ? pointsUsed() : usedUp([about], []);
    if (state === RAISED.numberTaken) {
      throw new Problem(
        'number-taken',
        `The card ·· ${lastFour(about)} was sold or frozen meanwhile. Take its line out.`,
      );
    }
    if (state === RAISED.promiseChanged) {
      throw new Problem(
        'promise-changed',
        'What was promised has changed meanwhile: it was handed over, paid or cancelled elsewhere.',
        { detail: 'Take its lines out, and look at it under Waiting.' },
      );
    }
    if (state === RAISED.paymentChanged) throw paymentChanged();
    if (state === RAISED.returnedMeanwhile) {
      throw new Problem(
        'returned-meanwhile',
        'Goods of this return came back already, or their sale was voided.',
        {
          detail: 'Look at the sale again, and take those lines out of the basket.',
        },
      );
    }
    throw error;
  }
}

/** Once the till has its answer: whoever waits at the counter comes first. */
async function tellTills(
  house: House,
  {
    tillId,
    saleId,
    places,
    promised,
    charged,
  }: { tillId: number; saleId: string; places: ReadonlySet<number>; promised: boolean; charged: boolean },
  itemIds: readonly number[],
) {
  await setImmediate();
  house.events.tell({ kind: 'sale-finished', tillId, saleId });
  if (promised) house.events.tell({ kind: 'promises-changed' });
  if (charged) house.events.tell({ kind: 'people-changed', customerId: null });
  house.printing.wake();
  house.outbox.wake();
  for (const placeId of itemIds.length > 0 ? places : []) {
    const levels = await house.database.ask((sql) => store.levelsAt(sql, placeId, itemIds));
    house.events.tell({ kind: 'stock-changed', placeId, levels });
  }
}
