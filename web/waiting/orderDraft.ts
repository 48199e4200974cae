import { computed, reactive, ref, watch, type Ref } from 'vue';
import type { CollectWanted, OrderFacts, OrderWanted, ShipWanted } from '../../contract/orders.ts';
import type { Basket, BasketLine } from '../../core/counter/basket.ts';
import { shippingLine, type ShippingFacts } from '../../core/counter/orderBasket.ts';
import { dueOf } from '../../core/counter/promisedLines.ts';
import { sum, type Money } from '../../core/money.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import {
  collectTimes,
  firstCollectTime,
  type CollectFacts,
  type CollectTime,
} from '../../core/promises/collecting.ts';
import { orderDeposit, type OrderPlace } from '../../core/promises/order.ts';
import { restOf } from '../../core/promises/promised.ts';
import { shipFee, weightOf } from '../../core/promises/shipping.ts';
import { suggestSources, type Source } from '../../core/promises/sources.ts';
import type { Way } from '../../core/promises/ways.ts';
import type { Quantity } from '../../core/quantity.ts';

/** How a line gets to the customer, as it is being chosen: so much from which place. */
export interface LineDraft {
  way: Way;
  parts: Record<number, Quantity>;
  /** Somebody chose the places: they are not suggested again. */
  chosen: boolean;
}

/** What an order is drafted from. */
export interface DraftFacts {
  basket: () => Basket;
  priced: () => PricedBasket | null;
  facts: Ref<OrderFacts | null>;
  /** Where the till is. */
  here: number;
  now: CollectTime;
  rates: ShippingFacts['rates'];
  rules: ShippingFacts['rules'];
}

/** Nothing of an address. */
export const NO_ADDRESS: ShipWanted = {
  recipient: '',
  street: '',
  postcode: '',
  city: '',
  phone: '',
  wishes: '',
  gift: false,
};

/** An order as it is being put together at the Counter, with everything that follows from what was chosen. */
export function useOrderDraft({ basket, priced, facts, here, now, rates, rules }: DraftFacts) {
  const ways = reactive<Record<string, LineDraft>>({});
  const collect = reactive<CollectWanted>({ placeId: here, day: '', time: '', collector: '' });
  const ship = reactive<ShipWanted>({ ...NO_ADDRESS, recipient: basket().customer?.name ?? '' });
  const note = ref('');

  const stockOf = ({ itemId }: Pick<BasketLine, 'itemId'>) =>
    facts.value?.stock.find((one) => one.itemId === itemId);
  const sourcesOf = (line: BasketLine): Source[] => stockOf(line)?.sources ?? [];
  const shops = computed<OrderPlace[]>(() => facts.value?.places.filter(({ kind }) => kind === 'shop') ?? []);
  const placeOf = (id: number): OrderPlace | undefined => facts.value?.places.find((one) => one.id === id);

  function suggest(line: BasketLine): void {
    const draft = ways[line.id];
    if (!draft || draft.chosen) return;
    // A piece with a number is the one in the hand.
    if (line.serial !== undefined) {
      draft.parts = { [here]: line.quantity };
      return;
    }
    const to = placeOf(draft.way === 'collect' ? collect.placeId : here)?.at ?? null;
    const { parts } = suggestSources(line.quantity, sourcesOf(line), to);
    draft.parts = Object.fromEntries(parts.map(({ placeId, quantity }) => [placeId, quantity]));
  }
  function setWay(line: BasketLine, way: Way): void {
    ways[line.id] = { way, parts: {}, chosen: false };
    suggest(line);
  }
  const setAll = (way: Way): void => basket().lines.forEach((line) => setWay(line, way));
  /** All of a line comes from one place. */
  function takeFrom(line: BasketLine, placeId: number): void {
    const draft = ways[line.id];
    if (draft) Object.assign(draft, { parts: { [placeId]: line.quantity }, chosen: true });
  }
  /** So much of a line comes from a place. */
  function setPart(line: BasketLine, placeId: number, quantity: Quantity): void {
    const draft = ways[line.id];
    if (draft) Object.assign(draft, { parts: { ...draft.parts, [placeId]: quantity }, chosen: true });
  }
  const missingOf = (line: BasketLine): Quantity =>
    line.quantity - sum(Object.values(ways[line.id]?.parts ?? {}));

  const has = (way: Way) => basket().lines.some(({ id }) => ways[id]?.way === way);
  const collects = computed(() => has('collect'));
  const ships = computed(() => has('ship'));

  const times = computed<CollectFacts>(() => ({
    hours: placeOf(collect.placeId)?.hours ?? [],
    leadMinutes: facts.value?.rules.leadMinutes ?? 0,
    now,
  }));
  const timesOnDay = computed(() => collectTimes(collect.day, times.value));
  /** The first time that there is, as long as nobody has said another one that can be kept. */
  let usual: CollectTime = { day: '', time: '' };
  function usualTime(): void {
    const said = collect.day !== usual.day || collect.time !== usual.time;
    if (said && timesOnDay.value.includes(collect.time)) return;
    usual = firstCollectTime(times.value) ?? { day: now.day, time: '' };
    Object.assign(collect, usual);
  }
  watch(
    () => [collect.placeId, facts.value] as const,
    () => {
      if (!facts.value) return;
      usualTime();
      basket().lines.forEach((line) => (ways[line.id] ? suggest(line) : setWay(line, 'collect')));
    },
    { immediate: true },
  );
  // What is scanned while it is open, or of which there are more, belongs to it.
  watch(
    () =>
      basket()
        .lines.map(({ id, quantity }) => `${id} ${quantity}`)
        .join(),
    () => {
      for (const line of basket().lines) {
        const draft = ways[line.id];
        if (!draft) setWay(line, 'collect');
        else if (missingOf(line) !== 0) {
          draft.chosen = false;
          suggest(line);
        }
      }
    },
  );
  watch(
    () => collect.day,
    () => {
      if (!timesOnDay.value.includes(collect.time)) collect.time = timesOnDay.value[0] ?? '';
    },
  );

  const weight = computed(() =>
    weightOf(
      basket()
        .lines.filter(({ id }) => ways[id]?.way === 'ship')
        .map((line) => ({ quantity: line.quantity, weight: stockOf(line)?.weight ?? null })),
      facts.value?.rules.usualWeight ?? 0,
    ),
  );
  /** What shipping costs, or why it cannot be shipped. */
  const fee = computed(() =>
    ships.value && ship.postcode.trim()
      ? shipFee(facts.value?.rules.zones ?? [], ship.postcode, weight.value)
      : null,
  );
  const feeAmount = computed<Money>(() => (fee.value && typeof fee.value !== 'string' ? fee.value.fee : 0));
  const dueFor = (waits: boolean): Money => {
    const figures = priced();
    return figures ? dueOf(basket().lines, figures, ({ id }) => (ways[id]?.way !== 'take') === waits) : 0;
  };
  /** What is paid for what is taken along, and what the rest comes to with shipping. */
  const takenNow = computed(() => dueFor(false));
  const waiting = computed(() => {
    const item = facts.value?.shippingItem;
    const shipped =
      item && feeAmount.value > 0
        ? restOf(shippingLine(feeAmount.value, basket(), { item, rates, rules }))
        : 0;
    return dueFor(true) + shipped;
  });
  const least = computed(() => (facts.value ? orderDeposit(facts.value.rules, waiting.value) : 0));

  /** The order as the server is asked for it. */
  function wanted(deposit: Money): OrderWanted {
    return {
      lines: basket().lines.map((line) => {
        const { way = 'collect', parts = {} } = ways[line.id] ?? {};
        const takes = way === 'take';
        return {
          lineId: line.id,
          way,
          parts: takes
            ? []
            : Object.entries(parts)
                .filter(([, quantity]) => quantity > 0)
                .map(([placeId, quantity]) => ({ placeId: Number(placeId), quantity })),
          missing: takes ? 0 : Math.max(0, missingOf(line)),
        };
      }),
      collect: collects.value ? { ...collect } : null,
      ship: ships.value ? { ...ship } : null,
      fee: feeAmount.value,
      deposit,
      note: note.value,
    };
  }

  return {
    ways,
    collect,
    ship,
    note,
    shops,
    sourcesOf,
    placeOf,
    stockOf,
    setWay,
    setAll,
    takeFrom,
    setPart,
    missingOf,
    collects,
    ships,
    times,
    timesOnDay,
    weight,
    fee,
    feeAmount,
    takenNow,
    waiting,
    least,
    wanted,
  };
}

export type OrderDraft = ReturnType<typeof useOrderDraft>;
