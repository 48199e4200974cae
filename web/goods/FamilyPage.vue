<script setup lang="ts">
import { computed, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { familyProblems, MOST_VARIANTS, type NewVariant } from '../../core/goods/family.ts';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useWayOn } from '../look/wayOn.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import AxisFields from './AxisFields.vue';
import ItemFields from './ItemFields.vue';
import VariantRows from './VariantRows.vue';
import { useItemPageStore } from './itemPageStore.ts';
import { useNewItem } from './newItem.ts';
import { notNumbers } from './notNumbers.ts';

/** A new family: what it is called, what its variants differ in, and each of them. */
const store = useItemPageStore();
const notices = useNoticeStore();
const router = useRouter();
const goOn = useWayOn();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);

const { item, categories } = useNewItem();
const axes = ref([
  { name: '', values: [] as string[] },
  { name: '', values: [] as string[] },
]);
const asked = computed(() =>
  axes.value.filter(({ name, values }, at) => at === 0 || name || values.length > 0),
);
const variants = shallowRef<NewVariant[]>([]);
const ownCodes = ref(false);
const typed = reactive({ axes, variants, ownCodes });

const accept = () =>
  send(
    {
      ...notNumbers(item),
      ...Object.fromEntries(
        asked.value.flatMap(({ name, values }, at) => [
          [`axes[${at}]`, name.trim() === '' && 'Size, colour, or what is it?'],
          [`values[${at}]`, values.length === 0 && 'Which are there?'],
        ]),
      ),
      ...familyProblems(
        asked.value.map(({ name }) => name),
        variants.value,
      ),
      ...(variants.value.length > MOST_VARIANTS && { 'values[0]': `At most ${MOST_VARIANTS} variants.` }),
    },
    async () => {
      const id = await store.addFamily({
        record: { ...item },
        axes: asked.value.map(({ name }) => name),
        variants: variants.value,
        ownCodes: ownCodes.value,
      });
      notices.say(`${item.name} can be sold on every till.`);
      await goOn(`/goods/${id}`);
    },
  );
</script>

<template>
  <div class="scroll page">
    <FormPanel
      ref="panel"
      class="form"
      title="A new family"
      :done="
        variants.length > 0 ? `Make ${variants.length === 1 ? 'it' : `all ${variants.length}`}` : 'Make it'
      "
      :busy
      :wrong="whole || wrong.variants"
      remembers="new family"
      :fields="[item, typed]"
      @accept="accept"
      @leave="router.push('/goods')"
    >
      <ItemFields v-model="item" :wrong :more="false" plain :categories :units="[]" :tags="[]" :groups="[]" />
      <div class="side-by-side">
        <v-text-field
          v-model="item.number"
          label="Number, with which theirs begin"
          maxlength="30"
          :error-messages="wrong.number"
        />
        <MoneyField v-model="item.cost" label="Each costs the shop" optional :wrong="wrong.cost" />
      </div>
      <AxisFields v-model="axes" :wrong />
      <template v-if="asked.every(({ values }) => values.length > 0)">
        <VariantRows
          v-model="variants"
          :axes="asked"
          :number="item.number.toUpperCase()"
          :price="item.price"
          :there="[]"
          :wrong
        />
        <v-checkbox
          v-model="ownCodes"
          label="Those without a code get one of our own"
          density="compact"
          hide-details
        />
      </template>
    </FormPanel>
  </div>
</template>

<style scoped>
.page {
  background: var(--surface);
}
.form {
  max-width: 900px;
}
</style>
