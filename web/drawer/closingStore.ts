import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { ClosedShift } from '../../contract/drawer.ts';
import { planBag, planByHand, planTotal, type BagPlan } from '../../core/drawer/bagPlan.ts';
import type { Pieces } from '../../core/drawer/countSheet.ts';
import { variance } from '../../core/drawer/expectedCash.ts';
import { toCount, varianceWords, type ShiftTender } from '../../core/drawer/shiftReport.ts';
import { plainMoney, parseMoney, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';

/** What is typed on the way to a closed shift; kept in the browser until it is closed. */
interface ClosingForm {
  float: string;
  bagNumber: string;
  note: string;
  name: string;
  path: string;
  witnessName: string;
  witnessPath: string;
  keepHeld: boolean;
  /** The pieces that stay, where they are chosen by hand. */
  keep: Pieces | null;
  /** Counts of other means of payment as typed, by their number. */
  others: Record<number, string>;
}

/** What was chosen, as far as it is still there: the count may have been changed since. */
const within = (keep: Pieces, counted: Pieces): Pieces =>
  Object.fromEntries(
    Object.entries(keep)
      .map(([value, count]) => [value, Math.min(count, counted[value] ?? 0)] as const)
      .filter(([, count]) => count > 0),
  );

/** The way from the count to a signed report. */
export const useClosingStore = defineStore('closing', () => {
  const drawer = useDrawerStore();
  const till = useTillStore();
  const session = useSessionStore();

  const keyOf = () => `mondrel.close.${drawer.state?.shift?.id ?? 0}`;
  const fresh = (): ClosingForm => ({
    float: plainMoney(till.facts?.shop.openingFloat ?? 0, till.digits),
    bagNumber: '',
    note: '',
    name: session.person?.name ?? '',
    path: '',
    witnessName: '',
    witnessPath: '',
    keepHeld: false,
    keep: null,
    others: {},
  });
  const form = ref<ClosingForm>(fresh());

  /** Takes up what was typed for this shift before. */
  function begin(): void {
    const kept = localStorage.getItem(keyOf());
    form.value = { ...fresh(), ...(kept ? (JSON.parse(kept) as Partial<ClosingForm>) : {}) };
  }
  watch(form, (now) => localStorage.setItem(keyOf(), JSON.stringify(now)), { deep: true });

  const others = computed(() => drawer.state?.others ?? []);
  /** Foreign cash is counted in its own money. */
  const digitsOf = ({ currency: foreign }: ShiftTender) =>
    foreign ? currencyOf(foreign).digits : till.digits;
  const countedOf = (tender: ShiftTender): Money | null =>
    parseMoney(form.value.others[tender.typeId] ?? '', digitsOf(tender));
  const differenceOf = (tender: ShiftTender): Money | null => {
    const counted = countedOf(tender);
    return counted === null ? null : counted - toCount(tender);
  };
  const counts = computed(() =>
    others.value
      .filter(({ counted }) => counted)
      .flatMap((one) => {
        const counted = countedOf(one);
        return counted === null ? [] : [{ typeId: one.typeId, counted }];
      }),
  );

  const expected = computed(() => drawer.state?.expected ?? 0);
  const difference = computed(() => variance(drawer.counted, expected.value));
  const words = computed(() => varianceWords(difference.value, till.digits));
  const float = computed(() => parseMoney(form.value.float, till.digits));
  const plan = computed<BagPlan | null>(() => {
    if (float.value === null || float.value < 0) return null;
    if (drawer.total !== null) return planTotal(drawer.total, float.value);
    const { keep } = form.value;
    if (!keep) return planBag(drawer.pieces, float.value);
    return planByHand(drawer.pieces, within(keep, drawer.pieces));
  });

  /** Chooses by hand how many of a piece stay; what the plan had is where it begins. */
  function keepByHand(value: string, count: number): void {
    const counted = drawer.pieces[value] ?? 0;
    const before = form.value.keep ?? plan.value?.keep ?? {};
    form.value.keep = { ...before, [value]: Math.max(0, Math.min(counted, count)) };
  }
  const planAgain = (): void => {
    form.value.keep = null;
  };

  /** Closes the shift. @throws ApiProblem */
  async function close(): Promise<ClosedShift> {
    const { bagNumber, note, name, path, witnessName, witnessPath, keepHeld } = form.value;
    const key = keyOf();
    const closed = await drawer.close({
      expected: expected.value,
      float: float.value ?? 0,
      keep: drawer.total === null && form.value.keep ? (plan.value?.keep ?? null) : null,
      bagNumber,
      note,
      keepHeld,
      others: counts.value,
      signature: { name, path },
      witness: witnessName.trim() ? { name: witnessName.trim(), path: witnessPath } : null,
    });
    localStorage.removeItem(key);
    return closed;
  }

  return {
    form,
    begin,
    others,
    digitsOf,
    countedOf,
    differenceOf,
    counts,
    expected,
    difference,
    words,
    float,
    plan,
    keepByHand,
    planAgain,
    close,
  };
});
