import { v4 as newId } from 'uuid';
import { computed, ref, shallowRef } from 'vue';
import type { FinishedSale, FinishSale } from '../../contract/counter.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { Money } from '../../core/money.ts';
import type { Nudge } from '../../core/nudges/nudge.ts';
import type { Offer } from '../../core/offers/offer.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import type { Quantity } from '../../core/quantity.ts';
import { keepBasket } from './basketMemory.ts';

/** Where the right column is: ringing up, taking payment, or after the last payment. */
export type Phase = 'basket' | 'paying' | 'done';

export const emptyBasket = (): Basket => ({ id: newId(), lines: [] });

/** The basket of this till as all that is done with it shares it. */
export function basketState() {
  const basket = shallowRef<Basket>(emptyBasket());
  const priced = shallowRef<PricedBasket | null>(null);
  const stock = shallowRef<Record<number, Quantity | null>>({});
  /** What may be said to the customer about offers; a moment after the prices stand. */
  const nudges = shallowRef<readonly Nudge[]>([]);
  const chosenId = ref<string | null>(null);
  /** Lines that were picked to do something with all of them. */
  const picked = shallowRef<ReadonlySet<string>>(new Set());
  const phase = ref<Phase>('basket');
  const finished = shallowRef<FinishedSale | null>(null);
  const busy = ref(false);
  /** Change of the sale before, which goods that waited for it took out of sight. */
  const changeDue = ref<Money>(0);
  /** An offer that is tried with a basket of its own, which is neither kept nor paid. */
  const practised = shallowRef<Offer | null>(null);
  /** A card terminal is being asked for this basket: it must not change meanwhile. */
  const deviceAsked = ref(false);
  /** Money was taken for this basket: it must be paid for or given back, even when everything is taken out of it. */
  const moneyHeld = ref(false);

  const lines = computed(() => basket.value.lines);
  const chosen = computed(() => lines.value.find(({ id }) => id === chosenId.value) ?? null);
  const pickedLines = computed(() => lines.value.filter(({ id }) => picked.value.has(id)));
  const total = computed<Money>(() => priced.value?.total ?? 0);
  /** What is to be paid, with what is given to a fund. */
  const due = computed<Money>(() => total.value + (basket.value.roundUp?.amount ?? 0));

  /** What the page does not show of it. */
  const behind = {
    tillId: 0,
    /** The one that the server was heard to have. */
    revision: 0,
    /** Whether there is something that the server has not stored yet. */
    unsent: false,
    /** A payment that was asked for and not answered. */
    paying: undefined as FinishSale | undefined,
  };

  /** Keeps it in the browser, as it is now. */
  function remember(): void {
    if (practised.value) return;
    const { tillId, revision, unsent, paying } = behind;
    keepBasket(tillId, {
      basket: basket.value,
      revision,
      unsent,
      ...(paying ? { paying } : {}),
      ...(finished.value ? { finished: finished.value } : {}),
      ...(changeDue.value ? { changeDue: changeDue.value } : {}),
    });
  }

  return {
    basket,
    priced,
    stock,
    nudges,
    chosenId,
    picked,
    phase,
    finished,
    busy,
    changeDue,
    practised,
    deviceAsked,
    moneyHeld,
    lines,
    chosen,
    pickedLines,
    total,
    due,
    behind,
    remember,
  };
}
export type BasketState = ReturnType<typeof basketState>;
