import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { shallowRef } from 'vue';
import { addItem, type ComesBack, type Given } from '../../core/counter/basket.ts';
import { parseEntry } from '../../core/counter/entry.ts';
import { looksMisread } from '../../core/goods/barcode.ts';
import { kindOf, type Item } from '../../core/goods/item.ts';
import { formatQuantity, lineAmount, ONE, type Quantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read } from '../net/api.ts';
import { problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { openPriceStep, withoutReceiptStep } from '../../core/counter/neededRights.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useBasketStore } from './basketStore.ts';
import { useBasketWorkStore } from './basketWorkStore.ts';
import { catalogue } from './catalogue/thread.ts';
import { useQuestionStore } from './questionStore.ts';
import { soundRefusal } from './sound.ts';
import { useTurnStore, type Turn } from './turnStore.ts';

/** What is wanted of an item when it is rung up. */
interface Wanted {
  /** How much; where nothing was said, one, or the item asks. */
  quantity?: Quantity | undefined;
  label?: Given['label'];
  bundle?: string | undefined;
  /** The line that comes back for it. */
  swaps?: string | undefined;
}

/** Whether a text may be a code that stands on something, rather than words. */
const CODE = /^(?=.*\d)\S{4,40}$/;

/** Figures alone are a number that no item has, not words. */
const isFigures = (text: string): boolean => /^[\d.,\s]+$/.test(text);

/** How the entry field takes so much of an item, and what it is called. */
const entryOf = ({ number, name }: Item, quantity: Quantity | undefined) => {
  const count = quantity === undefined ? '' : formatQuantity(quantity);
  return { typed: count ? `${count}*${number}` : number, name: count ? `${count} × ${name}` : name };
};

/** The way of goods into the basket: what was scanned, typed or touched, and what the items ask. */
export const useRingUpStore = defineStore('ringUp', () => {
  const basket = useBasketStore();
  const questions = useQuestionStore();
  const countersigns = useCountersignStore();
  const notices = useNoticeStore();
  const till = useTillStore();
  const work = useBasketWorkStore();
  const turns = useTurnStore();
  /** Why the next goods come back without a receipt, and what becomes of them. */
  const returning = shallowRef<ComesBack | null>(null);
  let queue: Promise<void> = Promise.resolve();

  /** One after the other, however fast it comes; what comes during a question waits for its answer. */
  function inTurn<T>(turn: Turn, work: () => Promise<T>): Promise<T | undefined> {
    const behind = questions.asked !== null;
    if (behind) notices.say('This is rung up next: answer the question first, or cancel it with Esc.');
    const done = queue.then(async () => {
      turns.begin(turn.id);
      try {
        if (!behind || turn.basketId === basket.basket.id) return await work();
        notices.failed(`${turn.name} was meant for another basket. Scan it again if it belongs here.`);
        return undefined;
      } finally {
        turns.end(turn.id);
      }
    });
    queue = done.then(
      () => {},
      () => {},
    );
    return done;
  }

  /** Resolves when everything that was scanned, typed or touched before is in the basket. */
  const caughtUp = (): Promise<void> => queue;

  /**
   * What comes while the till is being made ready, or a payment stored, is for the basket that comes then, and waits
   * for it; a reload does not lose it.
   * @returns whether it may be taken now
   */
  async function inItsTime(
    typed: string,
    { scanned = false, name = typed }: Partial<Turn> = {},
  ): Promise<boolean> {
    if (!till.preparing && !basket.busy) return true;
    const turn = turns.add(typed, { scanned, name });
    if (till.preparing) {
      notices.say(`${name} comes next, as soon as the shop is ready.`);
      await till.prepared();
    } else notices.say(`${name} comes next, as soon as this payment is stored.`);
    const stored = !basket.busy || (await basket.paymentStored());
    turns.end(turn.id);
    if (stored) return true;
    soundRefusal();
    const why = notices.notice?.tone === 'failed' ? notices.notice.text : 'This payment is not finished.';
    notices.failed(`${why} ${name} was not added.`);
    return false;
  }

  /**
   * What was scanned or typed.
   * @param other tries what else a code may be, where no item has it
   * @param seen what stood first in the list of what was found, when it was taken
   * @returns whether something came of it; else it may be typed on
   */
  async function enter(
    typed: string,
    {
      scanned = false,
      seen,
      other,
    }: {
      scanned?: boolean;
      seen?: Item | undefined;
      other?: (code: string) => Promise<boolean>;
    } = {},
  ): Promise<boolean> {
    // A serial number is scanned from the goods while it is asked for.
    if (scanned && questions.asked?.kind === 'serial') {
      questions.scanned = { serial: typed.trim() };
      return true;
    }
    // The next thing is scanned: what nobody knows was put aside.
    if (questions.asked?.kind === 'unknown') questions.leave();
    const turn = turns.add(typed.trim(), { scanned });
    // What waits is in sight by its name, and what was chosen by words must be found again after a reload.
    if (seen || turns.count > 1) void tellMeaning(turn, seen);
    return (await inTurn(turn, () => take(typed, scanned, seen, other))) ?? true;
  }

  async function tellMeaning({ id, typed }: Turn, seen: Item | undefined): Promise<void> {
    const { quantity, text } = parseEntry(typed);
    const item = (await catalogue.recognise(text))?.item;
    if (item) turns.mean(id, { ...entryOf(item, quantity), typed });
    else if (seen && !isFigures(text)) turns.mean(id, entryOf(seen, quantity));
  }

  /** An item that was chosen: from the list, a tile, the matrix. */
  async function add(item: Item, quantity?: Quantity, swaps?: string): Promise<void> {
    const { typed, name } = entryOf(item, quantity);
    if (!(await inItsTime(typed, { name }))) return;
    const turn = turns.add(typed, { name });
    await inTurn(turn, () => ringUp(item, { quantity, swaps }));
  }

  async function take(
    typed: string,
    scanned: boolean,
    seen: Item | undefined,
    other?: (code: string) => Promise<boolean>,
  ): Promise<boolean> {
    const { quantity, text } = parseEntry(typed);
    if (!text) return true;
    const known = await catalogue.recognise(text);
    if (known) {
      const { item, label, quantity: ofLabel } = known;
      await ringUp(item, label ? { label, quantity: ofLabel } : { quantity });
      return true;
    }
    if (CODE.test(text) && (await other?.(text))) return true;
    if (!scanned && !looksMisread(text)) {
      // Words take only what was in sight.
      const figures = isFigures(text);
      if (seen && !figures) {
        await ringUp(seen, { quantity });
        return true;
      }
      const [found] = await catalogue.search(text, 1);
      if (found && !(figures && CODE.test(text))) {
        soundRefusal();
        return false;
      }
    }
    soundRefusal();
    if (looksMisread(text)) {
      notices.failed(`${text}: the check digit does not fit. Scan it again, or type the item's number.`);
    } else if (CODE.test(text)) {
      const meant = await questions.ask('unknown', { code: text });
      if (meant && meant !== 'done') await ringUp(meant, { quantity });
    } else {
      notices.failed(`Nothing has the name “${text}”. Type a few letters of the name to search.`);
    }
    return true;
  }

  async function ringUp(item: Item, wanted: Wanted): Promise<void> {
    if (!basket.readyForGoods(item.name)) return;
    if (item.id === till.facts?.payment.giftCardItemId) {
      work.begin('gift-card');
      return;
    }
    const kind = kindOf(item);
    if (kind === 'family') {
      const variant = await questions.ask('variant', { item });
      if (variant) await ringUp(variant, wanted);
    } else if (kind === 'bundle') {
      await ringUpParts(item, wanted.quantity ?? ONE);
    } else {
      await addAnswered(item, wanted);
    }
  }

  /** A bundle rings up everything it is made of; each part may ask for itself. */
  async function ringUpParts(bundle: Item, count: Quantity): Promise<void> {
    const parts = bundle.more?.parts ?? [];
    const items = new Map(
      (await catalogue.find(parts.map(({ itemId }) => itemId))).map((item) => [item.id, item]),
    );
    for (const { itemId, quantity } of parts) {
      const part = items.get(itemId);
      if (part) await ringUp(part, { quantity: lineAmount(quantity, count), bundle: bundle.name });
      else notices.failed(`${bundle.name}: a part of it is no longer sold.`);
    }
  }

  /** Asks what an item asks, then adds it. Leaving a question leaves the item. */
  async function addAnswered(
    item: Item,
    { quantity: wantedQuantity, label, bundle, swaps }: Wanted,
  ): Promise<void> {
    const { minAge, asksNote, serials } = item.more ?? {};
    let quantity = wantedQuantity;
    const given: Given = { ...(label && { label }), ...(bundle && { bundle }), ...(swaps && { swaps }) };
    if (quantity !== undefined && quantity < 0) {
      const back = await comesBack(item, quantity);
      if (!back) return;
      Object.assign(given, back);
    } else if (item.price === null && !label) {
      const price = await openPrice(item, quantity ?? ONE);
      if (!price) return;
      Object.assign(given, price);
    }
    if (minAge !== undefined && !basket.lines.some((line) => line.itemId === item.id && line.ageChecked)) {
      if (!(await questions.ask('age', { item }))) return;
    }
    if (minAge !== undefined) given.ageChecked = true;
    if (item.decimals > 0 && quantity === undefined) {
      const measured = await questions.ask('quantity', { item });
      if (measured === null) return;
      quantity = measured;
    }
    if (asksNote !== undefined) {
      const note = await questions.ask('note', { item });
      if (note === null) return;
      given.note = note;
    }
    if (!serials) return put(item, quantity ?? ONE, given);
    const of = Math.abs(quantity ?? ONE) / ONE;
    for (let at = 1; at <= of; at++) {
      const serial = await questions.ask('serial', { item, unit: { at, of } });
      if (serial === null) return;
      await put(item, (quantity ?? ONE) < 0 ? -ONE : ONE, { ...given, serial });
    }
  }

  /** The price that an item without one asks for; above the limit somebody may have to approve it. */
  async function openPrice(item: Item, quantity: Quantity): Promise<Given | null> {
    for (;;) {
      const unitPrice = await questions.ask('price', { item });
      if (unitPrice === null) return null;
      if (unitPrice <= (till.facts?.shop.openPriceLimit ?? 0)) return { unitPrice };
      const approval = await countersigns.need('open-price.large', basket.basket.id, item.name, [
        openPriceStep(item.id, unitPrice, quantity),
      ]);
      if (approval) return { unitPrice, openPriceCountersign: approval.id };
    }
  }

  /** Goods that come back without their receipt: allowed, approved, and at what they are worth. */
  async function comesBack(item: Item, quantity: Quantity): Promise<Given | null> {
    try {
      const { price } = await read<{ price: number }>(`/goods/items/${item.id}/return-price`);
      const approval = await countersigns.need('return.no-receipt', basket.basket.id, item.name, [
        withoutReceiptStep(item.id, price, quantity),
      ]);
      if (!approval) return null;
      const back = returning.value ?? { reason: 'Without receipt', condition: 'to-stock' };
      returning.value = null;
      return { unitPrice: price, returnCountersign: approval.id, comesBack: back };
    } catch (error) {
      notices.failed(problemWords(error));
      return null;
    }
  }

  async function put(item: Item, quantity: Quantity, given: Given): Promise<void> {
    try {
      const added = addItem(basket.basket, item, { lineId: newId(), quantity, ...given });
      notices.clear();
      turns.end();
      await basket.change(added.basket, added.lineId);
    } catch (error) {
      basket.refuse(error);
    }
  }

  return { inItsTime, enter, add, caughtUp, returning };
});
