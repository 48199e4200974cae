<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { ItemPage, WantedItem } from '../../contract/goods.ts';
import FormPanel from '../look/FormPanel.vue';
import { formProblems, problemWords } from '../net/problem.ts';
import { follow, lookFirst } from '../notices/follow.ts';
import { useScans } from '../sale/scanner.ts';
import ItemFields from './ItemFields.vue';
import { useItemPageStore } from './itemPageStore.ts';
import { notNumbers } from './notNumbers.ts';
import WordButton from '../look/WordButton.vue';

/** An item, to be changed; a code that is scanned meanwhile is one more of its codes. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const panel = useTemplateRef('panel');
const item = reactive<WantedItem>(structuredClone(page.record));
/** The item as it was looked at last; what another one changes is taken over where nobody has touched it here. */
let looked = page;
async function look(): Promise<void> {
  await store.again(page.id);
  const now = store.page;
  if (!now) return;
  follow<WantedItem>(item, looked.record, structuredClone(now.record));
  looked = now;
}
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

useScans((code) => {
  if (!item.codes.includes(code)) item.codes = [...item.codes, code];
});

async function addOwnCode(): Promise<void> {
  try {
    item.codes = [...item.codes, await store.ownCode()];
  } catch (error) {
    whole.value = problemWords(error);
  }
}

async function accept(): Promise<void> {
  [wrong.value, whole.value] = [notNumbers(item), ''];
  if (Object.keys(wrong.value).length > 0) return panel.value?.focusWrong();
  busy.value = true;
  try {
    await store.save(looked, { ...item }).catch(lookFirst(look));
    emit('leave');
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
  <FormPanel
    ref="panel"
    :title="`Change ${page.record.name}`"
    done="Keep it"
    :busy
    :wrong="whole"
    :remembers="`item ${page.id}`"
    :fields="item"
    @accept="accept"
    @leave="emit('leave')"
  >
    <ItemFields
      v-model="item"
      :wrong
      more
      :plain="page.kind === 'goods'"
      :categories="page.categories"
      :units="page.units"
      :tags="page.tags"
      :groups="page.groups"
    />
    <WordButton @click="addOwnCode">Give it a code of our own</WordButton>
  </FormPanel>
</template>

<style scoped>
.word {
  justify-self: start;
}
</style>
