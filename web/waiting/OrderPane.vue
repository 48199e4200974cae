<script setup lang="ts">
import { computed, nextTick, onMounted, reactive, ref, watch } from 'vue';
import { parseMoney, plainMoney } from '../../core/money.ts';
import { ratesOn } from '../../core/pricing/taxRates.ts';
import { collectProblem } from '../../core/promises/collecting.ts';
import { orderDepositProblem } from '../../core/promises/order.ts';
import { formatWeight } from '../../core/promises/shipping.ts';
import { WAYS, type Way } from '../../core/promises/ways.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay, shopTimeOfDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';
import OrderLineRow from './OrderLineRow.vue';
import ShipFields from './ShipFields.vue';
import { useOrderDraft } from './orderDraft.ts';
import { useOrderStore } from './orderStore.ts';

const basket = useBasketStore();
const work = useBasketWorkStore();
const orders = useOrderStore();
const notices = useNoticeStore();
const till = useTillStore();

const zone = till.facts?.shop.timezone ?? 'UTC';
const now = { day: shopDay(houseNow(), zone), time: shopTimeOfDay(houseNow(), zone) };
const facts = computed(() => orders.facts);
const draft = useOrderDraft({
  basket: () => basket.basket,
  priced: () => basket.priced,
  facts,
  here: till.facts?.till.placeId ?? 0,
  now,
  rates: ratesOn(till.facts?.taxRates ?? [], now.day),
  rules: {
    taxMode: till.facts?.shop.taxMode ?? 'on-top',
    taxRounding: till.facts?.shop.taxRounding ?? 'sale',
  },
});
const { ways, collect, ship, note, collects, ships, fee, takenNow, waiting, least } = draft;
const wrong = ref<Record<string, string>>({});
const busy = ref(false);
const panel = ref<InstanceType<typeof FormPanel>>();

/** What places have of the goods in the basket, whatever is scanned meanwhile. */
const look = useLook(
  () => orders.load(basket.lines.map(({ itemId }) => itemId)),
  (error) => (wrong.value = { whole: problemWords(error), ...wrong.value }),
);
onMounted(async () => {
  orders.forget();
  await look();
  await nextTick();
  const { activeElement: hand } = document;
  // Its keys act from here: what stands there is what is most often wanted. What is being typed is not disturbed.
  if (!(hand instanceof HTMLInputElement && hand.value))
    document.querySelector<HTMLElement>('.order-ways .chip')?.focus();
});
watch(
  () => basket.lines.map(({ itemId }) => itemId).join(),
  () => void look(),
);

const ALL = (['collect', 'ship'] as const).map((value) => ({ value, words: `${WAYS[value]} all of it` }));
/** The way of all lines, where they have one. */
const all = computed(() => {
  const [first, ...others] = [...new Set(Object.values(ways).map(({ way }) => way))];
  return first !== undefined && first !== 'take' && others.length === 0 ? first : null;
});
const setAll = (way: Way | null): void => draft.setAll(way ?? 'collect');

const deposit = ref('');
const typed = ref(false);
const rest = reactive({ note, deposit });
watch(
  least,
  (amount) => {
    if (!typed.value) deposit.value = plainMoney(amount, till.digits);
  },
  { immediate: true },
);

/** What can be said to be wrong at once, by field; the rest is said where the order is placed. */
function problems(): Record<string, string> {
  const paid = parseMoney(deposit.value || '0', till.digits);
  const late = collects.value ? collectProblem(collect, draft.times.value) : null;
  if (late) return { 'collect.time': late };
  if (typeof fee.value === 'string') return { 'ship.postcode': fee.value };
  if (paid === null) return { deposit: `Type an amount, for example ${till.example(12.5)}.` };
  const unpaid = orderDepositProblem(paid, { least: least.value, waiting: waiting.value }, till.digits);
  return unpaid ? { deposit: unpaid } : {};
}

async function place(): Promise<void> {
  wrong.value = problems();
  if (Object.keys(wrong.value).length > 0) return panel.value?.focusWrong();
  busy.value = true;
  try {
    const paid = parseMoney(deposit.value || '0', till.digits) ?? 0;
    const number = await orders.place(draft.wanted(paid));
    work.leave();
    notices.say(`${number} is placed.${paid + takenNow.value > 0 ? ' Take the payment now.' : ''}`);
  } catch (error) {
    const fields = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
    wrong.value = {
      ...Object.fromEntries(fields.map(({ field, message }) => [field.replace('terms.', ''), message])),
      whole: problemWords(error),
    };
    void panel.value?.focusWrong();
    // What places have may have changed.
    void look();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="Collect or ship"
    done="Place the order"
    done-key="counter.next"
    :busy
    :disabled="!basket.basket.customer || !orders.facts"
    :wrong="wrong.whole ?? wrong.lines ?? wrong.basket ?? wrong.fee"
    :focus="false"
    class="order"
    :remembers="`order of basket ${basket.basket.id}`"
    :fields="[ways, collect, ship, rest]"
    @accept="place"
    @leave="work.leave()"
  >
    <p v-if="basket.basket.customer">
      For <b>{{ basket.basket.customer.name }}</b>
    </p>
    <div v-else class="say">
      <b>Whose order is it?</b>
      <v-btn @click="work.begin('customer')">Choose the customer</v-btn>
    </div>
    <template v-if="orders.facts">
      <ChipChoice
        class="order-ways"
        :model-value="all"
        label="All of it"
        :options="ALL"
        @update:model-value="setAll"
      />
      <ul class="lines ruled" aria-label="How each thing gets to the customer">
        <OrderLineRow v-for="line in basket.lines" :key="line.id" :line :draft />
      </ul>
      <fieldset v-if="collects" class="part">
        <legend class="label">Collected</legend>
        <v-select
          v-model="collect.placeId"
          :items="draft.shops.value"
          item-title="name"
          item-value="id"
          label="Where"
          :error-messages="wrong['collect.placeId']"
        />
        <div class="when">
          <DateField v-model="collect.day" label="Day" :wrong="wrong['collect.day']" />
          <v-select
            v-model="collect.time"
            :items="draft.timesOnDay.value.map((value) => ({ value, title: till.timeOfDay(value) }))"
            label="Time"
            no-data-text="Not on that day"
            :error-messages="wrong['collect.time']"
          />
        </div>
        <BigField
          id="order-collector"
          v-model="collect.collector"
          label="Who else may collect (optional)"
          maxlength="80"
        />
      </fieldset>
      <fieldset v-if="ships" class="part">
        <legend class="label">Shipped</legend>
        <ShipFields v-model="ship" :wrong />
        <p v-if="fee && typeof fee !== 'string'" class="soft">
          To {{ fee.zone }}, {{ formatWeight(draft.weight.value) }}:
          <b class="num">{{ till.money(fee.fee) }}</b>
        </p>
      </fieldset>
      <BigField id="order-note" v-model="note" label="Note (optional)" maxlength="200" />
      <BigField
        id="order-deposit"
        v-model="deposit"
        :label="least > 0 ? `Paid now, at least ${till.money(least)}` : 'Paid now'"
        kind="figure"
        :wrong="wrong.deposit"
        @input="typed = true"
      />
    </template>
    <template #foot>
      <dl v-if="orders.facts" class="facts sums">
        <template v-if="takenNow > 0">
          <dt>Taken along now</dt>
          <dd class="num">{{ till.money(takenNow) }}</dd>
        </template>
        <dt>Waits, with tax{{ ships ? ' and shipping' : '' }}</dt>
        <dd class="num">
          <b>{{ till.money(waiting) }}</b>
        </dd>
      </dl>
    </template>
  </FormPanel>
</template>

<style scoped>
/* What it comes to stands in the foot. */
.order {
  --foot-height: 230px;
}
.part {
  display: grid;
  gap: 8px;
  padding: 8px 0 0;
  border: 0;
  border-top: var(--group);
}
.when {
  display: grid;
  grid-template-columns: 1fr 110px;
  gap: 8px;
}
.sums {
  grid-template-columns: 1fr auto;
}
.say {
  display: grid;
  gap: 6px;
}
</style>
