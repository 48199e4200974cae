import { formatMoney, type Money } from '../money.ts';
import type { Step } from '../staff/approval.ts';

/** A house account as a till needs it: whose it is, and what may still go on it. */
export interface AccountFacts {
  id: number;
  /** Who owes: the customer, or the company that they buy for. */
  customerId: number;
  name: string;
  limit: Money;
  /** What is owed; below zero the shop owes it. */
  owed: Money;
  /** What payments that are not finished hold of it. */
  held: Money;
  blocked: boolean;
  /** What is asked for with every charge, e.g. `Order number`; empty for nothing. */
  asksFor: string;
  /** How much this buyer may charge with one purchase; nothing for any amount. */
  most: Money | null;
  /** Of what is owed, what should have been paid by now. */
  overdue: Money;
}

/** So many accounts stand on a page of their list. */
export const ACCOUNTS_PAGE = 50;

/** The number that whoever pays by bank writes: `A-0007`. */
export const accountNumber = (id: number): string => `A-${String(id).padStart(4, '0')}`;

/** What may still go on an account before its limit is reached. */
export const freeOn = ({ limit, owed, held }: Pick<AccountFacts, 'limit' | 'owed' | 'held'>): Money =>
  Math.max(0, limit - owed - held);

/** What a charge is suggested to be: all that is left to pay, or what may go on the account without an approval. */
export const mostCharge = (account: AccountFacts, left: Money): Money =>
  Math.max(0, Math.min(left, freeOn(account), account.most ?? left));

/** A charge that is asked for. */
export interface WantedCharge {
  amount: Money;
  reference: string;
  /** What the basket has on this account already. */
  before: Money;
}

/** Why nothing can be charged at all, and where that is said; `null` where it can. */
export function chargeProblem(
  account: AccountFacts,
  { reference }: Pick<WantedCharge, 'reference'>,
): { field: 'accountId' | 'reference'; words: string } | null {
  if (account.blocked)
    return { field: 'accountId', words: `The account of ${account.name} is blocked: it can be paid only.` };
  if (account.asksFor && !reference) return { field: 'reference', words: `${account.asksFor} is missing.` };
  return null;
}

/** By how much a charge goes over what the account, or its buyer, may; zero where it does not. */
export const overLimit = (
  account: AccountFacts,
  { amount, before }: Omit<WantedCharge, 'reference'>,
): Money => Math.max(0, amount - freeOn(account), account.most === null ? 0 : before + amount - account.most);

/** Going over the limit of an account as a step that may have to be approved. */
export const overLimitStep = (accountId: number, amount: Money): Step => ({
  subject: `account:${accountId}`,
  from: null,
  to: null,
  unit: 'money',
  amount,
});

/** What may go on an account, in words for who is about to charge it. @param digits of the shop's currency */
export function limitWords(account: AccountFacts, over: Money, digits: number): string {
  const money = (amount: Money) => formatMoney(amount, digits);
  const free = freeOn(account);
  return account.most !== null && account.most < free
    ? `${money(over)} over the ${money(account.most)} that they may charge with one purchase.`
    : `${money(over)} over: ${money(free)} may still go on the account of ${account.name}.`;
}
