import { v4 as newId } from 'uuid';
import type { PaymentView, RefundPlan } from '../../contract/payment.ts';
import type { RefundQuote, Returnable } from '../../contract/returns.ts';
import type { Basket, BasketLine, ComesBack } from '../../core/counter/basket.ts';
import { sum } from '../../core/money.ts';
import type { Answer, Browser } from './browser.ts';

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
  const planned = parts ?? (await planFor(browser, basket, expectedTotal)).body.parts;
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
