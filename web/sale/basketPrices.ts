import type { PaymentView } from '../../contract/payment.ts';
import type { TillFacts } from '../../contract/setup.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay, shopTimeOfDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';
import type { BasketState } from './basketState.ts';
import { catalogue } from './catalogue/thread.ts';

/** So long after the last change suggestions are looked for: ringing up goes first. */
const NUDGE_AFTER_MS = 120;

/** Lines that cost what they did stay the same objects, so that only rows that changed are drawn again. */
function withUnchanged(priced: PricedBasket, before: PricedBasket | null): PricedBasket {
  const known = new Map(before?.lines.map((line) => [line.id, line]));
  const lines = priced.lines.map((line) => {
    const other = known.get(line.id);
    return other && JSON.stringify(other) === JSON.stringify(line) ? other : line;
  });
  return { ...priced, lines };
}

/** What the basket comes to, as it is now. */
export function basketPrices(state: BasketState) {
  const { basket, priced, stock, nudges, chosenId, lines, behind } = state;
  const till = useTillStore();
  let turn = 0;
  let nudgeTimer: ReturnType<typeof setTimeout> | undefined;
  /** Since when money is held for which basket, and what it came to then. */
  let begun: (NonNullable<PaymentView['begun']> & { basket: Basket }) | null = null;
  /** The last time that the basket was priced, while it is. */
  let figuring: Promise<void> = Promise.resolve();

  function price(): Promise<void> {
    figuring = priceNow();
    return figuring;
  }

  async function priceNow(): Promise<void> {
    const mine = ++turn;
    const answer = await catalogue.price(basket.value, begun?.at);
    if (mine !== turn) return;
    priced.value = withUnchanged(figuresThatStand() ?? answer.priced, priced.value);
    stock.value = answer.stock;
    clearTimeout(nudgeTimer);
    nudgeTimer = setTimeout(() => void suggest(mine), NUDGE_AFTER_MS);
  }

  /** What the basket came to when its payment began, unless it was changed since. */
  function figuresThatStand(): PricedBasket | null {
    if (!begun?.priced || begun.basket !== basket.value) return null;
    const same = begun.priced.lines.map(({ id }) => id).join() === lines.value.map(({ id }) => id).join();
    return same ? begun.priced : null;
  }

  async function suggest(mine: number): Promise<void> {
    // Without suggestions a sale goes on all the same.
    const found = await catalogue.nudges(basket.value).catch(() => []);
    if (mine === turn) nudges.value = found;
  }

  /** Money is held for the basket since a moment, or no more: prices of that moment stand until the payment is over. */
  async function standBy(payment: PaymentView['begun']): Promise<void> {
    const before = begun;
    begun = payment && { ...payment, basket: basket.value };
    if (before?.at !== begun?.at || figuresThatStand()) await price();
  }

  /** The payment is over: what comes next has prices of its own. */
  const standNoMore = (): void => {
    begun = null;
  };

  /** Shows a basket instead of the one that is there. */
  async function show(next: Basket): Promise<void> {
    basket.value = next;
    chosenId.value = next.lines.at(-1)?.id ?? null;
    state.remember();
    await price();
  }

  /** The shop has changed something that prices depend on. */
  async function takeFacts(facts: TillFacts): Promise<void> {
    await catalogue.setFacts(facts);
    await price();
  }

  let day = '';
  /** A tax rate may change at midnight, and offers begin and end. */
  function priceOnNewDay(): void {
    const { shop, offers = [] } = till.facts ?? {};
    const zone = shop?.timezone ?? 'UTC';
    // Where an offer has hours, every minute counts.
    const timed = offers.some(({ conditions }) => conditions.hours !== null);
    const now = `${shopDay(houseNow(), zone)}${timed ? shopTimeOfDay(houseNow(), zone) : ''}`;
    if (day && now !== day && !behind.paying) void price();
    day = now;
  }

  return { price, figured: () => figuring, standBy, standNoMore, show, takeFacts, priceOnNewDay };
}
export type BasketPrices = ReturnType<typeof basketPrices>;
