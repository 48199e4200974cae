<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { formWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import WaitButton from '../look/WaitButton.vue';
import { useAnswer } from '../notices/answer.ts';

const emit = defineEmits<{ leave: [] }>();

const drawer = useDrawerStore();
const till = useTillStore();
const notices = useNoticeStore();
const people = useAnswer(() => drawer.people(), []);
const toStaffId = ref<number | null>(null);
const note = ref('');
const wrong = ref('');
const busy = ref(false);
const id = newId();
const panel = useTemplateRef('panel');
useKeys('form', { accept: handOver, leave: () => emit('leave') }, { within: panel });

async function handOver(): Promise<void> {
  if (busy.value) return;
  wrong.value =
    toStaffId.value === null
      ? 'To whom? Choose a name.'
      : drawer.counted === 0
        ? 'Count the drawer first.'
        : '';
  if (wrong.value || toStaffId.value === null) return;
  busy.value = true;
  try {
    const counted = till.money(drawer.counted);
    await drawer.handOver(id, toStaffId.value, note.value.trim());
    notices.say(`The drawer is handed over with ${counted}. The slip is printing; both sign it.`);
    emit('leave');
  } catch (error) {
    wrong.value = formWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form ref="panel" class="hand" aria-label="Hand over" novalidate @submit.prevent="handOver">
    <h2 class="title">Hand the drawer over</h2>
    <p>
      The shift goes on. Counted: <b class="num">{{ till.money(drawer.counted) }}</b>
    </p>
    <v-select
      v-model="toStaffId"
      :items="people"
      item-title="name"
      item-value="id"
      label="To"
      :error-messages="wrong"
    />
    <v-text-field v-model="note" label="Note (optional)" maxlength="500" />
    <div class="acts">
      <v-btn @click="emit('leave')">Cancel <KeyHint of="form.leave" /></v-btn>
      <WaitButton class="go" type="submit" :loading="busy">Hand over</WaitButton>
    </div>
  </form>
</template>

<style scoped>
.hand {
  border: var(--rule);
  background: var(--surface);
  padding: 16px;
  display: grid;
  gap: 10px;
}
</style>
