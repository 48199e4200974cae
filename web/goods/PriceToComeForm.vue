<script setup lang="ts">
import { reactive, ref, useTemplateRef } from 'vue';
import type { ItemPage } from '../../contract/goods.ts';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { formProblems } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useItemPageStore } from './itemPageStore.ts';

/** A price that counts from a day on. */
const { page } = defineProps<{ page: ItemPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useItemPageStore();
const notices = useNoticeStore();
const till = useTillStore();
const panel = useTemplateRef('panel');
const form = reactive<{ price: number | null; from: string }>({ price: page.record.price, from: '' });
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);

async function accept(): Promise<void> {
  const { price, from } = form;
  [wrong.value, whole.value] = [{}, ''];
  if (price === null || Number.isNaN(price)) wrong.value = { price: 'Type a price.' };
  else if (from === '') wrong.value = { from: 'From which day?' };
  else {
    busy.value = true;
    try {
      await store.addPrice(page, from, price);
      notices.say(`${page.record.name} costs ${till.money(price)} from ${till.calendarDay(from)} on.`);
      emit('leave');
    } catch (error) {
      const { fields, whole: other } = formProblems(error);
      [wrong.value, whole.value] = [fields, other];
    } finally {
      busy.value = false;
    }
  }
  await panel.value?.focusWrong();
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="A price from a day on"
    done="Keep it"
    :busy
    :wrong="whole"
    :remembers="`price of ${page.id}`"
    :fields="form"
    @accept="accept"
    @leave="emit('leave')"
  >
    <MoneyField v-model="form.price" label="Price" :wrong="wrong.price" />
    <DateField v-model="form.from" label="From" :wrong="wrong.from" />
  </FormPanel>
</template>
