import type { Paper, PaperRow } from '../journal/paper.ts';
import { formatMoneyIn } from '../money.ts';
import { headRows, wordRows, type PromiseOnPaper } from './promiseOnPaper.ts';

/** What the paper of a relay says. */
export interface RelayOnPaper extends PromiseOnPaper {
  partner: string;
  /** As the shop writes it. */
  day: string;
  goods: string;
  recipient: string;
  address: string;
  wishes: string;
  card: string;
}

/** What the customer of a relay takes home. */
export function relayPaper(relay: RelayOnPaper): Paper {
  const { shop, number, digits, currency, total, partner, day, goods, recipient, address } = relay;
  const rows: PaperRow[] = [
    ...headRows(relay, `Relay ${number}`, 'Ordered by'),
    { kind: 'text', text: goods },
    { kind: 'pair', left: 'For', right: recipient },
    { kind: 'text', text: address },
    { kind: 'pair', left: `Delivered by ${partner}`, right: day },
    ...wordRows(relay.wishes && `Wishes: ${relay.wishes}`),
    ...wordRows(relay.card && `Card: ${relay.card}`),
    { kind: 'rule' },
    {
      kind: 'pair',
      left: `Total with tax ${currency}`,
      right: formatMoneyIn(shop.locale, total, digits),
      strong: true,
    },
    { kind: 'gap' },
    { kind: 'barcode', text: number },
  ];
  return { title: `Relay ${number}`, rows };
}
