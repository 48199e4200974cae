import { counted } from '../../core/locale.ts';
import {
  BasketError,
  MOST_LINES,
  quantityStep,
  removeLines,
  restoreLines,
  setQuantity,
  type Basket,
  type BasketCustomer,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { withoutPoints } from '../../core/counter/basketCodes.ts';
import { takenOut } from '../../core/counter/neededRights.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import type { BasketPrices } from './basketPrices.ts';
import type { BasketState } from './basketState.ts';
import type { BasketSync } from './basketSync.ts';
import { soundRefusal } from './sound.ts';

/** What a person does with the basket while ringing up. */
export function basketChanges(state: BasketState, prices: BasketPrices, sync: BasketSync) {
  const { basket, lines, chosenId, chosen, picked, phase, finished, busy, deviceAsked } = state;
  const notices = useNoticeStore();
  const countersigns = useCountersignStore();

  /** Every change to the basket goes through here: kept first, then priced and sent. */
  async function change(next: Basket, chooseId: string | null = chosenId.value): Promise<void> {
    if (deviceAsked.value && next.lines !== basket.value.lines) {
      notices.failed('The card terminal is being asked for this basket. Call it off first.');
      return;
    }
    if (next.lines.length > Math.max(MOST_LINES, basket.value.lines.length)) {
      soundRefusal();
      notices.failed(`A basket holds at most ${MOST_LINES} lines: finish this one, and begin another.`);
      return;
    }
    // Another total is rounded up by another amount: the customer is asked again.
    basket.value = next.lines === basket.value.lines ? next : { ...next, roundUp: undefined };
    chosenId.value = next.lines.some(({ id }) => id === chooseId)
      ? chooseId
      : (next.lines.at(-1)?.id ?? null);
    sync.changed();
    await prices.price();
  }

  function nextSale(): void {
    finished.value = null;
    phase.value = 'basket';
    notices.clear();
    state.remember();
  }

  /** Brings the Counter to where goods can be added. @returns false while the payment before is being stored */
  function readyForGoods(name: string): boolean {
    const why = busy.value
      ? 'the payment before it is still being stored. Scan it again.'
      : deviceAsked.value && 'the card terminal is being asked. Call it off first.';
    if (why) {
      soundRefusal();
      notices.failed(`${name} was not added: ${why}`);
      return false;
    }
    if (phase.value === 'done') nextSale();
    phase.value = 'basket';
    return true;
  }

  function refuse(error: unknown): void {
    if (!(error instanceof BasketError)) throw error;
    soundRefusal();
    notices.failed(error.message);
  }

  /** A change that may take goods out: once payment has begun, that needs a right. @returns whether it was done */
  async function takeOut(next: Basket, about: string, chooseId?: string | null): Promise<boolean> {
    const before = basket.value;
    const taken = before.paymentBegan ? takenOut(before, next) : [];
    if (taken.length > 0) {
      const steps = taken.map(({ step }) => step);
      const approval = await countersigns.need('line.remove-late', before.id, about, steps);
      if (!approval || basket.value !== before) return false;
    }
    await change(next, chooseId);
    return true;
  }

  async function quantityOf(line: BasketLine, quantity: Quantity): Promise<void> {
    try {
      await takeOut(setQuantity(basket.value, line.id, quantity), line.name, line.id);
    } catch (error) {
      refuse(error);
    }
  }

  /** One step more (+1) or less (−1) of the chosen line. */
  async function step(direction: 1 | -1): Promise<void> {
    const line = chosen.value;
    if (!line) return;
    const size = line.decimals === 0 ? ONE : quantityStep(1);
    const next = line.quantity + direction * Math.sign(line.quantity) * size;
    if (next * line.quantity <= 0) return remove(line);
    await quantityOf(line, next);
  }

  /**
   * Says what was taken out, with the way back; not while paying, which may have begun meanwhile: there payments are
   * undone.
   */
  function offerUndo(words: string, undo: () => Promise<void>): void {
    if (phase.value === 'basket') notices.say(words, { word: 'Undo', do: () => void undo() });
  }

  /** Takes lines out; Undo puts them back where they were. */
  async function removeAll(out: readonly BasketLine[]): Promise<void> {
    const before = basket.value;
    const [first] = out;
    if (!first) return;
    const at = before.lines.indexOf(first);
    const without = removeLines(before, new Set(out.map(({ id }) => id)));
    const words = out.length === 1 ? first.name : counted(out.length, 'line');
    const neighbour = without.lines[at] ?? without.lines[at - 1];
    if (!(await takeOut(without, words, neighbour?.id ?? null))) return;
    offerUndo(`${words} removed.`, () => change(restoreLines(basket.value, before), first.id));
  }
  const remove = (line: BasketLine | null): Promise<void> => removeAll(line ? [line] : []);

  /** Empties the basket; Undo brings everything back. */
  async function clear(): Promise<void> {
    const before = basket.value;
    const { id, paymentBegan } = before;
    if (before.lines.length === 0 || !(await takeOut({ id, paymentBegan, lines: [] }, 'the whole basket')))
      return;
    offerUndo(`${counted(before.lines.length, 'line')} cleared.`, () =>
      change({ ...before, lines: restoreLines(basket.value, before).lines }),
    );
  }

  /** Whom the goods are for; `null` for nobody known. */
  const setCustomer = (customer: BasketCustomer | null): Promise<void> => {
    const mine = customer?.id === basket.value.customer?.id;
    // Nobody pays with the points of somebody else.
    return change({
      ...(mine ? basket.value : withoutPoints(basket.value)),
      customer: customer ?? undefined,
    });
  };

  function choose(direction: 1 | -1): void {
    const at = lines.value.findIndex(({ id }) => id === chosenId.value);
    const next = Math.min(lines.value.length - 1, Math.max(0, at + direction));
    chosenId.value = lines.value[next]?.id ?? null;
  }

  /** Picks a line together with others, or lets it go again. */
  function pick(lineId: string): void {
    const next = new Set(picked.value);
    if (!next.delete(lineId)) next.add(lineId);
    picked.value = next;
  }
  const pickAll = (): void => {
    picked.value = new Set(lines.value.map(({ id }) => id));
  };
  const pickNone = (): void => {
    picked.value = new Set();
  };

  return {
    change,
    nextSale,
    readyForGoods,
    refuse,
    quantityOf,
    step,
    remove,
    removeAll,
    clear,
    setCustomer,
    choose,
    pick,
    pickAll,
    pickNone,
  };
}
export type BasketChanges = ReturnType<typeof basketChanges>;
