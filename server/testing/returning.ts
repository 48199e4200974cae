import { v4 as newId } from 'uuid';
import type { PaymentView, RefundPlan } from '../../contract/payment.ts';
import type { RefundQuote, Returnable } from '../../contract/returns.ts';
import type { Basket, BasketLine, ComesBack } from '../../core/counter/basket.ts';
import { sum } from '../../core/money.ts';
import { coversOf, type Step } from '../../core/staff/approval.ts';
import type { FigureProblem } from '../../contract/counter.ts';
import type { Answer, Browser } from './browser.ts';
import { pay, ringUp, type TestHouse } from './testHouse.ts';

/** What comes back: the line of the sale and how many thousandths of it. */
export interface Part {
  position: number;
  quantity: number;
}

/** Lines of a sale as the till puts them into a basket when they come back, with what is refunded. */
export async function linesBack(
  browser: Browser,
  saleId: string,
  parts: readonly Part[],
  more: Partial<Omit<ComesBack, 'sale'>> & { way?: 'share' | 're-price'; countersign?: string } = {},
): Promise<{ lines: BasketLine[]; refund: number }> {
  const { body: sale } = await browser.ask<Returnable>('GET', `/journal/sales/${saleId}/returnable`);
  const quote = await browser.ask<RefundQuote>('POST', `/journal/sales/${saleId}/quotes`, { parts });
  if (quote.status !== 200) throw new Error(`no quote: ${JSON.stringify(quote.body)}`);
  const way = more.way ?? quote.body.way;
  const figures = (way === quote.body.way ? quote.body.chosen : quote.body.other) ?? quote.body.chosen;
  const lines = parts.map(({ position, quantity }): BasketLine => {
    const line = sale.lines.find((one) => one.position === position);
    const worked = figures.find((one) => one.position === position);
    if (!line || !worked) throw new Error(`no line ${position}`);
    const { itemId, number, name, unit, decimals, taxCategoryId, unitPrice } = line;
    return {
      id: newId(),
      itemId,
      number,
      name,
      unit,
      decimals,
      taxCategoryId,
      quantity: 0 - quantity,
      listPrice: unitPrice,
      ...(line.serial === null ? {} : { serial: line.serial }),
      comesBack: {
        reason: more.reason ?? 'Not wanted',
        condition: more.condition ?? 'to-stock',
        sale: {
          saleId,
          receipt: sale.receipt,
          position,
          way,
          figures: worked.figures,
          late: sale.late,
          ...(more.countersign ? { countersign: more.countersign } : {}),
        },
      },
    };
  });
  return {
    lines,
    refund: 0 - sum(figures.map((one) => one.figures.net + sum(one.figures.taxes.map(({ tax }) => tax)))),
  };
}

export const planFor = (
  browser: Browser,
  basket: Basket,
  expectedTotal: number,
): Promise<Answer<RefundPlan>> =>
  browser.ask<RefundPlan>('POST', '/payment/refunds/plan', { basket, expectedTotal });

/** Gives a refund as it is planned, or as it is said. */
export async function giveBack(
  browser: Browser,
  basket: Basket,
  expectedTotal: number,
  parts?: { to: string; saleId?: string | null; position?: number | null; amount: number }[],
  countersign?: string,
): Promise<Answer<PaymentView>> {
  const plan = parts ? undefined : await planFor(browser, basket, expectedTotal);
  // What is refused already gives nothing back.
  if (plan && plan.status !== 200)
    return { ...plan, body: { ...plan.body, basketId: basket.id, tenders: [], finished: null, begun: null } };
  const planned = parts ?? plan?.body.parts ?? [];
  return browser.ask<PaymentView>('POST', '/payment/refunds', {
    basket,
    expectedTotal,
    parts: planned.map((part) => ({ id: newId(), ...part })),
    ...(countersign ? { countersign } : {}),
  });
}

/** Takes goods of a sale back and refunds them as planned. */
export async function bringBack(browser: Browser, saleId: string, parts: readonly Part[]) {
  const { lines, refund } = await linesBack(browser, saleId, parts);
  const basket: Basket = { id: newId(), lines };
  return { basket, refund, answer: await giveBack(browser, basket, 0 - refund) };
}

/** A sale of several units of each item, paid in cash: what the server prices it at is asked for first. */
export async function soldIn(
  house: TestHouse,
  browser: Browser,
  numbers: readonly string[],
  units = 1,
): Promise<{ id: string; total: number }> {
  const sale = await ringUp(house, numbers);
  sale.basket.lines = sale.basket.lines.map((line) => ({ ...line, quantity: units * 1000 }));
  const refused = await browser.ask<{ data: FigureProblem }>(
    'POST',
    '/counter/sales',
    { ...sale, expectedTotal: 1, handed: 100_000_00 },
    { 'idempotency-key': sale.basket.id },
  );
  const { total } = refused.body.data.priced;
  const { status } = await pay(browser, { ...sale, expectedTotal: total, handed: total });
  if (status !== 200) throw new Error('a sale was refused');
  return { id: sale.basket.id, total };
}

/** How many of an item are in stock where the first till stands. */
export async function stockOf({ house }: TestHouse, number: string): Promise<number> {
  const [row] = await house.database.ask((sql) =>
    sql.query<{ quantity: number }>(
      `select quantity from stock_level join item on item.id = item_id
       where number = $1 and place_id = (select place_id from till where number = 1)`,
      [number],
    ),
  );
  return row?.quantity ?? 0;
}

/** What an approval in a test covers unless something else is said: any amount of one subject. */
export const anyAmount = (subject: string): Step => ({
  subject,
  from: null,
  to: null,
  unit: 'money',
  amount: 99_999_999,
});

const SUBJECTS: Readonly<Record<string, string>> = { 'sale.void': 'sale', 'return.large': 'refund' };

/** A second person approves one step. @param about the basket or sale it is for @returns the approval */
export async function approveFor(
  browser: Browser,
  about: string,
  right: string,
  covers: readonly Step[] = [anyAmount(SUBJECTS[right] ?? right)],
): Promise<string> {
  const { body, status } = await browser.ask<{ id: string }>('POST', '/staff/countersigns', {
    basketId: about,
    right,
    reason: 'Asked for',
    covers,
    pin: '3690',
  });
  if (status !== 200) throw new Error(`not approved: ${JSON.stringify(body)}`);
  return body.id;
}

/** Approves just what a refusal says is needed. */
export function approveNeeded(browser: Browser, refused: Answer<unknown>): Promise<string> {
  const { data } = refused.body as { data: { needed: { right: string; about: string; steps: Step[] } } };
  const { right, about, steps } = data.needed;
  return approveFor(browser, about, right, coversOf(steps));
}
