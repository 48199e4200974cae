<script setup lang="ts">
import { ref } from 'vue';
import type { CustomerPage } from '../../contract/people.ts';
import FormPanel from '../look/FormPanel.vue';
import { useWayOn } from '../look/wayOn.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useCustomerPageStore } from './customerPageStore.ts';

/** Forgets a person, after somebody has said so twice. */
const { page } = defineProps<{ page: CustomerPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useCustomerPageStore();
const notices = useNoticeStore();
const goOn = useWayOn();
const wrong = ref('');
const busy = ref(false);

async function forget(): Promise<void> {
  busy.value = true;
  wrong.value = '';
  const { name } = page.record;
  try {
    await store.forget(page);
    notices.say(`${name} is forgotten. The sales stay, without a name.`);
    await goOn({ path: '/people', replace: true });
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    :title="`Forget ${page.record.name}?`"
    :done="page.open.length === 0 ? 'Forget them for good' : ''"
    :busy
    :wrong
    @accept="forget"
    @leave="emit('leave')"
  >
    <template v-if="page.open.length === 0">
      <p>
        Name, phone, mail, addresses, birthday, note, tags, cards and points go for good. Sales and books
        stay, without a name.
      </p>
      <p>It cannot be undone.</p>
    </template>
    <template v-else>
      <p>They cannot be forgotten yet:</p>
      <ul>
        <li v-for="one in page.open" :key="one">{{ one }}</li>
      </ul>
    </template>
  </FormPanel>
</template>

<style scoped>
ul {
  padding-left: 20px;
  display: grid;
  gap: 6px;
}
</style>
