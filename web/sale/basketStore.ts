import { defineStore } from 'pinia';
import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { FinishedSale, FinishSale, StoredBasket, UsedUpProblem } from '../../contract/counter.ts';
import type { CountersignNeeded } from '../../contract/problem.ts';
import type { PaymentView } from '../../contract/payment.ts';
import type { TillFacts } from '../../contract/setup.ts';
import {
  BasketError,
  quantityStep,
  removeLines,
  restoreLines,
  setQuantity,
  type Basket,
  type BasketCustomer,
  type BasketLine,
} from '../../core/counter/basket.ts';
import { withoutPoints } from '../../core/counter/basketCodes.ts';
import { takenOut, withApproval } from '../../core/counter/neededRights.ts';
import type { Money } from '../../core/money.ts';
import type { Nudge } from '../../core/offers/nudge.ts';
import type { Offer } from '../../core/offers/offer.ts';
import type { PricedBasket } from '../../core/offers/price.ts';
import { ONE, type Quantity } from '../../core/quantity.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { read, write, writeSurely } from '../net/api.ts';
import { ApiProblem, problemWords, Unreachable } from '../net/problem.ts';
import { hear } from '../net/houseEvents.ts';
import { keepBasket, recallBasket } from './basketMemory.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay, shopTimeOfDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { catalogue } from './catalogue/thread.ts';
import { offerClaims } from './offerClaims.ts';
import { soundRefusal } from './sound.ts';

const SEND_AFTER_MS = 150;
const SEND_AGAIN_MS = 2000;
/** So long after the last change suggestions are looked for: ringing up goes first. */
const NUDGE_AFTER_MS = 120;
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
  let nudgeTimer: ReturnType<typeof setTimeout> | undefined;
  let sendTimer: ReturnType<typeof setTimeout> | undefined;
  let sending = false;
  /** Keys of what was sent and not answered: the server may have it all the same. */
  const unanswered = new Set<string>();
  let claiming = false;
  const claims = offerClaims();

  const lines = computed(() => basket.value.lines);
  const chosen = computed(() => lines.value.find(({ id }) => id === chosenId.value) ?? null);
  const pickedLines = computed(() => lines.value.filter(({ id }) => picked.value.has(id)));
  /** What may be said to the customer about offers; a moment after the prices stand. */
  const nudges = shallowRef<readonly Nudge[]>([]);
  /** An offer that is tried with a basket of its own, which is neither kept nor paid. */
  const practised = shallowRef<Offer | null>(null);
  let aside: Basket | undefined;
  let begun: (NonNullable<PaymentView['begun']> & { basket: Basket }) | null = null;
  const total = computed<Money>(() => priced.value?.total ?? 0);
  /** What is to be paid, with what is given to a fund. */
  const due = computed<Money>(() => total.value + (basket.value.roundUp?.amount ?? 0));
  /** A card terminal is being asked for this basket: it must not change meanwhile. */
  const deviceAsked = ref(false);
  /** Money was taken for this basket: it must be paid for or given back, even when everything is taken out of it. */
  const moneyHeld = ref(false);

  function remember(): void {
    if (practised.value) return;
    keepBasket(tillId, {
      basket: basket.value,
      revision,
      unsent,
      ...(paying ? { paying } : {}),
      ...(finished.value ? { finished: finished.value } : {}),
    });
  }

  /** The last time that the basket was priced, while it is. */
  let figuring: Promise<void> = Promise.resolve();
  function price(): Promise<void> {
    figuring = priceNow();
    return figuring;
  }

  async function priceNow(): Promise<void> {
    const turn = ++pricing;
    const answer = await catalogue.price(basket.value, begun?.at);
    if (turn !== pricing) return;
    priced.value = withUnchanged(figuresThatStand() ?? answer.priced, priced.value);
    stock.value = answer.stock;
    clearTimeout(nudgeTimer);
    nudgeTimer = setTimeout(() => void suggest(turn), NUDGE_AFTER_MS);
  }

  /** What the basket came to when its payment began, unless it was changed since. */
  function figuresThatStand(): PricedBasket | null {
    if (!begun?.priced || begun.basket !== basket.value) return null;
    const same = begun.priced.lines.map(({ id }) => id).join() === lines.value.map(({ id }) => id).join();
    return same ? begun.priced : null;
  }

  /** Money is held for the basket since a moment, or no more: prices of that moment stand until the payment is over. */
  async function standBy(payment: PaymentView['begun']): Promise<void> {
    const before = begun;
    begun = payment && { ...payment, basket: basket.value };
    if (before?.at !== begun?.at || figuresThatStand()) await price();
  }

  async function suggest(turn: number): Promise<void> {
    // Without suggestions a sale goes on all the same.
    const found = await catalogue.nudges(basket.value).catch(() => []);
    if (turn === pricing) nudges.value = found;
  }

  /** Every change to the basket goes through here: kept first, then priced and sent. */
  async function change(next: Basket, chooseId: string | null = chosenId.value): Promise<void> {
    if (deviceAsked.value && next.lines !== basket.value.lines) {
      notices.failed('The card terminal is being asked for this basket. Call it off first.');
      return;
    }
    // Another total is rounded up by another amount: the customer is asked again.
    basket.value = next.lines === basket.value.lines ? next : { ...next, roundUp: undefined };
    chosenId.value = next.lines.some(({ id }) => id === chooseId)
      ? chooseId
      : (next.lines.at(-1)?.id ?? null);
    if (!practised.value) {
      unsent = true;
      remember();
      sendSoon(SEND_AFTER_MS);
    }
    await price();
  }

  function sendSoon(after: number): void {
    clearTimeout(sendTimer);
    sendTimer = setTimeout(() => void sendBasket(), after);
  }

  async function sendBasket(): Promise<void> {
    if (sending || !unsent || paying || practised.value) return;
    sending = true;
    const sent = basket.value;
    const key = newId();
    unanswered.add(key);
    try {
      const saved = await write<{ revision: number }>(
        'PUT',
        '/counter/basket',
        { basket: sent, revision },
        key,
      );
      unanswered.clear();
      if (basket.value.id === sent.id) revision = saved.revision;
      if (basket.value === sent) unsent = false;
      remember();
    } catch (error) {
      const laterOn = error instanceof ApiProblem && error.details.type === 'payment-open';
      if (error instanceof Unreachable || laterOn) sendSoon(SEND_AGAIN_MS);
      else if (error instanceof ApiProblem && SAID_WITH_BASKET.some((type) => type === error.details.type))
        await adopt(error, sent);
      else notices.failed(problemWords(error));
    } finally {
      sending = false;
    }
    if (unsent && !paying) sendSoon(SEND_AFTER_MS);
  }

  /** Another window of this till was faster: its basket is shown, and what is only here can be put back. */
  async function adopt(problem: ApiProblem, mine: Basket): Promise<void> {
    const theirs = storedWith(problem);
    const own = unanswered.has(theirs?.savedBy ?? '');
    unanswered.clear();
    // It was about a basket that has been paid or held meanwhile.
    if (basket.value.id !== mine.id) return;
    revision = theirs?.revision ?? 0;
    // Nobody else changed it: only the answer was lost. What came since is sent next.
    if (own && problem.details.type === 'basket-changed') return;
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

  async function show(next: Basket): Promise<void> {
    basket.value = next;
    chosenId.value = next.lines.at(-1)?.id ?? null;
    remember();
    await price();
  }

  /** Takes up the till's basket: what this browser kept, unless another window has gone on with it. */
  async function begin(facts: TillFacts): Promise<void> {
    tillId = facts.till.id;
    await forgetPractice();
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
        if (!sending && !unsent && !paying && !practised.value) void takeOver();
      } else if (
        event.kind === 'sale-finished' &&
        event.saleId === basket.value.id &&
        !paying &&
        phase.value !== 'paying'
      ) {
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

  /** A tax rate may change at midnight, and offers begin and end. */
  function priceOnNewDay(): void {
    const { shop, offers = [] } = till.facts ?? {};
    const zone = shop?.timezone ?? 'UTC';
    // Where an offer has hours, every minute counts.
    const timed = offers.some(({ conditions }) => conditions.hours !== null);
    const now = `${shopDay(houseNow(), zone)}${timed ? shopTimeOfDay(houseNow(), zone) : ''}`;
    if (day && now !== day && !paying) void price();
    day = now;
  }

  /** The shop has changed something that prices depend on. */
  async function takeFacts(facts: TillFacts): Promise<void> {
    await catalogue.setFacts(facts);
    await price();
  }

  async function refresh(): Promise<void> {
    if (tillId === 0) return;
    await catalogue.catchUp().catch(() => {});
  }

  async function takeOver(): Promise<void> {
    const stored = await read<StoredBasket | null>('/counter/basket');
    if (!stored || sending || unsent || paying || practised.value || stored.revision <= revision) return;
    revision = stored.revision;
    await show(stored.basket);
  }

  /** Brings the Counter to where goods can be added. @returns false while the payment before is being stored */
  function readyForGoods(name: string): boolean {
    if (busy.value) {
      notices.failed(`${name} was not added: the payment before it is still being stored. Scan it again.`);
      return false;
    }
    if (deviceAsked.value) {
      notices.failed(`${name} was not added: the card terminal is being asked. Call it off first.`);
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

  const remove = (line: BasketLine | null) => (line ? removeAll([line]) : Promise.resolve());

  /** Says what was taken out, with the way back; not while paying, which may have begun meanwhile: there payments are undone. */
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
    const words = out.length === 1 ? first.name : `${out.length} lines`;
    const neighbour = without.lines[at] ?? without.lines[at - 1];
    if (!(await takeOut(without, words, neighbour?.id ?? null))) return;
    offerUndo(`${words} removed.`, () => change(restoreLines(basket.value, before), first.id));
  }

  /** Empties the basket; Undo brings everything back. */
  async function clear(): Promise<void> {
    const before = basket.value;
    const { id, paymentBegan } = before;
    if (before.lines.length === 0 || !(await takeOut({ id, paymentBegan, lines: [] }, 'the whole basket')))
      return;
    offerUndo(`${before.lines.length} ${before.lines.length === 1 ? 'line' : 'lines'} cleared.`, () =>
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
    await forgetPractice();
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

  /** Takes codes and points off that are somebody else's by now, and prices with what is left of the offers. */
  async function withoutUsedUp({ codes, points }: UsedUpProblem): Promise<void> {
    const kept = basket.value.codes?.filter(({ code }) => !codes.includes(code));
    await takeFacts(await till.load());
    const left = points ? withoutPoints(basket.value) : basket.value;
    await change({ ...left, codes: kept?.length ? kept : undefined });
  }

  async function refuseClaim(refused: ApiProblem): Promise<void> {
    soundRefusal();
    const gone = refused.data('offer-used-up');
    if (gone) await withoutUsedUp(gone);
    notices.failed(refused.words);
  }

  async function takePayment(): Promise<void> {
    if ((lines.value.length === 0 && !moneyHeld.value) || claiming) return;
    if (refusedInPractice()) return;
    claiming = true;
    // What was changed a moment ago is priced before anything is asked for; where that failed, it has been said.
    await figuring.catch(() => {});
    const asked = basket.value;
    const refused = await claims.hold(asked, priced.value, till.facts?.offers ?? []);
    claiming = false;
    if (refused) return refuseClaim(refused);
    if (basket.value !== asked) return;
    notices.clear();
    phase.value = 'paying';
    // Goods that are swapped evenly, or were paid for before, need no payment.
    const settled = asked.lines.some(
      ({ quantity, promised }) => quantity < 0 || promised?.part === 'used' || promised?.part === 'back',
    );
    if (total.value === 0 && settled) return payCash(0);
    if (!basket.value.paymentBegan) void change({ ...basket.value, paymentBegan: true });
  }

  function backToBasket(): void {
    if (busy.value || deviceAsked.value) return;
    phase.value = 'basket';
    claims.letGo(basket.value.id);
  }

  /** Tries an offer with a copy of the basket; the basket itself waits as it is. */
  async function practise(offer: Offer): Promise<void> {
    if (busy.value) return;
    aside ??= basket.value;
    practised.value = offer;
    phase.value = 'basket';
    await catalogue.practise(offer);
    basket.value = { ...aside, id: newId(), paymentBegan: undefined };
    chosenId.value = null;
    await price();
  }

  async function endPractice(): Promise<void> {
    const back = aside;
    await forgetPractice();
    if (back) await show(back);
    if (unsent) sendSoon(0);
    else await takeOver().catch(() => {});
  }

  async function forgetPractice(): Promise<void> {
    if (!practised.value) return;
    aside = undefined;
    practised.value = null;
    await catalogue.practise(null);
  }

  /** What would keep or sell a basket that is for practice is refused. @returns whether it was */
  function refusedInPractice(): boolean {
    if (!practised.value) return false;
    notices.failed(
      'This basket is for practice: it is neither kept nor paid. Leave practice to go on selling.',
    );
    return true;
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
      await finish(sale);
    } catch (error) {
      paying = undefined;
      await refusePayment(error);
    } finally {
      busy.value = false;
      remember();
    }
  }

  /** The sale is finished: what it came to is shown until the next one begins. */
  async function finish(sale: FinishedSale): Promise<void> {
    clearTimeout(sendTimer);
    unsent = false;
    deviceAsked.value = false;
    moneyHeld.value = false;
    begun = null;
    finished.value = sale;
    phase.value = 'done';
    // The server has dropped its basket with the sale; the next one starts a new row.
    revision = 0;
    notices.clear();
    const shown = show(emptyBasket());
    // The next sale may begin at once: its first scan must not meet the end of this one.
    busy.value = false;
    await shown;
    remember();
  }

  /** Money was taken for this basket before: the payment goes on. */
  function goOnPaying(): void {
    if (phase.value === 'basket') phase.value = 'paying';
  }

  async function refusePayment(error: unknown): Promise<void> {
    const problem = error instanceof ApiProblem ? error : null;
    if (problem?.details.type === 'key-used') {
      // It was paid before, with another amount handed over: that sale stands.
      const { finished: earlier } = await read<PaymentView>(`/payment/baskets/${basket.value.id}`);
      if (earlier) return finish(earlier);
    }
    const right = problem?.data('figures-differ');
    if (right) {
      await catalogue.refresh();
      await change(right.basket);
    }
    const gone = problem?.data('offer-used-up');
    const unapproved = problem?.data('countersign-needed');
    if (gone || unapproved || problem?.details.type === 'no-open-drawer') phase.value = 'basket';
    if (gone) await withoutUsedUp(gone);
    notices.failed(problemWords(error));
    if (unapproved) void approveAgain(unapproved.needed, problem?.details.detail ?? '');
    if (unsent) sendSoon(SEND_AFTER_MS);
  }

  /** What was approved is not what is in the basket now: it is asked for again, with both figures. */
  async function approveAgain({ right, steps }: CountersignNeeded, why: string): Promise<void> {
    const before = basket.value;
    // The panel that asks says it, too.
    notices.clear();
    const approval = await countersigns.need(right, before.id, why, steps);
    if (!approval?.id || basket.value !== before) return;
    const id = approval.id;
    await change(steps.reduce((now, step) => withApproval(now, { right, step }, id), before));
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
    due,
    deviceAsked,
    moneyHeld,
    finish,
    goOnPaying,
    standBy,
    refusePayment,
    phase,
    finished,
    nudges,
    practised,
    practise,
    endPractice,
    refusedInPractice,
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
