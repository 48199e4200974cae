<script setup lang="ts">
import { computed, onUnmounted, reactive, ref, toRef, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { CountRow } from '../../contract/counts.ts';
import { LIST_PAGE } from '../../contract/listQuery.ts';
import { countNumber } from '../../core/counts/compare.ts';
import { formatCount } from '../../core/locale.ts';
import { useAskedList } from '../look/askedList.ts';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import ListPage from '../look/ListPage.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useWayOn } from '../look/wayOn.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useCountStore } from './countStore.ts';

/** Counts: those that go on, and what earlier ones found. */
const store = useCountStore();
const till = useTillStore();
const session = useSessionStore();
const router = useRouter();
const goOn = useWayOn();
const panel = useTemplateRef('panel');
const beginning = ref(false);
const form = reactive({
  placeId: null as number | null,
  what: 'scanned' as 'scanned' | 'everything' | 'categories' | 'suppliers',
  categories: [] as number[],
  suppliers: [] as number[],
  blind: 'yes' as 'yes' | 'no',
  words: '',
});
const { wrong, whole, busy: sending, send } = useFormAnswer(panel);

const { busy, load } = useAskedList(() => store.find, toRef(store, 'listedPage'), store.loadList);
onUnmounted(store.follow(load));

const places = computed(() => (store.list?.places ?? []).map(({ id, name }) => ({ value: id, words: name })));
const WHAT = [
  { value: 'scanned', words: 'What is scanned' },
  { value: 'categories', words: 'Categories' },
  { value: 'suppliers', words: 'Of suppliers' },
  { value: 'everything', words: 'Everything' },
] as const;
const BLIND = [
  { value: 'yes', words: 'Blind' },
  { value: 'no', words: 'Showing what the books say' },
] as const;

function begin(): void {
  form.placeId = store.list?.places.find(({ here }) => here)?.id ?? null;
  beginning.value = true;
}
function accept(): Promise<void> {
  const { placeId, what, words } = form;
  const categories = what === 'categories' ? form.categories : [];
  const suppliers = what === 'suppliers' ? form.suppliers : [];
  const mistakes = {
    categories: what === 'categories' && categories.length === 0 && 'Which ones?',
    suppliers: what === 'suppliers' && suppliers.length === 0 && 'Which ones?',
  };
  return send(mistakes, async () => {
    const id = await store.begin({
      placeId: placeId ?? 0,
      words,
      categories,
      suppliers,
      everything: what === 'everything',
      blind: form.blind === 'yes',
    });
    await goOn(`/goods/counts/${id}`);
  });
}

const COLUMNS = [
  { key: 'number', words: 'Number', width: '120px' },
  { key: 'place', words: 'Where' },
  { key: 'state', words: 'How far', width: '260px' },
  { key: 'begunAt', words: 'Begun', width: '250px' },
  ...(session.may('goods.cost') ? [{ key: 'cost', words: 'Books', right: true, width: '130px' }] : []),
];
const farWords = ({ state, counted, toCount }: CountRow) => {
  if (state === 'cancelled') return 'Given up';
  const done =
    toCount === null
      ? `${formatCount(counted)} counted`
      : `${formatCount(counted)} of ${formatCount(toCount)} counted`;
  return state === 'booked' ? `Booked, ${done}` : done;
};
</script>

<template>
  <div class="beside-form" :class="{ beside: beginning }">
    <ListPage
      :narrowed="store.find.trim() !== ''"
      @widen="store.find = ''"
      v-model:page="store.listedPage"
      title="Counts"
      :of="['count', 'counts']"
      :columns="COLUMNS"
      :rows="store.list?.counts ?? []"
      :count="store.list?.count ?? null"
      :per-page="LIST_PAGE"
      :busy
      :name-of="(row) => countNumber(row.number)"
      @open="({ id }) => router.push(`/goods/counts/${id}`)"
    >
      <template #acts>
        <v-btn v-if="session.may('stock.move')" :class="{ go: !beginning }" @click="begin">New count</v-btn>
      </template>
      <template #filters>
        <v-text-field
          v-model="store.find"
          label="Number, place, words, or who began it"
          data-search
          autocomplete="off"
          clearable
          @click:clear="store.find = ''"
        />
      </template>
      <template #number="{ row }"
        ><b class="num">{{ countNumber(row.number) }}</b></template
      >
      <template #place="{ row }"
        ><b>{{ row.place }}</b> <span class="soft">{{ row.words }}</span></template
      >
      <template #state="{ row }"
        ><b v-if="row.state === 'open'">{{ farWords(row) }}</b
        ><template v-else>{{ farWords(row) }}</template></template
      >
      <template #begunAt="{ row }">{{ till.time(row.begunAt, 'full') }}, {{ row.begunBy }}</template>
      <template #cost="{ row }">{{
        row.state === 'booked' && row.cost !== null ? till.money(row.cost) : ''
      }}</template>
      <template #empty>
        <b>Nothing was counted yet</b>
        <p>Goods can be counted while the shop sells, by several people at once.</p>
      </template>
    </ListPage>
    <aside v-if="beginning" class="scroll" aria-label="New count">
      <FormPanel
        ref="panel"
        title="New count"
        done="Begin"
        :busy="sending"
        :wrong="whole"
        remembers="new count"
        :fields="form"
        @accept="accept"
        @leave="beginning = false"
      >
        <ChipChoice v-if="places.length > 1" v-model="form.placeId" label="Where" :options="places" />
        <ChipChoice v-model="form.what" label="What is counted" :options="WHAT" />
        <v-autocomplete
          v-if="form.what === 'categories'"
          v-model="form.categories"
          label="Categories"
          multiple
          chips
          :items="(store.list?.categories ?? []).map(({ id, name }) => ({ value: id, title: name }))"
          :error-messages="wrong.categories"
        />
        <v-autocomplete
          v-if="form.what === 'suppliers'"
          v-model="form.suppliers"
          label="Suppliers"
          multiple
          chips
          :items="(store.list?.suppliers ?? []).map(({ id, name }) => ({ value: id, title: name }))"
          :error-messages="wrong.suppliers"
        />
        <ChipChoice v-model="form.blind" label="How" :options="BLIND" />
        <v-text-field
          v-model="form.words"
          label="What it is called"
          autocomplete="off"
          :error-messages="wrong.words"
        />
      </FormPanel>
    </aside>
  </div>
</template>
