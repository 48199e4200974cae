import { formatDay } from '../../core/locale.ts';
import type { JournalPage, JournalQuery, JournalRow, JournalSale } from '../../contract/journal.ts';
import type { Paper } from '../../core/journal/paper.ts';
import {
  giftCardPaper,
  giftReceipt,
  receipt,
  type ReceiptData,
  type ReceiptHead,
} from '../../core/journal/receipt.ts';
import { returnProblem, voidProblem } from '../../core/journal/afterTheSale.ts';
import { parseJournalSearch } from '../../core/journal/journalSearch.ts';
import { receiptNumber } from '../../core/journal/receiptNumber.ts';
import { formatMoneyIn, sum } from '../../core/money.ts';
import { planStanding } from '../../core/promises/plan.ts';
import { promiseNumber } from '../../core/promises/promiseNumber.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { businessDate, instant, iso, shopTime } from '../clock.ts';
import type { Person } from '../../contract/staff.ts';
import type { SendReceipt } from '../../contract/payment.ts';
import type { Reader, Writer } from '../db/database.ts';
import { Problem } from '../http/problem.ts';
import { STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import { accountsOfSale } from '../people/accountStore.ts';
import { mayBeJoined } from '../people/loyalty.ts';
import { pointsOfSale } from '../people/loyaltyStore.ts';
import { pointsOnPaper } from '../people/pointsOnPaper.ts';
import { keepReceiptWish } from '../people/receiptWish.ts';
import { promisesOfSale } from '../promises/store.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { addMessage, messagesOf } from '../outbox/store.ts';
import { addPrintJob } from './printing/store.ts';
import { journalWhere, whereAfter, type JournalFilter } from './searchStore.ts';
import * as store from './store.ts';
import { saleFacts } from './voids/store.ts';

const PAGE = 100;
/** So many are counted; above that the journal says "more than". */
const MOST_COUNTED = 5000;

/** What was rung up, newest first, a page at a time. @param next where the page before ended */
export async function journalPage(
  sql: Reader,
  { find, next, ...chosen }: JournalQuery,
): Promise<JournalPage> {
  const { currency } = await readShop(sql);
  const [at = '', number = '', id = ''] = next ? next.split('|') : [];
  const filter: JournalFilter = { ...parseJournalSearch(find, currencyOf(currency).digits), ...chosen };
  const fits = await journalWhere(sql, filter);
  const page = next ? whereAfter(fits, { at, number: Number(number), id }) : fits;
  const rows = await store.listSales(sql, page, PAGE + 1);
  const last = rows.length > PAGE ? rows[PAGE - 1] : undefined;
  const counted = next ? null : await store.countSales(sql, fits, MOST_COUNTED);
  return {
    rows: rows.slice(0, PAGE).map(journalRow),
    next: last ? `${iso(last.finishedAt)}|${last.count}|${last.id}` : null,
    counted: counted && {
      count: Math.min(counted.count, MOST_COUNTED),
      more: counted.count > MOST_COUNTED,
      total: counted.total,
    },
  };
}

/** A sale with everything about it. @param tillId where it is looked at @throws Problem 404 */
export async function journalSale(sql: Reader, id: string, tillId: number, at: Date): Promise<JournalSale> {
  const sale = await findSale(sql, id);
  const afterwards = await store.afterwardsOf(sql, id);
  const facts = await saleFacts(sql, id, tillId);
  return {
    pageLines: await store.pageLines(sql, id),
    entries: await store.entriesOf(sql, id),
    afterwards: {
      ...afterwards,
      papers: afterwards.papers.map((one) => ({ ...one, at: jsonTime(one.at) })),
      returns: afterwards.returns.map((one) => ({ ...one, at: jsonTime(one.at) })),
      notes: afterwards.notes.map((one) => ({ ...one, at: jsonTime(one.at) })),
      corrections: afterwards.corrections.map((one) => ({ ...one, at: jsonTime(one.at) })),
      void: afterwards.void && { ...afterwards.void, at: jsonTime(afterwards.void.at) },
    },
    noVoid: (facts && voidProblem(facts)) ?? '',
    returnable: facts !== undefined && returnProblem(facts) === null && (await store.hasGoodsLeft(sql, id)),
    ...journalRow(sale),
    paper: receipt(await receiptData(sql, sale)),
    printedAt: sale.printedAt && iso(sale.printedAt),
    sent: (await messagesOf(sql, id)).map((one) => ({ ...one, at: jsonTime(one.at) })),
    note: sale.note,
    tenders: sale.tenders.map(({ name, amount, handed, tip }) => ({ name, amount, handed, tip })),
    donation: sale.donation,
    points: sale.hasPoints ? await pointsOfSale(sql, id) : null,
    mayJoin: await mayBeJoined(sql, id, at),
    receiptCustomer: await store.receiptCustomer(sql, id),
  };
}

/**
 * Sends a receipt out once more, another way; remembers it for the customer where that is wanted.
 * @returns for whom it was remembered
 */
export async function sendReceipt(
  sql: Writer,
  person: Person,
  saleId: string,
  { by, to, remember }: SendReceipt,
  at: Date,
): Promise<number | null> {
  await findSale(sql, saleId);
  if (by === 'mail' || by === 'text') {
    await addMessage(sql, {
      kind: by,
      recipient: to,
      subject: 'Your receipt',
      saleId,
      storedValueId: null,
      at,
    });
  } else if (by !== 'none') {
    const printed = await store.wasPrinted(sql, saleId);
    const kind = by === 'gift' ? 'gift-receipt' : printed ? 'copy' : 'receipt';
    await addPrintJob(sql, { tillId: person.tillId, kind, saleId, at });
  }
  if (by === 'gift' || !(remember || by === 'none')) return null;
  const customer = await store.receiptCustomer(sql, saleId);
  if (!customer) return null;
  await keepReceiptWish(sql, customer, { by, to }, { staffId: person.staffId, at });
  return customer.id;
}

/** A paper about a stored sale, made from what was stored. @throws Problem 404 */
export async function receiptPaper(
  sql: Reader,
  id: string,
  kind: 'receipt' | 'copy' | 'gift-receipt' = 'receipt',
): Promise<Paper> {
  const data = await receiptData(sql, await findSale(sql, id));
  return kind === 'gift-receipt' ? giftReceipt(withGifts(data)) : receipt(data, { copy: kind === 'copy' });
}

/** How a card was read, as receipts say it. */
const ENTRY_WORDS: Record<string, string> = {
  tap: 'tapped',
  insert: 'inserted',
  swipe: 'swiped',
  keyed: 'keyed, card not present',
  'on-file': 'card on file',
};

/** What stands on every paper for customers. */
export function receiptHead(shop: ShopRow): ReceiptHead {
  const { name, receiptWords: words, receiptThanks: thanks, receiptLogo: logo, receiptTerms: terms } = shop;
  return { name, words, thanks, logo, terms, locale: shop.receiptLocale };
}

/** The paper of a gift card that was sold. */
export async function giftCardOf(sql: Reader, id: number): Promise<Paper> {
  const card = await store.soldCard(sql, id);
  if (!card) throw new Problem('no-card', 'There is no such card.');
  const shop = await readShop(sql);
  return giftCardPaper({
    shop: receiptHead(shop),
    name: STORED_VALUE_NAMES[card.kind],
    number: card.number,
    amount: card.amount,
    currency: shop.currency,
    digits: currencyOf(shop.currency).digits,
    expires: card.expiresOn,
  });
}

/** Asked for without any line marked, a gift receipt is for all of them. */
function withGifts(data: ReceiptData): ReceiptData {
  if (data.lines.some(({ gift }) => gift)) return data;
  return { ...data, lines: data.lines.map((line) => ({ ...line, gift: true })) };
}

async function receiptData(sql: Reader, sale: FoundSale): Promise<ReceiptData> {
  const shop = await readShop(sql);
  const { id, tenders, exemptReason: reason, exemptCertificate: certificate } = sale;
  return {
    shop: receiptHead(shop),
    place: sale.place,
    till: `Till ${sale.till}`,
    number: receiptNumber(sale.till, sale.count),
    when: shopTime(sale.finishedAt, shop),
    cashier: sale.cashier,
    customer: sale.customer,
    digits: currencyOf(sale.currency).digits,
    currency: sale.currency,
    lines: sale.saleLines,
    regular: sale.regular,
    reductions: sale.reductions,
    taxes: sale.taxes,
    taxMode: sale.taxMode,
    total: sale.total,
    note: sale.note,
    exemption: reason === null ? null : { reason, certificate },
    tenders: tenders.map(({ name, handed, tip, entry, approval, signature }) => ({
      name,
      amount: handed,
      tip,
      facts: entry ? [ENTRY_WORDS[entry], approval && `approval ${approval}`].filter(Boolean).join(', ') : '',
      signature,
    })),
    donation: sale.fund === null ? null : { fund: sale.fund, amount: sale.donation },
    cashRounding: sale.cashRounding,
    change: sum(tenders.map(({ handed, amount }) => handed - amount)),
    promises: sale.hasPromises
      ? await promisesOnReceipt(
          sql,
          id,
          shop,
          businessDate(instant(sale.finishedAt).toJSDate(), shop.timezone),
        )
      : [],
    accounts: sale.hasAccounts ? await accountsOfSale(sql, id) : [],
    points: sale.hasPoints ? await pointsOnReceipt(sql, id, sale.finishedAt, shop) : [],
  };
}

/** What a sale did to the points of its customer, as its receipt says it; nothing where it did nothing. */
async function pointsOnReceipt(
  sql: Reader,
  saleId: string,
  finishedAt: string,
  shop: ShopRow,
): Promise<NonNullable<ReceiptData['points']>> {
  const points = await pointsOfSale(sql, saleId);
  return points ? pointsOnPaper(sql, points, shop, instant(finishedAt).toJSDate()) : [];
}

/** How goods that wait stood when the sale was finished. @param day the shop's day of the sale */
async function promisesOnReceipt(sql: Reader, saleId: string, shop: ShopRow, day: string) {
  const promises = await promisesOfSale(sql, saleId);
  const { digits } = currencyOf(shop.currency);
  return promises.map(({ kind, count, paidThen, leftThen: left, plan }) => {
    const { next } = planStanding(plan, paidThen, day, left);
    return {
      number: promiseNumber(kind, count),
      paid: paidThen,
      left,
      next: next
        ? `Next: ${formatMoneyIn(shop.receiptLocale, next.amount, digits)} on ${formatDay(next.day, shop.receiptLocale)}`
        : '',
    };
  });
}

type FoundSale = store.SaleRow & store.SaleFigures;

async function findSale(sql: Reader, id: string): Promise<FoundSale> {
  const sale = await store.findSale(sql, id);
  if (!sale) throw new Problem('no-sale', 'There is no such sale.');
  return sale;
}

/** A timestamp as JSON has it, in UTC. */
const jsonTime = (at: string): string => new Date(at).toISOString();

function journalRow(row: store.SaleRow): JournalRow {
  const { id, count, finishedAt, cashier, till, units, lines, firstLine, total, kind, voided } = row;
  return {
    id,
    number: receiptNumber(till, count),
    finishedAt: iso(finishedAt),
    cashier,
    till,
    units,
    lines,
    firstLine,
    total,
    kind,
    voided,
    customer: row.customer,
  };
}
