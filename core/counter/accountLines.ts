import { formatMoney, sum, type Money } from '../money.ts';
import { ONE } from '../quantity.ts';
import type { MoneyItem } from '../promises/promised.ts';
import type { Basket, BasketLine } from './basket.ts';

/** What money for a house account is called on a line. @param amount below zero where it is paid out */
export const accountMoneyName = (name: string, amount: Money): string =>
  amount < 0 ? `Paid out to ${name}` : `On account, ${name}`;

/**
 * Puts money for a house account into a basket, in the place of what was there for it.
 * @param amount what is paid; below zero what is paid out of what is over
 * @param items charges that are paid first
 */
export function putAccountMoney(
  basket: Basket,
  account: { id: number; name: string },
  amount: Money,
  { item, id, items = [] }: { item: MoneyItem; id: string; items?: readonly number[] },
): Basket {
  const line: BasketLine = {
    id,
    ...item,
    name: accountMoneyName(account.name, amount),
    decimals: 0,
    quantity: ONE,
    listPrice: amount,
    account: { accountId: account.id, name: account.name, ...(items.length > 0 && { items: [...items] }) },
  };
  const others = basket.lines.filter((one) => one.account?.accountId !== account.id);
  return { ...basket, lines: [...others, line] };
}

/**
 * Why money in a basket cannot be for an account; `null` where it can.
 * @param owed what is owed on it now; nothing where there is no such account
 */
export function accountMoneyProblem(
  lines: readonly BasketLine[],
  accountId: number,
  owed: Money | undefined,
  digits: number,
): string | null {
  const mine = lines.filter(({ account }) => account?.accountId === accountId);
  const name = mine[0]?.account?.name ?? '';
  if (owed === undefined) return `The account of ${name} is not known any more. Take its line out.`;
  if (mine.length > 1 || mine.some(({ quantity, listPrice }) => quantity !== ONE || listPrice === 0))
    return `Money for the account of ${name} stands on one line, once.`;
  const out = 0 - sum(mine.map(({ listPrice }) => listPrice));
  const over = Math.max(0, 0 - owed);
  return out > over ? `Only ${formatMoney(over, digits)} is over on the account of ${name}.` : null;
}
