import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { FigureProblem, FinishedSale, FinishSale, StoredBasket } from '../../contract/counter.ts';
import type { TillFacts } from '../../contract/setup.ts';
import {
  addItem,
  BasketError,
  quantityStep,
  removeLine,
  restoreLine,
  setQuantity,
  type Basket,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { parseEntry } from '../../core/counter/entry.ts';
import { looksMisread } from '../../core/goods/barcode.ts';
import type { Item } from '../../core/goods/item.ts';
import type { Money } from '../../core/money.ts';
import type { PricedBasket } from '../../core/offers/price.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords, read, Unreachable, write, writeSurely } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { keepBasket, recallBasket } from './basketMemory.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { catalogue } from './catalogue/thread.ts';
import { soundRefusal } from './sound.ts';

const SEND_AFTER_MS = 150;
const SEND_AGAIN_MS = 2000;

const emptyBasket = (): Basket => ({ id: newId(), lines: [] });

/** Where the right column is: ringing up, taking payment, or after the last payment. */
export type Phase = 'basket' | 'paying' | 'done';

/** The basket of this till, and the way from it to a finished sale. */
export const useBasketStore = defineStore('basket', () => {
  const notices = useNoticeStore();
  const countersigns = useCountersignStore();
  const basket = shallowRef<Basket>(emptyBasket());
  const priced = shallowRef<PricedBasket | null>(null);
  const stock = shallowRef<Record<number, Quantity | null>>({});
  const chosenId = ref<string | null>(null);
  const phase = ref<Phase>('basket');
  const finished = shallowRef<FinishedSale | null>(null);
  /** An item without a fixed price that waits for one. */
  const asking = shallowRef<{ item: Item; quantity: Quantity } | null>(null);
  const busy = ref(false);

  let tillId = 0;
  let openPriceLimit = 0;
  let revision = 0;
  let unsent = false;
  let paying: FinishSale | undefined;
  let pricing = 0;
  let sendTimer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  let entries: Promise<void> = Promise.resolve();

  const lines = computed(() => basket.value.lines);
  const chosen = computed(() => lines.value.find(({ id }) => id === chosenId.value) ?? null);
  const total = computed<Money>(() => priced.value?.total ?? 0);

  function remember(): void {
    keepBasket(tillId, {
      basket: basket.value,
      revision,
      unsent,
      ...(paying ? { paying } : {}),
      ...(finished.value ? { finished: finished.value } : {}),
    });
  }

  async function price(): Promise<void> {
    const turn = ++pricing;
    const answer = await catalogue.price(basket.value);
    if (turn !== pricing) return;
    priced.value = answer.priced;
    stock.value = answer.stock;
  }

  /** Every change to the basket goes through here: kept first, then priced and sent. */
  async function change(next: Basket, chooseId: string | null = chosenId.value): Promise<void> {
    basket.value = next;
    chosenId.value = next.lines.some(({ id }) => id === chooseId)
      ? chooseId
      : (next.lines.at(-1)?.id ?? null);
    unsent = true;
    remember();
    sendSoon(SEND_AFTER_MS);
    await price();
  }

  function sendSoon(after: number): void {
    clearTimeout(sendTimer);
    sendTimer = setTimeout(() => void sendBasket(), after);
  }

  async function sendBasket(): Promise<void> {
    if (sending || !unsent || paying) return;
    sending = true;
    const sent = basket.value;
    try {
      const saved = await write<{ revision: number }>('PUT', '/counter/basket', { basket: sent, revision });
      if (basket.value.id === sent.id) revision = saved.revision;
      if (basket.value === sent) unsent = false;
      remember();
    } catch (error) {
      if (error instanceof Unreachable) sendSoon(SEND_AGAIN_MS);
      else if (error instanceof ApiProblem && error.details.status === 409) await adopt(error, sent);
      else notices.failed(problemWords(error));
    } finally {
      sending = false;
    }
    if (unsent && !paying) sendSoon(SEND_AFTER_MS);
  }

  /** Another window of this till was faster: its basket is shown, and what is only here can be put back. */
  async function adopt(problem: ApiProblem, mine: Basket): Promise<void> {
    // It was about a basket that has been paid or held meanwhile.
    if (basket.value.id !== mine.id) return;
    const theirs = problem.details.data as StoredBasket | null;
    revision = theirs?.revision ?? 0;
    if (theirs && theirs.basket.id === mine.id && sameLines(theirs.basket, mine)) return;
    unsent = false;
    const known = new Set(theirs?.basket.lines.map(({ id }) => id));
    const onlyHere =
      problem.details.type === 'basket-changed' ? mine.lines.filter(({ id }) => !known.has(id)) : [];
    await show(theirs?.basket ?? emptyBasket());
    const putBack = {
      word: `Put back ${onlyHere.length} line${onlyHere.length === 1 ? '' : 's'}`,
      do: () => void change({ ...basket.value, lines: [...basket.value.lines, ...onlyHere] }),
    };
    notices.failed(problem.words, onlyHere.length > 0 ? putBack : undefined);
  }

  function sameLines(a: Basket, b: Basket): boolean {
    return JSON.stringify(a.lines) === JSON.stringify(b.lines);
  }

  async function show(next: Basket): Promise<void> {
    basket.value = next;
    chosenId.value = next.lines.at(-1)?.id ?? null;
    remember();
    await price();
  }

  /** Takes up the till's basket: what this browser kept, unless another window has gone on with it. */
  async function begin(facts: TillFacts): Promise<void> {
    tillId = facts.till.id;
    openPriceLimit = facts.shop.openPriceLimit;
    const loaded = catalogue.load(facts);
    const kept = recallBasket(tillId);
    const stored = await read<StoredBasket | null>('/counter/basket');
    await loaded;
    revision = stored?.revision ?? 0;
    finished.value = kept?.finished ?? null;
    phase.value = finished.value ? 'done' : 'basket';
    unsent = Boolean(
      kept?.unsent && (!stored || stored.basket.id === kept.basket.id || stored.revision === kept.revision),
    );
    await show((unsent ? kept?.basket : stored?.basket) ?? emptyBasket());
    if (kept?.paying) {
      paying = kept.paying;
      await settle(kept.paying);
    } else if (unsent) {
      sendSoon(0);
    }
  }

  /** Hears of changes that were made elsewhere. @returns a function that stops it */
  function follow(): () => void {
    return hear((event) => {
      if (event.kind === 'connected') {
        void refresh();
        if (unsent) sendSoon(0);
      } else if (event.kind === 'stock-changed') {
        void catalogue.setStock(event.levels).then(price);
      } else if (event.kind === 'catalogue-changed') {
        void catalogue.refresh().then(price);
      } else if (event.kind === 'basket-changed' && event.tillId === tillId && event.revision > revision) {
        if (!sending && !unsent && !paying) void takeOver();
      } else if (event.kind === 'sale-finished' && event.saleId === basket.value.id && !paying) {
        // Another window of this till took the payment.
        revision = 0;
        unsent = false;
        phase.value = 'basket';
        void show(emptyBasket());
      }
    });
  }

  async function refresh(): Promise<void> {
    if (tillId === 0) return;
    await catalogue.refresh().catch(() => {});
  }

  async function takeOver(): Promise<void> {
    const stored = await read<StoredBasket | null>('/counter/basket');
    if (!stored || sending || unsent || paying || stored.revision <= revision) return;
    revision = stored.revision;
    await show(stored.basket);
  }

  /** What was scanned or typed, one after the other, however fast it comes. */
  function enter(typed: string, { scanned = false } = {}): Promise<void> {
    const turn = entries.then(() => take(typed, scanned));
    entries = turn.catch(() => {});
    return turn;
  }

  /** Resolves when everything that was scanned or typed before is in the basket. */
  const caughtUp = (): Promise<void> => entries;

  async function take(typed: string, scanned: boolean): Promise<void> {
    const { quantity = ONE, text } = parseEntry(typed);
    if (!text) return;
    const item =
      (await catalogue.recognise(text)) ?? (scanned ? null : ((await catalogue.search(text, 1))[0] ?? null));
    if (item) return add(item, quantity);
    soundRefusal();
    notices.failed(
      looksMisread(text)
        ? `${text}: the check digit does not fit. Scan it again, or type the item's number.`
        : `Nothing has the code or name “${text}”. Type a few letters of the name to search.`,
    );
  }

  async function add(
    item: Item,
    quantity: Quantity = ONE,
    unitPrice?: Money,
    openPriceCountersign?: string,
  ): Promise<void> {
    if (busy.value) {
      notices.failed(
        `${item.name} was not added: the payment before it is still being stored. Scan it again.`,
      );
      return;
    }
    if (phase.value === 'done') nextSale();
    phase.value = 'basket';
    if (item.price === null && unitPrice === undefined) {
      asking.value = { item, quantity };
      return;
    }
    try {
      const added = addItem(basket.value, item, {
        lineId: newId(),
        quantity,
        ...(unitPrice === undefined ? {} : { unitPrice, openPriceCountersign }),
      });
      notices.clear();
      await change(added.basket, added.lineId);
    } catch (error) {
      refuse(error);
    }
  }

  function refuse(error: unknown): void {
    if (!(error instanceof BasketError)) throw error;
    soundRefusal();
    notices.failed(error.message);
  }

  /** The price that an item without a fixed price asked for; above the limit somebody may have to approve it. */
  async function answerPrice(unitPrice: Money): Promise<void> {
    const asked = asking.value;
    if (!asked) return;
    let approval: string | undefined;
    if (unitPrice > openPriceLimit) {
      const answer = await countersigns.need('open-price.large', basket.value.id, asked.item.name);
      if (!answer) return;
      approval = answer.id;
    }
    asking.value = null;
    await add(asked.item, asked.quantity, unitPrice, approval);
  }

  async function quantityOf(line: BasketLine, quantity: Quantity): Promise<void> {
    try {
      await change(setQuantity(basket.value, line.id, quantity), line.id);
    } catch (error) {
      refuse(error);
    }
  }

  /** One step more (+1) or less (−1) of the chosen line. */
  async function step(direction: 1 | -1): Promise<void> {
    const line = chosen.value;
    if (!line) return;
    const size = line.decimals === 0 ? ONE : quantityStep(1);
    const next = line.quantity + direction * size;
    if (next <= 0) return remove(line);
    await quantityOf(line, next);
  }

  async function remove(line: BasketLine | null): Promise<void> {
    if (!line) return;
    const at = lines.value.indexOf(line);
    const neighbour = lines.value[at + 1] ?? lines.value[at - 1];
    await change(removeLine(basket.value, line.id), neighbour?.id ?? null);
    notices.say(`${line.name} removed.`, {
      word: 'Undo',
      do: () => void change(restoreLine(basket.value, line, at), line.id),
    });
  }

  /** Empties the basket; Undo brings everything back. */
  async function clear(): Promise<void> {
    const all = basket.value;
    if (all.lines.length === 0) return;
    await change({ id: all.id, lines: [] });
    notices.say(`${all.lines.length} ${all.lines.length === 1 ? 'line' : 'lines'} cleared.`, {
      word: 'Undo',
      do: () => void change(all),
    });
  }

  /** The basket went elsewhere: a new one begins, and the server has none for this till. */
  async function startAfresh(): Promise<void> {
    clearTimeout(sendTimer);
    unsent = false;
    revision = 0;
    phase.value = 'basket';
    await show(emptyBasket());
  }

  /** A basket that the server has put on this till. */
  async function continueWith(stored: StoredBasket): Promise<void> {
    clearTimeout(sendTimer);
    unsent = false;
    revision = stored.revision;
    finished.value = null;
    phase.value = 'basket';
    await show(stored.basket);
  }

  function choose(direction: 1 | -1): void {
    const at = lines.value.findIndex(({ id }) => id === chosenId.value);
    const next = Math.min(lines.value.length - 1, Math.max(0, at + direction));
    chosenId.value = lines.value[next]?.id ?? null;
  }

  function takePayment(): void {
    if (lines.value.length === 0 || asking.value) return;
    notices.clear();
    phase.value = 'paying';
  }

  function backToBasket(): void {
    if (!busy.value) phase.value = 'basket';
  }

  /** Finishes the sale in cash. What was asked is kept until it is answered, so that nothing is taken and forgotten. */
  async function payCash(handed: Money): Promise<void> {
    if (busy.value || phase.value !== 'paying') return;
    clearTimeout(sendTimer);
    paying = { basket: basket.value, expectedTotal: total.value, handed };
    remember();
    await settle(paying);
  }

  async function settle(asked: FinishSale): Promise<void> {
    busy.value = true;
    try {
      const sale = await writeSurely<FinishedSale>('POST', '/counter/sales', asked, asked.basket.id, () =>
        notices.failed('The server does not answer. The payment is kept and is stored as soon as it does.'),
      );
      paying = undefined;
      unsent = false;
      finished.value = sale;
      phase.value = 'done';
      // The server has dropped its basket with the sale; the next one starts a new row.
      revision = 0;
      notices.clear();
      const shown = show(emptyBasket());
      // The next sale may begin at once: its first scan must not meet the end of this one.
      busy.value = false;
      await shown;
    } catch (error) {
      paying = undefined;
      await refusePayment(error);
    } finally {
      busy.value = false;
      remember();
    }
  }

  async function refusePayment(error: unknown): Promise<void> {
    if (error instanceof ApiProblem && error.details.type === 'figures-differ') {
      await catalogue.refresh();
      await change((error.details.data as FigureProblem).basket);
    }
    if (
      error instanceof ApiProblem &&
      ['no-open-drawer', 'countersign-needed'].includes(error.details.type)
    ) {
      phase.value = 'basket';
    }
    notices.failed(problemWords(error));
    if (unsent) sendSoon(SEND_AFTER_MS);
  }

  function nextSale(): void {
    finished.value = null;
    phase.value = 'basket';
    notices.clear();
    remember();
  }

  return {
    basket,
    lines,
    priced,
    stock,
    chosenId,
    chosen,
    total,
    phase,
    finished,
    asking,
    busy,
    begin,
    follow,
    enter,
    caughtUp,
    add,
    answerPrice,
    quantityOf,
    step,
    remove,
    choose,
    change,
    clear,
    startAfresh,
    continueWith,
    takePayment,
    backToBasket,
    payCash,
    nextSale,
  };
});
