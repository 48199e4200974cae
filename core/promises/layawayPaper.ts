import type { Paper, PaperRow } from '../journal/paper.ts';
import type { ReceiptHead } from '../journal/receipt.ts';
import { formatMoneyIn, type Money } from '../money.ts';
import { goodsRows, headRows, type GoodsOnPaper, type PromiseOnPaper } from './promiseOnPaper.ts';

/** What the paper of a layaway says. */
export interface LayawayOnPaper extends PromiseOnPaper {
  lines: readonly GoodsOnPaper[];
  /** What is due when, days as the shop writes them. */
  plan: readonly { day: string; amount: Money }[];
  fee: Money;
  /** The goods still have to come. */
  coming: boolean;
  /** Terms in the words of the shop. */
  words: string;
}

/** The paper that a customer takes home and that is scanned to pay off or to hand over. */
export function layawayPaper(layaway: LayawayOnPaper): Paper {
  const { shop, number, digits, currency, lines, total, plan, fee } = layaway;
  const money = (amount: Money) => formatMoneyIn(shop.locale, amount, digits);
  const rows: PaperRow[] = [
    ...headRows(layaway, `Layaway ${number}`, 'Set aside for'),
    ...lines.flatMap((line) => goodsRows(line, money(line.net))),
    { kind: 'rule' },
    { kind: 'pair', left: `Total with tax ${currency}`, right: money(total), strong: true },
    ...(layaway.coming
      ? [{ kind: 'text' as const, text: 'The goods still have to come. We tell you when they are here.' }]
      : []),
    { kind: 'gap' },
    ...plan.map(({ day, amount }, nth): PaperRow => ({
      kind: 'pair',
      left: nth === 0 ? `Now, ${day}` : `Part ${nth}, ${day}`,
      right: money(amount),
    })),
    { kind: 'gap' },
    ...(fee > 0
      ? [
          {
            kind: 'text' as const,
            text: `Whoever does not take the goods gets the deposits back less ${money(fee)}.`,
          },
        ]
      : []),
    ...(layaway.words ? [{ kind: 'text' as const, text: layaway.words }] : []),
    ...(layaway.note ? [{ kind: 'text' as const, text: layaway.note }] : []),
    { kind: 'gap' },
    { kind: 'signature', path: '', label: `Agreed: ${layaway.customer}` },
    { kind: 'barcode', text: number },
  ];
  return { title: `Layaway ${number}`, rows };
}

/** What a customer is told by mail or text. */
export interface LayawayMessage {
  shop: ReceiptHead;
  number: string;
  customer: string;
  digits: number;
  goods: string;
  left: Money;
  /** What is due next, and when; nothing where all is paid. */
  next: { day: string; amount: Money } | null;
}

/** What is sent to remind a customer of a part, or to say that the goods are ready. */
export function layawayMessage(message: LayawayMessage): Paper {
  const { shop, number, customer, goods, next, left } = message;
  const money = (amount: Money) => formatMoneyIn(shop.locale, amount, message.digits);
  return {
    title: `Layaway ${number}`,
    rows: [
      { kind: 'title', text: shop.name },
      { kind: 'text', text: `${customer}, these goods wait for you: ${goods}.` },
      {
        kind: 'text',
        text: next
          ? `${money(next.amount)} is due on ${next.day}; ${money(left)} is left to pay.`
          : 'All is paid: come and fetch them.',
      },
      { kind: 'text', text: 'Bring this number along:' },
      { kind: 'barcode', text: number },
    ],
  };
}
