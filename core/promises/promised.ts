import { multiplyDivide, sum, type Money } from '../money.ts';
import type { PriceRecord } from '../pricing/priceRecord.ts';
import { lineAmount, type Quantity } from '../quantity.ts';
import type { OrderLine } from './ways.ts';

/**
 * What a line of a basket has to do with a promise: goods that are handed over, a deposit that is paid, used for
 * goods or given back, and the fee that is kept when nothing comes of it.
 */
export type PromisedPart = 'goods' | 'deposit' | 'used' | 'back' | 'fee';

/** Parts of a promise that are money held for it and no goods. */
export const isDeposit = (part: PromisedPart | undefined): boolean =>
  part === 'deposit' || part === 'used' || part === 'back';

/** A line of a basket that belongs to a promise. */
export interface Promised {
  promiseId: string;
  /** As printed, `L-0007`. */
  number: string;
  part: PromisedPart;
  /** Goods: which line of the promise. */
  position?: number | undefined;
  /** Goods: what they cost, as it was promised; the server works it out again. */
  figures?: PromisedFigures | undefined;
}

/** An item that stands for money of a promise. */
export interface MoneyItem {
  itemId: number;
  number: string;
  unit: string;
  taxCategoryId: number;
}

/** What promised goods cost before tax; with tax inside, with it. */
export interface PromisedFigures {
  unitPrice: Money;
  regular: Money;
  net: Money;
  records: PriceRecord[];
}

/** Goods that were promised, at the prices of that day. */
export interface PromiseLine extends PromisedFigures {
  position: number;
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  taxCategoryId: number;
  quantity: Quantity;
  /** What of it was handed over. */
  handed: Quantity;
  /** The tax on top on the day it was promised. */
  tax: Money;
  serial: string | null;
  note: string;
  gift: boolean;
  ageChecked: boolean;
  bundle: string | null;
  /** What one costs today, where the shop lets the lower price count at the handover. */
  now?: Money | null;
  /** Of an order: how the goods get to the customer, and how far that is; nothing for a layaway. */
  order: OrderLine | null;
}

/** What a promised line has where nothing special is said of it. */
export const PLAIN_LINE = {
  handed: 0,
  serial: null,
  note: '',
  gift: false,
  ageChecked: false,
  bundle: null,
  order: null,
} as const satisfies Partial<PromiseLine>;

/** Parts a promised line so that so many of its units stand on a line of their own; both cost together what it did. */
export function partLine(line: PromiseLine, quantity: Quantity): [first: PromiseLine, rest: PromiseLine] {
  const from = { ...line, handed: 0 };
  const shareOf = (part: PromiseLine, units: Quantity): PromiseLine => ({
    ...line,
    ...promisedFigures(part, units),
    tax:
      multiplyDivide(line.tax, part.handed + units, line.quantity) -
      multiplyDivide(line.tax, part.handed, line.quantity),
    quantity: units,
  });
  return [shareOf(from, quantity), shareOf({ ...from, handed: quantity }, line.quantity - quantity)];
}

/**
 * What the next so many units of a promised line cost. However it is handed over, the parts add up to what was
 * promised: each part is what all units up to it cost less what the ones before it did.
 */
export function promisedFigures(line: PromiseLine, quantity: Quantity): PromisedFigures {
  const from = line.handed;
  const share = (amount: Money): Money =>
    multiplyDivide(amount, from + quantity, line.quantity) - multiplyDivide(amount, from, line.quantity);
  const records = line.records.map((record) => ({ ...record, amount: share(record.amount) }));
  const regular = share(line.regular);
  return {
    unitPrice: line.unitPrice,
    regular,
    net: regular + sum(records.map(({ amount }) => amount)),
    records: records.filter(({ amount }) => amount !== 0),
  };
}

/**
 * What the next so many units cost when they are handed over: what was promised, or what they cost today where that
 * is less and the shop lets it count.
 */
export function handoverFigures(line: PromiseLine, quantity: Quantity): PromisedFigures {
  const promised = promisedFigures(line, quantity);
  const { now } = line;
  if (now === null || now === undefined) return promised;
  const regular = lineAmount(now, quantity);
  return regular < promised.net ? { unitPrice: now, regular, net: regular, records: [] } : promised;
}

/** What is left of a promised line, with its tax: what it all came to less the share of what was handed over. */
export const restOf = ({
  net,
  tax,
  quantity,
  handed,
}: Pick<PromiseLine, 'net' | 'tax' | 'quantity' | 'handed'>): Money =>
  net + tax - multiplyDivide(net + tax, handed, quantity);

/**
 * What of the money that is held goes back at a till when nothing waits any more: what was paid where it was ordered
 * goes back there.
 */
export const goesBack = ({ held, heldThere }: { held: Money; heldThere: Money }): Money =>
  Math.max(0, held - heldThere);

/** What of the agreed fee is kept when nothing comes of a promise: no more than goes back at all. */
export const agreedFee = (promise: { fee: Money; held: Money; heldThere: Money }): Money =>
  Math.min(promise.fee, goesBack(promise));

/**
 * How much of a deposit is used when some of the goods leave: what they come to, but no more than the deposit can spare
 * for what stays.
 * @param held deposits that are held
 * @param due what the goods that leave come to
 * @param keeps what has to stay held for the goods that stay
 */
export const depositToUse = (held: Money, due: Money, keeps: Money): Money =>
  Math.max(0, Math.min(due, held - keeps));
