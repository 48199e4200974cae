<script setup lang="ts">
import { reactive, shallowRef, useTemplateRef } from 'vue';
import type { ItemPage } from '../../contract/goods.ts';
import FormPanel from '../look/FormPanel.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import PartRows from './PartRows.vue';
import { partMistakes, wantedParts, type PartRow } from './partRow.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** What a bundle is made of, to be changed. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);
const parts = shallowRef<PartRow[]>(
  page.contains.map(({ id, name, price, decimals, quantity }) => ({
    itemId: id,
    name,
    price,
    decimals,
    quantity: quantity ?? 0,
  })),
);
const typed = reactive({ parts });
const accept = () =>
  send(partMistakes(parts.value), async () => {
    await store.saveParts(page, wantedParts(parts.value));
    emit('leave');
  });
</script>

<template>
  <FormPanel
    ref="panel"
    :title="`What is in ${page.record.name}`"
    done="Keep it"
    :busy
    :wrong="whole"
    :remembers="`parts of ${page.id} ${page.version}`"
    :fields="typed"
    @accept="accept"
    @leave="emit('leave')"
  >
    <PartRows v-model="parts" :wrong />
  </FormPanel>
</template>
