import { randomInt } from 'node:crypto';
import type { Paper } from '../../core/journal/paper.ts';
import { phoneCodeRows, phonePaper } from '../../core/journal/phonePaper.ts';
import type { ReceiptHead } from '../../core/journal/receipt.ts';
import { newPhoneCode } from '../../core/people/card.ts';
import type { Writer } from '../db/database.ts';
import { fieldProblem } from '../http/problem.ts';
import { addMessage } from '../outbox/store.ts';
import { readShop, type ShopRow } from '../shop/store.ts';
import { readProgramme } from './loyaltyStore.ts';
import { noCustomer } from './noCustomer.ts';
import { addPhoneCode, codeThatCounts, customerOfMail, whoIs } from './phoneCodeStore.ts';
import { pointsOnPaper } from './pointsOnPaper.ts';
import { lockCustomer } from './store.ts';

/** What somebody shows instead of a card: the code of a card that counts, else one that is made for their telephone. */
async function codeToShow(sql: Writer, customerId: number, at: Date): Promise<string> {
  await lockCustomer(sql, customerId);
  for (;;) {
    const known = await codeThatCounts(sql, customerId);
    if (known !== null) return known;
    // One that was given out before is made again.
    await addPhoneCode(
      sql,
      customerId,
      newPhoneCode(() => randomInt(10)),
      at,
    );
  }
}

/** A receipt as it is mailed: with the code of its customer, where it goes to their own address. */
export async function withPhoneCode(
  sql: Writer,
  paper: Paper,
  { saleId, recipient }: { saleId: string; recipient: string },
  at: Date,
): Promise<Paper> {
  const customerId = await customerOfMail(sql, saleId, recipient);
  if (customerId === null) return paper;
  return { ...paper, rows: [...paper.rows, ...phoneCodeRows(await codeToShow(sql, customerId, at))] };
}

/** The mail that brings somebody their code, and says how their points stand. */
export async function phoneCodePaper(
  sql: Writer,
  customerId: number,
  head: (shop: ShopRow) => ReceiptHead,
  at: Date,
): Promise<Paper> {
  const shop = await readShop(sql);
  const who = await whoIs(sql, customerId);
  if (!who) throw noCustomer();
  const code = await codeToShow(sql, customerId, at);
  const { on } = await readProgramme(sql);
  const facts = on ? await pointsOnPaper(sql, { customerId: who.id, balance: who.points }, shop, at) : [];
  return phonePaper(head(shop), { name: who.name, code, facts });
}

/** Mails a customer the code for their telephone. @returns where to @throws Problem 404, 422 without an address */
export async function mailPhoneCode(sql: Writer, customerId: number, at: Date): Promise<{ to: string }> {
  const who = await whoIs(sql, customerId);
  if (!who) throw noCustomer();
  if (!who.mail) throw fieldProblem('mail', `No mail address of ${who.name} is known.`);
  await addMessage(sql, {
    kind: 'mail',
    recipient: who.mail,
    subject: 'Your code',
    saleId: null,
    storedValueId: null,
    customerId,
    at,
  });
  return { to: who.mail };
}
