import { formatMoney, type Money } from '../money.ts';
import type { Rate } from '../rate.ts';
import { leastDeposit } from './plan.ts';
import type { ShipZone } from './shipping.ts';
import type { WeekHours } from './collecting.ts';
import type { Point } from './sources.ts';

/** What an order is paid with when it is placed. */
export const ORDER_PAYS = {
  full: 'All of it at once',
  deposit: 'A deposit',
  handover: 'Nothing before the handover',
} as const;
export type OrderPay = keyof typeof ORDER_PAYS;

/** How the shop takes orders, as it is set up. */
export interface OrderRules {
  pay: OrderPay;
  /** Where a deposit is paid, the least of it as a part of what waits. */
  leastDeposit: Rate;
  /** How long the shop needs before goods can be collected, in minutes. */
  leadMinutes: number;
  /** What an item weighs of which it is not known, in grams. */
  usualWeight: number;
  zones: readonly ShipZone[];
}

/** The least that is paid when an order is placed. @param waiting what the goods come to that do not leave at once */
export function orderDeposit(rules: Pick<OrderRules, 'pay' | 'leastDeposit'>, waiting: Money): Money {
  if (rules.pay === 'handover') return 0;
  return rules.pay === 'full' ? waiting : leastDeposit(waiting, rules.leastDeposit);
}

/** Why so much cannot be paid when an order is placed; `null` where it can. */
export function orderDepositProblem(
  deposit: Money,
  { least, waiting }: { least: Money; waiting: Money },
  digits: number,
): string | null {
  if (deposit < least) return `At least ${formatMoney(least, digits)} is paid at once.`;
  return deposit > waiting ? `No more than ${formatMoney(waiting, digits)} waits.` : null;
}

/** The part of what stays of an order that stays paid, when some of it leaves. */
export const orderKeeps = ({ pay, leastDeposit: least }: Pick<OrderRules, 'pay' | 'leastDeposit'>): Rate =>
  ({ full: 1_000_000, deposit: least, handover: 0 })[pay];

/** Where goods are, or can be collected. */
export interface OrderPlace {
  id: number;
  name: string;
  kind: 'shop' | 'stock';
  street: string;
  postcode: string;
  city: string;
  at: Point | null;
  hours: WeekHours;
}

/** Where and when goods are collected, and by whom. */
export interface Collecting {
  placeId: number;
  place: string;
  /** `YYYY-MM-DD` */
  day: string;
  /** `HH:MM` */
  time: string;
  /** Who may collect beside the customer. */
  collector: string;
}

/** Where goods are sent. */
export interface Shipping {
  recipient: string;
  street: string;
  postcode: string;
  city: string;
  phone: string;
  wishes: string;
  /** The packing slip has no prices. */
  gift: boolean;
  /** What it costs follows from the zone and the weight. */
  zone: string;
  /** Grams. */
  weight: number;
}
