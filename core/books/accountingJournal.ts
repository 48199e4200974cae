import type { Money } from '../money.ts';
import { ACCOUNT_CLASSES, ACCOUNTS, type Account } from './accounts.ts';

/** An event of the books with its balanced entries. */
export interface BookedEvent {
  id: number;
  /** The shop's calendar day, `YYYY-MM-DD`. */
  day: string;
  /** What happened, e.g. `sale 1-0001`. */
  words: string;
  entries: readonly { account: Account; subject: string; amount: Money }[];
}

/** The full name of an account in the export: its class, the account, and what it is about. */
export function accountName(account: Account, subject: string): string {
  const parts = [ACCOUNT_CLASSES[account], account, ...(subject ? [subject.replaceAll(':', ' ')] : [])];
  // Two spaces would end the name; a semicolon would begin a comment.
  return parts.map((part) => part.replaceAll(/[;\t]/g, ' ').replaceAll(/ {2,}/g, ' ')).join(':');
}

/** An amount without thousands marks, as programs read it. */
export function plainAmount(amount: Money, digits: number): string {
  const figures = String(Math.abs(amount)).padStart(digits + 1, '0');
  const whole = figures.slice(0, figures.length - digits);
  const sign = amount < 0 ? '-' : '';
  return digits === 0 ? `${sign}${figures}` : `${sign}${whole}.${figures.slice(-digits)}`;
}

/**
 * The books as a plain-text accounting journal: the syntax for transactions that `ledger` (3.3) and `hledger` (1.25)
 * both read at their strictest, as their manuals describe it. Debits are above zero. What moved nothing is left out.
 * @param events in any order; written by day
 */
export function accountingJournal(
  events: readonly BookedEvent[],
  { currency, digits, shop }: { currency: string; digits: number; shop: string },
): string {
  const used = new Map<string, Account>();
  for (const { entries } of events) {
    for (const { account, subject } of entries) used.set(accountName(account, subject), account);
  }
  const head = [
    `; Books of ${shop.replaceAll(/\s+/g, ' ')}`,
    `commodity ${currency}`,
    ...[...used]
      .toSorted(([a], [b]) => (a < b ? -1 : 1))
      .flatMap(([name, account]) => [`account ${name}`, `    note ${ACCOUNTS[account]}`]),
  ];
  const body = events
    .filter(({ entries }) => entries.some(({ amount }) => amount !== 0))
    .toSorted((a, b) => (a.day === b.day ? a.id - b.id : a.day < b.day ? -1 : 1))
    .map(({ id, day, words, entries }) =>
      [
        `${day} * (${id}) ${words.replaceAll(/[;|\s]+/g, ' ').trim()}`,
        ...entries
          .filter(({ amount }) => amount !== 0)
          .map(
            ({ account, subject, amount }) =>
              `    ${accountName(account, subject)}  ${plainAmount(amount, digits)} ${currency}`,
          ),
      ].join('\n'),
    );
  return `${[head.join('\n'), ...body].join('\n\n')}\n`;
}
