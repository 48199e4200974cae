import type { Paper, PrintKind } from '../core/journal/paper.ts';
import type { PrinterSetup } from '../core/journal/printerSetup.ts';
import { printerTest } from '../core/journal/printerTest.ts';
import { shopTime } from './clock.ts';
import type { Reader, Writer } from './db/database.ts';
import { cashMovePaper, openingPaper } from './drawer/cashMoves.ts';
import { handoverPaper } from './drawer/handover.ts';
import { reportPaper } from './drawer/service.ts';
import type { OutboxMessage } from './outbox/store.ts';
import type { PrintJob } from './journal/printing/store.ts';
import { messageOfOrder, paperOfOrder } from './promises/orderPapers.ts';
import { paperOfRelay, promiseMessage, promisePaper } from './promises/papers.ts';
import { accountLetter, sheetsOfLetter } from './people/accountLetters.ts';
import { statementsOn } from './people/statementPdf.ts';
import { phoneCodePaper, withPhoneCode } from './people/phoneCodes.ts';
import { findPromise } from './promises/store.ts';
import { daySummaryPaper } from './figures/daySummary.ts';
import { giftCardOf, receiptHead, receiptPaper } from './journal/service.ts';
import { voidPaper } from './journal/voids/paper.ts';
import { makePdf } from './pdf.ts';
import { readShop } from './shop/store.ts';
import { orderMail, orderPdf } from './supply/orderPaper.ts';
import { ticketPaper } from './waiting/service.ts';

const NO_PAPER: Paper = { title: 'Drawer', rows: [] };

/** What is printed for a job: each room makes its own papers. */
export function printedPaper(
  sql: Reader,
  job: PrintJob,
  setup: PrinterSetup,
  now: Date,
): Paper | Promise<Paper> {
  const { kind, saleId, shiftId, heldId, openingId, cashMoveId, storedValueId, handoverId, promiseId } = job;
  if (kind === 'drawer-only') return NO_PAPER;
  if (kind === 'test-page') return testPage(sql, job, setup, now);
  if (storedValueId !== null) return giftCardOf(sql, storedValueId);
  if (saleId !== null && (kind === 'receipt' || kind === 'copy' || kind === 'gift-receipt')) {
    return receiptPaper(sql, saleId, kind);
  }
  if (saleId !== null && kind === 'void-slip') return voidPaper(sql, saleId);
  if (handoverId !== null) return handoverPaper(sql, handoverId);
  if (promiseId !== null) return paperOfPromise(sql, promiseId, kind);
  if (heldId !== null) return ticketPaper(sql, heldId);
  if (openingId !== null) return openingPaper(sql, openingId);
  if (cashMoveId !== null) return cashMovePaper(sql, cashMoveId);
  if (shiftId !== null) return reportPaper(sql, shiftId);
  throw new Error('a print job is about nothing');
}

function paperOfPromise(sql: Reader, id: string, kind: PrintKind): Promise<Paper> {
  if (kind === 'layaway') return promisePaper(sql, id, receiptHead);
  return kind === 'relay' ? paperOfRelay(sql, id, receiptHead) : paperOfOrder(sql, id, kind, receiptHead);
}

async function messageOfPromise(sql: Reader, id: string, now: Date): Promise<Paper> {
  const promise = await findPromise(sql, id);
  return promise?.kind === 'order'
    ? messageOfOrder(sql, id, receiptHead)
    : promiseMessage(sql, id, receiptHead, now);
}

async function testPage(sql: Reader, job: PrintJob, setup: PrinterSetup, now: Date): Promise<Paper> {
  const shop = await readShop(sql);
  return printerTest({
    shop: shop.name,
    till: job.tillNumber,
    when: shopTime(now.toISOString(), shop),
    setup,
  });
}

/** What goes out with a mail or a text message. */
export async function sentPaper(sql: Writer, message: OutboxMessage, now: Date): Promise<Paper> {
  const { kind, recipient, saleId, storedValueId, shiftId, promiseId, accountId, customerId, about } =
    message;
  if (message.purchaseOrderId !== null) return orderMail(sql, message.purchaseOrderId, receiptHead);
  if (about?.kind === 'day') return daySummaryPaper(sql, about.day);
  if (accountId !== null && about) return accountLetter(sql, accountId, about, receiptHead);
  if (promiseId !== null) return messageOfPromise(sql, promiseId, now);
  if (saleId !== null) {
    const receipt = await receiptPaper(sql, saleId);
    return kind === 'mail' ? withPhoneCode(sql, receipt, { saleId, recipient }, now) : receipt;
  }
  if (customerId !== null) return phoneCodePaper(sql, customerId, receiptHead, now);
  if (storedValueId !== null) return giftCardOf(sql, storedValueId);
  if (shiftId !== null) return reportPaper(sql, shiftId);
  throw new Error('a message is about nothing');
}

/** What goes with a message as whole sheets; nothing where its paper is all. */
export async function sentSheets(
  sql: Reader,
  { accountId, about, purchaseOrderId }: OutboxMessage,
): Promise<Buffer | null> {
  if (purchaseOrderId !== null) return orderPdf(sql, purchaseOrderId);
  if (accountId === null || !about || about.kind === 'day') return null;
  // Loaded when a mail goes out: it is large.
  const { sheets, size } = await sheetsOfLetter(sql, accountId, about);
  return makePdf(statementsOn(sheets, size));
}
