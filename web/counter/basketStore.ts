import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { FigureProblem, FinishedSale, FinishSale, StoredBasket } from '../../contract/counter.ts';
import type { TillFacts } from '../../contract/setup.ts';
import {
  BasketError,
  quantityStep,
  removeLines,
  restoreLines,
  setQuantity,
  takesOut,
  type Basket,
  type BasketCustomer,
  type BasketLine,
} from '../../core/counter/basket.ts';
import type { Money } from '../../core/money.ts';
import type { PricedBasket } from '../../core/offers/price.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords, read, Unreachable, write, writeSurely } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { keepBasket, recallBasket } from './basketMemory.ts';
import { houseNow } from '../setup/houseClock.ts';
import { shopDay } from '../setup/shopDay.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { catalogue } from './catalogue/thread.ts';
import { soundRefusal } from './sound.ts';

const SEND_AFTER_MS = 150;
const SEND_AGAIN_MS = 2000;
/** How often the day is looked at. */
const CLOCK_MS = 10_000;

/** Refusals that come with the basket as the server has it. */
const SAID_WITH_BASKET = ['basket-changed', 'basket-held', 'sale-finished', 'countersign-needed'];

const emptyBasket = (): Basket => ({ id: newId(), lines: [] });

/** Lines that cost what they did stay the same objects, so that only rows that changed are drawn again. */
function withUnchanged(priced: PricedBasket, before: PricedBasket | null): PricedBasket {
  const known = new Map(before?.lines.map((line) => [line.id, line]));
  const lines = priced.lines.map((line) => {
    const other = known.get(line.id);
    return other && JSON.stringify(other) === JSON.stringify(line) ? other : line;
  });
  return { ...priced, lines };
}

/** Where the right column is: ringing up, taking payment, or after the last payment. */
export type Phase = 'basket' | 'paying' | 'done';

/** The basket of this till, and the way from it to a finished sale. */
export const useBasketStore = defineStore('basket', () => {
  const notices = useNoticeStore();
  const countersigns = useCountersignStore();
  const till = useTillStore();
  const basket = shallowRef<Basket>(emptyBasket());
  const priced = shallowRef<PricedBasket | null>(null);
  const stock = shallowRef<Record<number, Quantity | null>>({});
  const chosenId = ref<string | null>(null);
  const phase = ref<Phase>('basket');
  const finished = shallowRef<FinishedSale | null>(null);
  const busy = ref(false);
  /** Lines that were picked to do something with all of them. */
  const picked = shallowRef<ReadonlySet<string>>(new Set());

  let tillId = 0;
  let revision = 0;
  let unsent = false;
  let paying: FinishSale | undefined;
  let pricing = 0;
  let sendTimer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;

  const lines = computed(() => basket.value.lines);
  const chosen = computed(() => lines.value.find(({ id }) => id === chosenId.value) ?? null);
  const pickedLines = computed(() => lines.value.filter(({ id }) => picked.value.has(id)));
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
    priced.value = withUnchanged(answer.priced, priced.value);
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
      else if (error instanceof ApiProblem && SAID_WITH_BASKET.includes(error.details.type))
        await adopt(error, sent);
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
    const clock = setInterval(priceOnNewDay, CLOCK_MS);
    const stop = hear((event) => {
      if (event.kind === 'connected') {
        void refresh();
        if (unsent) sendSoon(0);
      } else if (event.kind === 'stock-changed') {
        void catalogue.setStock(event.levels).then(price);
      } else if (event.kind === 'shop-changed') {
        void till.load().then(takeFacts, () => {});
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
    return () => {
      clearInterval(clock);
      stop();
    };
  }

  let day = '';

  /** A tax rate may change at midnight. */
  function priceOnNewDay(): void {
    const today = shopDay(houseNow(), till.facts?.shop.timezone ?? 'UTC');
    if (day && today !== day && !paying) void price();
    day = today;
  }

  /** The shop has changed something that prices depend on. */
  async function takeFacts(facts: TillFacts): Promise<void> {
    await catalogue.setFacts(facts);
    await price();
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

  /** Brings the Counter to where goods can be added. @returns false while the payment before is being stored */
  function readyForGoods(name: string): boolean {
    if (busy.value) {
      notices.failed(`${name} was not added: the payment before it is still being stored. Scan it again.`);
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
    if (before.paymentBegan && takesOut(before, next)) {
      const approval = await countersigns.need('line.remove-late', before.id, about);
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

  const remove = (line: BasketLine | null) => (line ? removeAll([line]) : Promise.resolve());

  /** Takes lines out; Undo puts them back where they were. */
  async function removeAll(out: readonly BasketLine[]): Promise<void> {
    const before = basket.value;
    const [first] = out;
    if (!first) return;
    const at = before.lines.indexOf(first);
    const without = removeLines(before, new Set(out.map(({ id }) => id)));
    const words = out.length === 1 ? first.name : `${out.length} lines`;
    const neighbour = without.lines[at] ?? without.lines[at - 1];
    if (!(await takeOut(without, words, neighbour?.id ?? null))) return;
    notices.say(`${words} removed.`, {
      word: 'Undo',
      do: () => void change(restoreLines(basket.value, before), first.id),
    });
  }

  /** Empties the basket; Undo brings everything back. */
  async function clear(): Promise<void> {
    const before = basket.value;
    const { id, paymentBegan } = before;
    if (before.lines.length === 0 || !(await takeOut({ id, paymentBegan, lines: [] }, 'the whole basket')))
      return;
    notices.say(`${before.lines.length} ${before.lines.length === 1 ? 'line' : 'lines'} cleared.`, {
      word: 'Undo',
      do: () => void change({ ...before, lines: restoreLines(basket.value, before).lines }),
    });
  }

  /** Whom the goods are for; `null` for nobody known. */
  const setCustomer = (customer: BasketCustomer | null): Promise<void> =>
    change({ ...basket.value, customer: customer ?? undefined });

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
    if (lines.value.length === 0) return;
    notices.clear();
    phase.value = 'paying';
    if (!basket.value.paymentBegan) void change({ ...basket.value, paymentBegan: true });
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
    picked,
    pickedLines,
    busy,
    begin,
    follow,
    readyForGoods,
    refuse,
    quantityOf,
    step,
    remove,
    removeAll,
    choose,
    pick,
    pickAll,
    pickNone,
    setCustomer,
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
