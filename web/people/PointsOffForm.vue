<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue';
import { formatCount } from '../../core/locale.ts';
import { formatRate, WHOLE } from '../../core/rate.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useCustomerStore } from './customerStore.ts';
import { usePointsOffStore } from './pointsOffStore.ts';
import { usePointsStore } from './pointsStore.ts';

/** How many points the customer gives for money off; what goes is filled in. */
const points = usePointsStore();
const store = usePointsOffStore();
const customers = useCustomerStore();
const work = useBasketWorkStore();
const till = useTillStore();
const panel = useTemplateRef('panel');

const text = ref('');
const wrong = ref<string>();
const most = ref(0);
// They go with the customer: nobody is asked how many of somebody else's are given.
watch(() => customers.id, work.leave);

const step = computed(() => store.rate?.offPoints ?? 0);
const typed = computed(() => (/^\d{1,9}$/.test(text.value.trim()) ? Number(text.value) : Number.NaN));
const takesOff = computed(() =>
  Number.isNaN(typed.value) || step.value === 0
    ? null
    : Math.floor(typed.value / step.value) * (store.rate?.offAmount ?? 0),
);
const limit = computed(() => {
  const { offMost = WHOLE } = store.rate ?? {};
  return offMost < WHOLE ? ` They pay at most ${formatRate(offMost)} of the goods.` : '';
});

/** Once it is known how many go on these goods, that is filled in, unless somebody has typed meanwhile. */
const looked = store.look(store.had).then(({ points: go }) => {
  most.value = go;
  if (text.value !== '') return;
  text.value = String(store.paid?.points ?? most.value);
  void panel.value?.focusFirst();
});

function problem(): string | undefined {
  if (Number.isNaN(typed.value) || typed.value % step.value > 0)
    return `In steps of ${formatCount(step.value)}: for example ${formatCount(step.value)}.`;
  if (typed.value > store.had) return `There are ${points.words(store.had)}.`;
  if (typed.value > most.value)
    return most.value === 0
      ? `No ${points.word} go on these goods.`
      : `At most ${points.words(most.value)} go on these goods.`;
  return undefined;
}

async function accept(): Promise<void> {
  await looked;
  wrong.value = problem();
  if (wrong.value) return panel.value?.focusWrong();
  await store.use(typed.value);
  work.leave();
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="`Pay with ${points.word}`"
    :done="takesOff ? `Take off ${till.money(takesOff)}` : `Use no ${points.word}`"
    @accept="accept"
    @leave="work.leave()"
  >
    <p>There are {{ points.words(store.had) }}: {{ store.rateWords }}.{{ limit }}</p>
    <BigField v-model="text" :label="`How many ${points.word}`" kind="figure" maxlength="9" :wrong="wrong" />
  </FormPanel>
</template>
