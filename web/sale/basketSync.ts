import { counted } from '../../core/locale.ts';
import { v4 as newId } from 'uuid';
import type { StoredBasket } from '../../contract/counter.ts';
import type { TillFacts } from '../../contract/setup.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import type { read, write } from '../net/api.ts';
import { hear } from '../net/houseEvents.ts';
import { ApiProblem, problemWords, Unreachable } from '../net/problem.ts';
import { untilAnswered } from '../net/untilAnswered.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { recallBasket } from './basketMemory.ts';
import type { BasketPrices } from './basketPrices.ts';
import { emptyBasket, type BasketState } from './basketState.ts';
import { catalogue } from './catalogue/thread.ts';

const SEND_AFTER_MS = 150;
const SEND_AGAIN_MS = 2000;
/** How often the day is looked at. */
const CLOCK_MS = 10_000;

/** Refusals that come with the basket as the server has it. */
const SAID_WITH_BASKET = [
  'basket-changed',
  'basket-held',
  'sale-finished',
  'countersign-needed',
  'money-taken',
] as const;

/** The basket as the server has it, where that is said with a problem. */
function storedWith(problem: ApiProblem): StoredBasket | null {
  const { basket, revision, savedBy = null } = problem.data(...SAID_WITH_BASKET) ?? {};
  return basket && revision !== undefined ? { basket, revision, savedBy } : null;
}

/**
 * The basket of this till and the server's, kept alike.
 * @param net how the server is asked
 * @param add puts lines into the basket that is shown
 */
export function basketSync(
  state: BasketState,
  prices: BasketPrices,
  net: { read: typeof read; write: typeof write },
  add: (lines: readonly BasketLine[]) => Promise<void>,
) {
  const { basket, phase, finished, changeDue, practised, behind } = state;
  const notices = useNoticeStore();
  const till = useTillStore();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  /** Keys of what was sent and not answered: the server may have it all the same. */
  const unanswered = new Set<string>();

  /** The basket was changed: it is kept at once, and sent a moment later. */
  function changed(): void {
    if (practised.value) return;
    behind.unsent = true;
    state.remember();
    sendSoon();
  }

  function sendSoon(after = SEND_AFTER_MS): void {
    clearTimeout(timer);
    timer = setTimeout(() => void send(), after);
  }

  /** Sends nothing until the next change. */
  const wait = (): void => clearTimeout(timer);

  /**
   * What the server has is another basket now, or none: nothing of this one is to be sent. @param revision the
   * server's
   */
  function restart(revision = 0): void {
    wait();
    behind.unsent = false;
    behind.revision = revision;
  }

  async function send(): Promise<void> {
    if (sending || !behind.unsent || behind.paying || practised.value) return;
    sending = true;
    const sent = basket.value;
    const key = newId();
    unanswered.add(key);
    // What is refused is sent with the next change: as it is, it would be refused again.
    let again: number | null = SEND_AFTER_MS;
    try {
      const body = { basket: sent, revision: behind.revision };
      const saved = await net.write<{ revision: number }>('PUT', '/counter/basket', body, key);
      unanswered.clear();
      if (basket.value.id === sent.id) behind.revision = saved.revision;
      if (basket.value === sent) behind.unsent = false;
      state.remember();
    } catch (error) {
      const problem = error instanceof ApiProblem ? error.details : null;
      if (error instanceof Unreachable || problem?.type === 'payment-open') again = SEND_AGAIN_MS;
      else if (error instanceof ApiProblem && SAID_WITH_BASKET.some((type) => type === error.details.type))
        await adopt(error, sent);
      else {
        again = problem && problem.status >= 500 ? SEND_AGAIN_MS : null;
        notices.failed(problemWords(error));
      }
    } finally {
      sending = false;
    }
    if (behind.unsent && !behind.paying && (again !== null || basket.value !== sent))
      sendSoon(again ?? SEND_AFTER_MS);
  }

  /** Another window of this till was faster: its basket is shown, and what is only here can be put back. */
  async function adopt(problem: ApiProblem, mine: Basket): Promise<void> {
    const theirs = storedWith(problem);
    const own = unanswered.has(theirs?.savedBy ?? '');
    unanswered.clear();
    // It was about a basket that has been paid or held meanwhile.
    if (basket.value.id !== mine.id) return;
    behind.revision = theirs?.revision ?? 0;
    // Nobody else changed it: only the answer was lost. What came since is sent next.
    if (own && problem.details.type === 'basket-changed') return;
    behind.unsent = false;
    const known = new Set(theirs?.basket.lines.map(({ id }) => id));
    const onlyHere =
      problem.details.type === 'basket-changed' ? mine.lines.filter(({ id }) => !known.has(id)) : [];
    await prices.show(theirs?.basket ?? emptyBasket());
    const putBack = {
      word: `Put back ${counted(onlyHere.length, 'line')}`,
      do: () => void add(onlyHere),
    };
    notices.failed(problem.words, onlyHere.length > 0 ? putBack : undefined);
  }

  /**
   * Takes up the till's basket: what this browser kept, unless another window has gone on with it.
   * A payment that was asked for and not answered is still asked for.
   */
  async function takeUp(facts: TillFacts): Promise<void> {
    behind.tillId = facts.till.id;
    const loaded = catalogue.load(facts);
    const kept = recallBasket(behind.tillId);
    const stored = await net.read<StoredBasket | null>('/counter/basket');
    await loaded;
    behind.revision = stored?.revision ?? 0;
    finished.value = kept?.finished ?? null;
    changeDue.value = kept?.changeDue ?? 0;
    phase.value = finished.value ? 'done' : 'basket';
    behind.unsent = Boolean(
      kept?.unsent && (!stored || stored.basket.id === kept.basket.id || stored.revision === kept.revision),
    );
    behind.paying = kept?.paying;
    await prices.show((behind.unsent ? kept?.basket : stored?.basket) ?? emptyBasket());
    if (!behind.paying && behind.unsent) sendSoon(0);
  }

  /** Shows what another window of this till has stored, unless something is going on here. */
  async function takeOver(): Promise<void> {
    const stored = await net.read<StoredBasket | null>('/counter/basket');
    if (!stored || goesOn() || stored.revision <= behind.revision) return;
    behind.revision = stored.revision;
    await prices.show(stored.basket);
  }

  const goesOn = (): boolean =>
    sending || behind.unsent || behind.paying !== undefined || practised.value !== null;

  /** Sends what is left to send, or looks at what the server has. */
  async function goOn(): Promise<void> {
    if (behind.unsent) sendSoon(0);
    else await takeOver().catch(() => {});
  }

  /** Another window of this till took the payment. */
  function paidElsewhere(): void {
    restart();
    phase.value = 'basket';
    void prices.show(emptyBasket());
  }

  let followed = 0;
  /** Reads what has changed about goods, and prices with it: what cannot be had now is asked for again. */
  async function takeIn(change: () => Promise<void>): Promise<void> {
    const mine = followed;
    await untilAnswered(
      async () => {
        await change();
        await prices.price();
      },
      (error) => {
        if (!(error instanceof Unreachable)) throw error;
      },
      () => mine === followed,
    );
  }

  /** Hears of changes that were made elsewhere. @returns a function that stops it */
  function follow(): () => void {
    const clock = setInterval(prices.priceOnNewDay, CLOCK_MS);
    const stop = hear((event) => {
      if (event.kind === 'connected') {
        if (behind.tillId !== 0) void takeIn(() => catalogue.catchUp());
        if (behind.unsent) sendSoon(0);
      } else if (event.kind === 'stock-changed') {
        void catalogue.setStock(event.levels).then(prices.price);
      } else if (event.kind === 'shop-changed') {
        void till.load().then(prices.takeFacts, () => {});
      } else if (event.kind === 'catalogue-changed') {
        void takeIn(() => catalogue.refresh());
      } else if (event.kind === 'basket-changed') {
        const newer = event.tillId === behind.tillId && event.revision > behind.revision;
        if (newer && !goesOn()) void takeOver();
      } else if (event.kind === 'sale-finished') {
        const mine = event.saleId === basket.value.id;
        if (mine && !behind.paying && phase.value !== 'paying') paidElsewhere();
      }
    });
    return () => {
      clearInterval(clock);
      followed += 1;
      stop();
    };
  }

  return { changed, sendSoon, wait, restart, takeUp, goOn, follow };
}
export type BasketSync = ReturnType<typeof basketSync>;
