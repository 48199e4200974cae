import { openingOf } from '../core/drawer/opening.ts';
import { worth } from '../core/drawer/countSheet.ts';
import { receiptNumber } from '../core/journal/receiptNumber.ts';
import {
  closingEntries,
  openingEntries,
  saleEntries,
  soldAndReturned,
  type LedgerEntry,
} from '../core/books/entries.ts';
import { sum } from '../core/money.ts';
import { currencyOf } from '../core/payment/currency.ts';
import { isDeposit } from '../core/promises/promised.ts';
import { one, type Writer } from '../server/db/database.ts';
import { readShop } from '../server/shop/store.ts';
import type { PastShift } from './history.ts';
import { pastClosing, piecesFor, type RungUp } from './pastClosing.ts';
import { pastReceipts, type PastHouse, type PastReceipt } from './pastReceipts.ts';
import type { PastType } from './pastTenders.ts';
import { storeHistory } from './storeHistory.ts';

const FLOAT = 200_00;
/** So long after it a sale that was a mistake is voided. */
const VOIDED_MS = 3 * 60_000;

/**
 * Lays down past shifts with everything that a shift leaves behind, in a few statements instead of one for each
 * sale. What is computed is computed by the same functions as at a till; `npm run verify` finds no difference.
 */
export async function layHistory(sql: Writer, past: readonly PastShift[], house: PastHouse): Promise<void> {
  const shop = await readShop(sql);
  const currency = currencyOf(shop.currency);
  const types = await sql.query<PastType>(
    'select id, kind, name, counted from tender_type order by position, name',
  );
  const fund = one(
    await sql.query<{ id: number; name: string }>('select id, name from fund order by id limit 1'),
  );
  const rungUp = await pastReceipts(sql, house, types);
  const tills = await sql.query<{ id: number; number: number }>('select id, number from till');
  const states = new Map(
    tills.map(({ id, number }) => [
      number,
      { id, receipt: 0, shift: 0, left: 0, keep: piecesFor(FLOAT, currency) },
    ]),
  );

  const shifts: object[] = [];
  const sales: object[] = [];
  const events: object[] = [];
  const voids: object[] = [];

  for (const [at, shift] of past.entries()) {
    const till = states.get(shift.till);
    const cashier = house.staff[shift.cashier];
    if (!till || !cashier) throw new Error('a past shift has no till or nobody at it');
    const shiftId = at + 1;
    const opening = till.keep;
    const [tillId, staffId] = [till.id, cashier.staffId];
    const of = { tillId, staffId, shiftId };
    const post = (kind: string, when: Date, entries: LedgerEntry[], saleId: string | null = null): number =>
      events.push({ id: events.length + 1, kind, at: when.toISOString(), ...of, saleId, entries });

    post('shift-opened', shift.openedAt, openingEntries({ tillId, ...openingOf(worth(opening), till.left) }));
    const placeId = house.places[shift.place] ?? 0;
    const rung: RungUp[] = [];
    for (const sale of shift.sales) {
      const receipt = receiptNumber(shift.till, till.receipt + 1);
      const done = rungUp(sale, { placeId, receipt, nth: sales.length });
      if (!done) continue;
      till.receipt += 1;
      const { id, lines, priced, tenders, donation } = done;
      const voided = sale.way?.voided ?? false;
      rung.push({ number: till.receipt, lines, priced, tenders, donation, voided });
      sales.push({
        ...of,
        ...storedSale(done, shop.currency, fund.id),
        number: till.receipt,
        at: sale.at.toISOString(),
      });
      const entries = entriesOf(done, tillId, fund.id);
      post('sale', sale.at, entries, id);
      if (!voided) continue;
      const voidedAt = new Date(sale.at.getTime() + VOIDED_MS);
      const undone = entries.map((entry) => ({ ...entry, amount: 0 - entry.amount }));
      const eventId = post('void', voidedAt, undone, id);
      voids.push({ ...of, saleId: id, voidedAt: voidedAt.toISOString(), eventId });
    }

    const closing = pastClosing(rung, {
      opening,
      variance: shift.variance,
      float: FLOAT,
      name: cashier.name,
      fund: fund.name,
      types,
      currency,
    });
    post(
      'shift-closed',
      shift.closedAt,
      closingEntries({ tillId, variance: closing.variance, banked: closing.plan.banked }),
    );
    till.shift += 1;
    shifts.push({
      ...of,
      number: till.shift,
      openedAt: shift.openedAt.toISOString(),
      closedAt: shift.closedAt.toISOString(),
      opening,
      float: worth(opening),
      closing,
    });
    till.keep = closing.plan.keep;
    till.left = closing.plan.kept;
  }
  await storeHistory(sql, { shifts, sales, events, tills: [...states.values()], voids });
}

/** A past sale as it is stored. */
function storedSale(
  { id, day, placeId, customerId, lines, priced, tenders, donation }: PastReceipt,
  currency: string,
  fundId: number,
) {
  const { taxes } = priced;
  return {
    id,
    kind: lines.some(({ quantity }) => quantity < 0) ? 'return' : 'sale',
    placeId,
    businessDate: day,
    currency,
    taxMode: priced.taxMode,
    regular: priced.regular,
    reductions: priced.reductions,
    tax: sum(taxes.map(({ tax }) => tax)),
    total: priced.total,
    donation,
    fundId: donation > 0 ? fundId : null,
    customerId,
    offerUses: priced.offers.map(({ id: offerId, uses }) => ({ offerId, uses })),
    lines: lines.map((line, row) => ({ ...line, ...priced.lines[row], position: row + 1 })),
    taxes: taxes.map((tax, row) => ({ ...tax, position: row + 1 })),
    tenders: tenders.map((tender, row) => ({ ...tender, position: row + 1 })),
  };
}

/** What the books have of a past sale. */
function entriesOf(
  { lines, priced, tenders, donation }: PastReceipt,
  tillId: number,
  fundId: number,
): LedgerEntry[] {
  return saleEntries({
    tillId,
    total: priced.total,
    taxes: priced.taxes,
    tenders,
    valueSold: lines.flatMap(({ storedValue }, row) =>
      storedValue ? [{ kind: storedValue.kind, amount: priced.lines[row]?.net ?? 0 }] : [],
    ),
    onAccounts: [],
    deposits: lines.flatMap(({ promised }, row) =>
      promised && isDeposit(promised.part)
        ? [{ promiseId: promised.promiseId, amount: priced.lines[row]?.net ?? 0 }]
        : [],
    ),
    donation: donation > 0 ? { fundId, amount: donation } : null,
    cashRounding: 0,
    ...soldAndReturned(lines, priced),
  });
}
