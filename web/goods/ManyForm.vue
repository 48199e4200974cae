<script setup lang="ts">
import { counted, formatCount } from '../../core/locale.ts';
import { computed, reactive, ref, useTemplateRef, watch } from 'vue';
import type { ManyEffect, ManyItems } from '../../contract/goods.ts';
import { ENDINGS, type Ending } from '../../core/goods/manyItems.ts';
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import RateField from '../look/RateField.vue';
import { formProblems } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useGoodsListStore } from './goodsListStore.ts';

/** What is picked is changed at once; what that does to each is said before. */
const emit = defineEmits<{ leave: [] }>();

const list = useGoodsListStore();
const till = useTillStore();
const notices = useNoticeStore();
const panel = useTemplateRef('panel');
const form = reactive({
  category: '' as string | null,
  taxCategoryId: 0,
  addTags: [] as string[],
  dropTags: [] as string[],
  active: '' as '' | 'sold' | 'ended',
  by: '' as '' | 'percent' | 'amount' | 'to',
  down: false,
  amount: Number.NaN as number | null,
  rate: Number.NaN,
  ending: '' as Ending | '',
  from: '',
});
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
// Another change has another effect, also where that is still on its way.
const [effects, showEffects, putEffects] = shown<ManyEffect[] | null>(null);
watch(form, () => putEffects(null));
watch(
  () => list.picked,
  () => putEffects(null),
);

const count = computed(() => list.picked.size);
const items = (many: number) => counted(many, 'item');
const willChange = computed(() => (effects.value ?? []).filter(({ refused }) => refused === ''));
const refused = computed(() => (effects.value ?? []).filter((effect) => effect.refused !== ''));
const SHOWN = 60;

const BY = [
  { value: 'percent', words: 'By a part' },
  { value: 'amount', words: 'By an amount' },
  { value: 'to', words: 'To a price' },
] as const;
const endings = [
  { value: '' as const, words: 'As it comes' },
  ...ENDINGS.map((ending) => ({ value: ending, words: `…${till.example(ending / 100).slice(-3)}` })),
];
const taxes = computed(() => [
  { value: 0, title: 'As it is' },
  ...(till.facts?.taxCategories ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const states = [
  { value: '', words: 'As it is' },
  { value: 'sold', words: 'Sold' },
  { value: 'ended', words: 'Not sold any more' },
] as const;

/** What is wrong with what was typed, by its field. */
function problems(): Record<string, string> {
  if (form.by === 'percent' && Number.isNaN(form.rate)) return { rate: 'How much?' };
  if ((form.by === 'amount' || form.by === 'to') && (form.amount === null || Number.isNaN(form.amount)))
    return { amount: 'How much?' };
  return {};
}

function change(): ManyItems['change'] {
  const sign = form.down ? -1 : 1;
  return {
    category: form.category?.trim() || null,
    taxCategoryId: form.taxCategoryId || null,
    addTags: form.addTags,
    dropTags: form.dropTags,
    active: form.active === '' ? null : form.active === 'sold',
    price:
      form.by === ''
        ? null
        : {
            by: form.by,
            amount: form.by === 'percent' ? 0 : (form.amount ?? 0) * (form.by === 'amount' ? sign : 1),
            rate: form.by === 'percent' ? form.rate * sign : 0,
            ending: form.ending === '' ? null : form.ending,
            from: form.from,
          },
  };
}

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [problems(), ''];
  if (Object.keys(wrong.value).length > 0) return panel.value?.focusWrong();
  busy.value = true;
  try {
    if (effects.value === null) {
      await showEffects(list.rehearse(change()));
    } else {
      const changed = await list.changeMany(change());
      notices.say(`${items(changed)} changed, on every till.`);
      emit('leave');
    }
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
  } finally {
    busy.value = false;
  }
}
const done = computed(() => {
  if (effects.value === null) return 'Show the effect';
  return willChange.value.length > 0 ? `Change ${items(willChange.value.length)}` : '';
});
</script>

<template>
  <FormPanel
    ref="panel"
    :title="`Change ${items(count)} at once`"
    :done
    :busy
    :focus="false"
    :wrong="whole"
    remembers="many items"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <h3 class="label">Price</h3>
    <ChipChoice
      :model-value="form.by"
      label="How prices change"
      :options="BY"
      @update:model-value="(by) => (form.by = by === form.by ? '' : (by ?? ''))"
    />
    <template v-if="form.by !== ''">
      <v-checkbox
        v-if="form.by !== 'to'"
        v-model="form.down"
        label="Down, not up"
        density="compact"
        hide-details
      />
      <RateField v-if="form.by === 'percent'" v-model="form.rate" label="By" :wrong="wrong.rate" />
      <MoneyField
        v-else
        v-model="form.amount"
        :label="form.by === 'to' ? 'New price' : 'By'"
        :wrong="wrong.amount"
      />
      <ChipChoice v-if="till.digits === 2" v-model="form.ending" label="Ending" :options="endings" />
      <DateField v-model="form.from" label="From a day on (empty: at once)" :wrong="wrong.from" />
    </template>
    <v-combobox
      v-model="form.category"
      label="Category (empty: as it is)"
      :items="(list.listed?.categories ?? []).map(({ name }) => name)"
      :error-messages="wrong.category"
    />
    <v-select v-model="form.taxCategoryId" label="Tax" :items="taxes" :error-messages="wrong.taxCategoryId" />
    <v-combobox
      v-model="form.addTags"
      label="Tags to add"
      :items="list.listed?.tags ?? []"
      multiple
      chips
      closable-chips
      :error-messages="wrong.addTags"
    />
    <v-combobox
      v-model="form.dropTags"
      label="Tags to take off"
      :items="list.listed?.tags ?? []"
      multiple
      chips
      closable-chips
    />
    <ChipChoice v-model="form.active" label="State" :options="states" />
    <section v-if="effects" aria-label="The effect" role="status">
      <p v-if="effects.length === 0"><b>Nothing changes.</b></p>
      <template v-if="refused.length > 0">
        <h3 class="label">{{ items(refused.length) }} cannot</h3>
        <ul class="ruled">
          <li v-for="one in refused.slice(0, SHOWN)" :key="one.id">
            <b>{{ one.name }}</b> <span class="bad">{{ one.refused }}</span>
          </li>
        </ul>
        <p v-if="refused.length > SHOWN" class="soft">and {{ formatCount(refused.length - SHOWN) }} more</p>
      </template>
      <template v-if="willChange.length > 0">
        <h3 class="label">{{ items(willChange.length) }}</h3>
        <ul class="ruled">
          <li v-for="one in willChange.slice(0, SHOWN)" :key="one.id">
            <b>{{ one.name }}</b>
            <span v-for="{ what, was, became } in one.changes" :key="what" class="soft"
              >{{ what }} <span v-if="was" class="was">{{ was }}</span> {{ became || '–' }}</span
            >
          </li>
        </ul>
        <p v-if="willChange.length > SHOWN" class="soft">
          and {{ formatCount(willChange.length - SHOWN) }} more
        </p>
      </template>
    </section>
  </FormPanel>
</template>

<style scoped>
li {
  display: grid;
  padding: 6px 0;
  border-bottom: var(--hair);
  overflow-wrap: anywhere;
}
</style>
