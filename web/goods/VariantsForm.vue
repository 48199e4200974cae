<script setup lang="ts">
import { reactive, ref, shallowRef, useTemplateRef } from 'vue';
import type { ItemPage } from '../../contract/goods.ts';
import { familyProblems, type NewVariant } from '../../core/goods/family.ts';
import FormPanel from '../look/FormPanel.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import AxisFields from './AxisFields.vue';
import VariantRows from './VariantRows.vue';
import { useItemPageStore } from './itemPageStore.ts';

/** More values of what a family's variants differ in. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);
const there = page.contains.map(({ variant }) => variant);
const axes = ref(
  page.axes.map((name, axis) => ({
    name,
    values: [...new Set(there.map((variant) => variant[axis] ?? ''))],
  })),
);
const variants = shallowRef<NewVariant[]>([]);
const ownCodes = ref(page.contains.length === 0);
const typed = reactive({ axes, variants, ownCodes });
const price = page.contains.at(-1)?.price ?? null;

const accept = () =>
  send(
    {
      ...familyProblems(page.axes, variants.value),
      ...(variants.value.length === 0 && { 'values[0]': 'Add a value.' }),
    },
    async () => {
      await store.addVariants(page, variants.value, ownCodes.value);
      emit('leave');
    },
  );
</script>

<template>
  <div class="scroll page">
    <FormPanel
      ref="panel"
      class="form"
      :title="`More of ${page.record.name}`"
      done="Make them"
      :busy
      :wrong="whole || wrong.variants"
      :remembers="`variants of ${page.id} ${page.version}`"
      :fields="typed"
      @accept="accept"
      @leave="emit('leave')"
    >
      <AxisFields v-model="axes" fixed :wrong />
      <VariantRows v-model="variants" :axes :number="page.record.number" :price :there :wrong />
      <v-checkbox
        v-model="ownCodes"
        label="Those without a code get one of our own"
        density="compact"
        hide-details
      />
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
