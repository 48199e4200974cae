import type { Money } from '../money.ts';

/** Money that came to the bank. */
export interface BankLine {
  day: string;
  amount: Money;
  payer: string;
  words: string;
}

/** An account that money may have come for. */
export interface BankAccount {
  id: number;
  /** `A-0007`. */
  number: string;
  name: string;
  owed: Money;
  /** Charges that are open: their receipts, and what of each is left. */
  open: readonly { receipt: string | null; reference: string; remaining: Money }[];
}

/** Whose account a line of the bank is likely for, and why. */
export interface BankGuess {
  accountId: number;
  name: string;
  /** `sure` where the words name it and the amount fits. */
  sure: boolean;
  why: string;
}

const plain = (text: string): string =>
  ` ${text
    .toUpperCase()
    .replaceAll(/[^A-Z0-9]+/g, ' ')
    .trim()} `;
const names = (words: string, what: string): boolean =>
  plain(what).trim() !== '' && words.includes(plain(what));

/** What in a line names an account, most telling first; empty where nothing does. */
function namedBy(words: string, { number, name, open }: BankAccount): string {
  if (names(words, number)) return number;
  const charge = open.find(
    ({ receipt, reference }) =>
      (receipt !== null && names(words, receipt)) || (reference.length > 3 && names(words, reference)),
  );
  if (charge)
    return charge.receipt !== null && names(words, charge.receipt) ? charge.receipt : charge.reference;
  return names(words, name) ? name : '';
}

/** Whether money just pays what is owed, or one of the charges. */
const fits = (amount: Money, { owed, open }: BankAccount): boolean =>
  amount === owed || open.some(({ remaining }) => remaining === amount);

/**
 * Whose account a line is likely for: one that its words name by number, receipt, reference or name; else the only one
 * that the amount fits. @returns `null` where nothing or too much speaks
 */
export function guessAccount(line: BankLine, accounts: readonly BankAccount[]): BankGuess | null {
  const words = plain(`${line.words} ${line.payer}`);
  const named = accounts.flatMap((account) => {
    const why = namedBy(words, account);
    return why ? [{ account, why }] : [];
  });
  const both = named.filter(({ account }) => fits(line.amount, account));
  const [best] = both.length > 0 ? both : named;
  if (best && (both.length === 1 || named.length === 1)) {
    const sure = both.length === 1;
    const { id, name } = best.account;
    return {
      accountId: id,
      name,
      sure,
      why: sure ? `${best.why}, and the amount fits` : `names ${best.why}`,
    };
  }
  const fitting = accounts.filter((account) => fits(line.amount, account));
  const [only] = fitting;
  if (named.length === 0 && only && fitting.length === 1)
    return { accountId: only.id, name: only.name, sure: false, why: 'the amount fits nobody else' };
  return null;
}

/** What the columns of a bank's list are, found by their headings. */
export const BANK_HEADINGS = {
  day: ['date', 'day', 'booked', 'booking date', 'value date'],
  amount: ['amount', 'credit', 'paid in', 'value'],
  payer: ['payer', 'name', 'from', 'paid by', 'sender'],
  words: ['reference', 'details', 'description', 'text', 'purpose', 'remittance'],
} as const;

export type BankColumn = keyof typeof BANK_HEADINGS;

/** Which column of a list is what; those that are not there are missing. */
export function bankColumns(headings: readonly string[]): Partial<Record<BankColumn, number>> {
  const found: Partial<Record<BankColumn, number>> = {};
  for (const column of Object.keys(BANK_HEADINGS) as BankColumn[]) {
    const known: readonly string[] = BANK_HEADINGS[column];
    const at = headings.findIndex((heading) => known.includes(heading.trim().toLowerCase()));
    if (at >= 0) found[column] = at;
  }
  return found;
}
