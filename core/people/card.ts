/** The code of a plastic card, as it is scanned: no spaces, at most 40 characters. */
const CODE = /^[!-~]{1,40}$/;

/** What is known of a code that is to be somebody's new card. */
export interface KnownCode {
  /** Who has it, or had it until it was stopped. */
  holder?: { customerId: number; name: string; stopped: boolean } | undefined;
  /** The item that is sold under it. */
  item?: string | undefined;
}

/**
 * Why a code cannot be a customer's new card; `null` where it can. A code belongs to one customer and to no item, and
 * one that was stopped is never given out again.
 * @param customerId of whoever is to have it; `null` for somebody new
 */
export function cardProblem(
  code: string,
  { holder, item }: KnownCode,
  customerId: number | null,
): string | null {
  if (!CODE.test(code)) return 'The code of a card has no spaces and at most 40 characters.';
  if (holder?.stopped) return `This card of ${holder.name} was stopped and counts no more.`;
  if (holder && holder.customerId === customerId) return `${holder.name} has this card already.`;
  if (holder) return `This is the card of ${holder.name}.`;
  return item === undefined ? null : `This is the code of ${item}.`;
}

const PHONE_DIGITS = 12;

/**
 * A code for somebody's telephone: a letter, so that it is no number of goods, and digits. @param random gives one
 * from 0 to 9
 */
export const newPhoneCode = (random: () => number): string =>
  `P${Array.from({ length: PHONE_DIGITS }, random).join('')}`;
