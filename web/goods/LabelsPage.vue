<script setup lang="ts">
import { computed, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { labelsPerSheet, layoutProblems, USUAL_LAYOUT } from '../../core/goods/labelSheet.ts';
import { counted, formatCount } from '../../core/locale.ts';
import { formatQuantity } from '../../core/quantity.ts';
import ChipChoice from '../look/ChipChoice.vue';
import CountField from '../look/CountField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formProblems } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import LengthField from './LengthField.vue';
import { useGoodsListStore } from './goodsListStore.ts';
import { useLabelStore } from './labelStore.ts';
import WordButton from '../look/WordButton.vue';

/** Labels are printed for what changed its price, for what has none yet, or for what is picked in the list. */
const store = useLabelStore();
const list = useGoodsListStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const panel = useTemplateRef('panel');

type Which = 'changed' | 'never' | 'picked' | 'delivery';
/** What a delivery brought, where its labels are wanted: a label for each piece. */
const came = shallowRef<{ id: number; copies: number }[]>([]);
const route = useRoute();
const which = ref<Which>(list.picked.size > 0 ? 'picked' : 'changed');
const layout = reactive({ ...USUAL_LAYOUT });
const copies = ref<number | null>(1);
const first = ref<number | null>(1);
const offers = ref(false);
const laying = ref(false);
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
void useLook(async () => {
  await store.load();
  Object.assign(layout, store.page?.layout);
  const delivery = Number(route.query.delivery);
  if (!Number.isInteger(delivery) || delivery <= 0) return;
  came.value = await store.ofDelivery(delivery);
  which.value = 'delivery';
})();

const counts = computed<Record<Which, number>>(() => ({
  changed: store.page?.changed ?? 0,
  never: store.page?.never ?? 0,
  picked: list.picked.size,
  delivery: came.value.reduce((all, { copies: pieces }) => all + pieces, 0),
}));
const choices = computed(() =>
  (
    [
      ['changed', 'Price changed since the last print'],
      ['never', 'On no label yet'],
      ['picked', 'Picked in the list'],
      ...(came.value.length > 0 ? ([['delivery', 'Each piece that came']] as const) : []),
    ] as const
  ).map(([value, words]) => ({ value, words, figures: store.page ? formatCount(counts.value[value]) : '' })),
);
const labels = computed(
  () => counts.value[which.value] * (which.value === 'picked' ? (copies.value ?? 0) : 1),
);
const KINDS = [
  { value: 'sheet', words: 'Sheets' },
  { value: 'roll', words: 'A roll' },
] as const;
const PAGES = [
  { value: 'A4', words: 'A4' },
  { value: 'Letter', words: 'Letter' },
] as const;
const layoutWords = computed(() => {
  const [width, height] = [layout.width, layout.height].map((tenths) => formatQuantity(tenths * 100));
  const mm = `${width} × ${height} mm`;
  return layout.kind === 'roll'
    ? `A roll of labels of ${mm}`
    : `Sheets ${layout.page}, ${layout.columns} × ${layout.rows} labels of ${mm}`;
});

async function accept(): Promise<void> {
  const lengths = Object.entries(layout).filter(([, value]) => Number.isNaN(value));
  [wrong.value, whole.value] = [
    {
      ...layoutProblems(layout),
      ...Object.fromEntries(lengths.map(([field]) => [field, 'Type a number.'])),
      ...(Number.isNaN(first.value ?? Number.NaN) && { first: 'From 1 on.' }),
      ...(which.value === 'picked' && !(copies.value && copies.value > 0) && { copies: 'How many of each?' }),
    },
    '',
  ];
  if (Object.keys(wrong.value).length > 0) {
    laying.value ||= Object.keys(wrong.value).some((field) => field in layout);
    return panel.value?.focusWrong();
  }
  busy.value = true;
  try {
    const picked = [...list.picked.keys()].map((item) => ({ id: item, copies: copies.value ?? 1 }));
    const { id, labels: printed } = await store.print({
      which: which.value === 'delivery' ? 'picked' : which.value,
      items: which.value === 'delivery' ? came.value : which.value === 'picked' ? picked : [],
      layout: { ...layout },
      first: first.value ?? 1,
      offers: offers.value,
    });
    if (which.value === 'picked') list.pickNone();
    window.open(store.sheetOf(id), '_blank');
    notices.say(`${counted(printed, 'label is', 'labels are')} on the sheet.`, {
      word: 'Open it',
      do: () => void window.open(store.sheetOf(id), '_blank'),
    });
    first.value =
      layout.kind === 'roll' ? 1 : (((first.value ?? 1) - 1 + printed) % labelsPerSheet(layout)) + 1;
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="two">
    <section class="zone" aria-label="Print labels">
      <header class="head"><router-link class="word" to="/goods">All goods</router-link></header>
      <div class="scroll">
        <FormPanel
          ref="panel"
          title="Labels"
          :done="labels > 0 ? `Print ${formatCount(labels)}` : ''"
          :busy
          :wrong="whole || wrong.which || wrong.items"
          @accept="accept"
          @leave="router.push('/goods')"
        >
          <ChipChoice v-model="which" label="Which labels" :options="choices" />
          <CountField
            v-if="which === 'picked'"
            v-model="copies"
            label="Of each so many"
            :wrong="wrong.copies"
          />
          <v-checkbox
            v-model="offers"
            label="With the price that offers make for everybody today"
            density="compact"
            hide-details
          />
          <p>{{ layoutWords }}</p>
          <CountField
            v-if="layout.kind === 'sheet'"
            v-model="first"
            label="First free place on the sheet"
            :wrong="wrong.first"
          />
          <template v-if="laying">
            <ChipChoice v-model="layout.kind" label="On what" :options="KINDS" />
            <div class="side-by-side">
              <LengthField v-model="layout.width" label="A label is wide" :wrong="wrong.width" />
              <LengthField v-model="layout.height" label="A label is high" :wrong="wrong.height" />
            </div>
            <template v-if="layout.kind === 'sheet'">
              <ChipChoice v-model="layout.page" label="Paper" :options="PAGES" />
              <div class="side-by-side">
                <CountField v-model="layout.columns" label="Beside each other" :wrong="wrong.columns" />
                <CountField v-model="layout.rows" label="Below each other" :wrong="wrong.rows" />
                <LengthField v-model="layout.left" label="From the left edge" :wrong="wrong.left" />
                <LengthField v-model="layout.top" label="From the upper edge" :wrong="wrong.top" />
                <LengthField v-model="layout.gapX" label="Between columns" :wrong="wrong.gapX" />
                <LengthField v-model="layout.gapY" label="Between rows" :wrong="wrong.gapY" />
              </div>
            </template>
          </template>
          <template #after>
            <WordButton v-if="!laying" @click="laying = true">Other labels</WordButton>
          </template>
        </FormPanel>
      </div>
    </section>
    <section class="zone" aria-labelledby="printed-title">
      <header class="head"><h2 id="printed-title" class="title">Printed</h2></header>
      <div class="scroll rest">
        <ul class="ruled" v-if="store.page && store.page.prints.length > 0">
          <li v-for="one in store.page.prints" :key="one.id">
            <span
              ><b>{{ till.time(one.at, 'full') }}</b> <span class="soft under">{{ one.who }}</span></span
            >
            <span class="num">{{ counted(one.labels, 'label') }}</span>
            <a class="word" :href="store.sheetOf(one.id)" target="_blank">Open the sheet</a>
          </li>
        </ul>
        <p v-else-if="store.page" class="soft">No labels were printed yet.</p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.rest {
  padding: 16px 18px 24px;
}
li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 6px 18px;
  padding: 6px 0;
  border-bottom: var(--hair);
  align-items: center;
}
</style>
