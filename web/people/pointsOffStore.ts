import { defineStore } from 'pinia';
import { computed } from 'vue';
import { setPointsOff } from '../../core/counter/basketCodes.ts';
import type { PaidPoints } from '../../core/offers/pointsOff.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCustomerStore } from './customerStore.ts';
import { usePointsStore } from './pointsStore.ts';

/** Points of the customer on the sale as money off. */
export const usePointsOffStore = defineStore('pointsOff', () => {
  const basket = useBasketStore();
  const customers = useCustomerStore();
  const points = usePointsStore();
  const till = useTillStore();

  const rate = computed(() => (points.programme?.on ? points.programme : undefined));
  const had = computed(() => customers.panel?.points ?? 0);
  /** Whether they have points that take something off what is rung up. */
  const offered = computed(
    () =>
      rate.value !== undefined &&
      rate.value.offPoints > 0 &&
      had.value >= rate.value.offPoints &&
      basket.lines.length > 0,
  );
  const paid = computed(() => basket.priced?.pointsOff ?? null);
  /** What a step takes off. */
  const rateWords = computed(() => {
    const { offPoints = 0, offAmount = 0 } = rate.value ?? {};
    return `${points.words(offPoints)} take off ${till.money(offAmount)}`;
  });

  /** What so many points would take off the basket as it is: no more than go on its goods, and than are there. */
  async function look(wanted: number): Promise<PaidPoints> {
    const { priced } = await catalogue.look(setPointsOff(basket.basket, wanted));
    return priced.pointsOff ?? { points: 0, amount: 0 };
  }

  const use = (wanted: number) => basket.change(setPointsOff(basket.basket, wanted));

  return { rate, had, offered, paid, rateWords, look, use };
});
