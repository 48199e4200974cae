import { multiplyDivide } from '../../money.ts';

/**
 * What happens to goods of a shop, in the words of the test. Quantities are whole thousandths; few, so that each
 * counts.
 */
export type Step =
  | { kind: 'receive'; item: number; place: number; quantity: number; cost: number }
  | { kind: 'sell'; item: number; place: number; quantity: number }
  | { kind: 'damage'; item: number; place: number; quantity: number }
  | { kind: 'return'; sale: number; place: number; quantity: number; damaged: boolean }
  | { kind: 'void'; sale: number }
  | { kind: 'send'; item: number; from: number; to: number; quantity: number }
  | { kind: 'arrive'; transfer: number; quantity: number }
  | { kind: 'correct'; receipt: number; cost: number };

/** One thousandth: the receipt line it came with, and its place in it from 1; or that it is owed. */
interface Unit {
  receipt: number;
  nth: number;
  owed: boolean;
}

interface Use {
  item: number;
  place: number;
  account: string;
  units: Unit[];
}

/** Thrown for a step that the shop would meet with an estimate of its own; histories leave those out. */
export class EstimateError extends Error {}

/**
 * Replays a history thousandth by thousandth, as if every cost had been right from the start: what the books must say
 * after any corrections, however goods left and came back.
 */
export class CostReplay {
  readonly receipts: { item: number; quantity: number; cost: number }[] = [];
  readonly sales: Use[] = [];
  readonly transfers: { item: number; to: number; units: Unit[] }[] = [];
  readonly lying = new Map<string, Unit[]>();
  readonly #uses: Use[] = [];
  readonly #owed = new Map<string, Unit[]>();

  do(step: Step): void {
    switch (step.kind) {
      case 'receive': {
        const receipt = this.receipts.push({ ...step }) - 1;
        const units = Array.from({ length: step.quantity }, (_, at) => ({
          receipt,
          nth: at + 1,
          owed: false,
        }));
        return this.#arrive(step.item, step.place, units);
      }
      case 'sell':
      case 'damage': {
        const account = step.kind === 'sell' ? 'cost-of-goods' : 'shrinkage';
        const use = this.#take(step.item, step.place, step.quantity, account);
        if (step.kind === 'sell') this.sales.push(use);
        return;
      }
      case 'return':
        return this.#giveBack(step);
      case 'void': {
        const sale = this.#sale(step.sale);
        return this.#giveBack({
          ...step,
          kind: 'return',
          quantity: sale.units.length,
          place: sale.place,
          damaged: false,
        });
      }
      case 'send': {
        const held = this.#at(this.lying, step.item, step.from);
        if (held.length < step.quantity) throw new EstimateError();
        this.transfers.push({ item: step.item, to: step.to, units: held.splice(0, step.quantity) });
        return;
      }
      case 'arrive': {
        const transfer = this.transfers[step.transfer];
        if (!transfer) throw new Error('no such transfer');
        this.#arrive(transfer.item, transfer.to, takeLast(transfer.units, step.quantity));
        const lost = transfer.units.splice(0);
        if (lost.length > 0)
          this.#uses.push({ item: transfer.item, place: transfer.to, account: 'shrinkage', units: lost });
        return;
      }
      case 'correct': {
        const receipt = this.receipts[step.receipt];
        if (receipt) receipt.cost = step.cost;
      }
    }
  }

  /** What the accounts say: stock by place, what is on the way, and what uses cost; nothing where it is zero. */
  balances(): Record<string, number> {
    const found: Record<string, number> = {};
    const add = (account: string, units: readonly Unit[], sign = 1) => {
      for (const unit of units) found[account] = (found[account] ?? 0) + sign * this.#cost(unit);
    };
    for (const [key, units] of this.lying) add(`stock place:${key.split('/')[1]}`, units);
    for (const { units } of this.transfers) add('stock-on-way', units);
    for (const { account, place, units } of this.#uses) {
      add(account, units);
      add(
        `stock place:${place}`,
        units.filter(({ owed }) => owed),
        -1,
      );
    }
    return Object.fromEntries(Object.entries(found).filter(([, amount]) => amount !== 0));
  }

  /** Where each thousandth lies: `item/place` to `receipt:nth`, in order. */
  whereabouts(): Record<string, string> {
    return Object.fromEntries(
      [...this.lying]
        .filter(([, units]) => units.length > 0)
        .map(([key, units]) => [key, units.map(({ receipt, nth }) => `${receipt}:${nth}`).join(' ')]),
    );
  }

  #cost({ receipt, nth }: Unit): number {
    const of = this.receipts[receipt];
    if (!of) return 0;
    return multiplyDivide(of.cost, nth, of.quantity) - multiplyDivide(of.cost, nth - 1, of.quantity);
  }

  #at(map: Map<string, Unit[]>, item: number, place: number): Unit[] {
    const key = `${item}/${place}`;
    const list = map.get(key) ?? [];
    map.set(key, list);
    return list;
  }

  #sale(at: number): Use {
    const sale = this.sales[at];
    if (!sale) throw new Error('no such sale');
    return sale;
  }

  #take(item: number, place: number, quantity: number, account: string): Use {
    const held = this.#at(this.lying, item, place);
    const units = held.splice(0, quantity);
    const known = this.receipts.findLastIndex((receipt) => receipt.item === item);
    const owed = Array.from({ length: quantity - units.length }, (_, at) => ({
      receipt: known,
      nth: at + 1,
      owed: true,
    }));
    this.#at(this.#owed, item, place).push(...owed);
    const use = { item, place, account, units: [...units, ...owed] };
    this.#uses.push(use);
    return use;
  }

  /** What is owed is paid first, the oldest first; the rest lies there in the order of receipts. */
  #arrive(item: number, place: number, units: readonly Unit[]): void {
    const owed = this.#at(this.#owed, item, place);
    const held = this.#at(this.lying, item, place);
    for (const unit of units) {
      const debt = owed.shift();
      if (debt) Object.assign(debt, unit);
      else held.push(unit);
    }
    held.sort(inOrder);
  }

  #giveBack({ sale, place, quantity, damaged }: Extract<Step, { kind: 'return' }>): void {
    const use = this.#sale(sale);
    const { item } = use;
    let rest = quantity;
    const owed = this.#at(this.#owed, item, use.place);
    let shrunk = 0;
    if (place === use.place) {
      while (rest > 0 && use.units.at(-1)?.owed) {
        const unit = use.units.pop();
        if (unit) owed.splice(owed.indexOf(unit), 1);
        rest -= 1;
        shrunk += 1;
      }
    } else if (use.units.filter((unit) => !unit.owed).length < rest) throw new EstimateError();
    if (damaged && shrunk > 0) this.#take(item, place, shrunk, 'shrinkage');
    const open = use.units.filter((unit) => unit.owed);
    const paid = use.units.filter((unit) => !unit.owed);
    const came = takeLast(paid, rest);
    use.units = [...paid, ...open];
    if (!damaged) this.#arrive(item, place, came);
    else if (came.length > 0) this.#uses.push({ item, place, account: 'shrinkage', units: came });
  }
}

const inOrder = (a: Unit, b: Unit) => a.receipt - b.receipt || a.nth - b.nth;

/** Takes units from the end; they come in the order of their receipts. */
const takeLast = (units: Unit[], quantity: number): Unit[] =>
  units.splice(Math.max(0, units.length - quantity)).sort(inOrder);
