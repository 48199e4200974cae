<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { onMounted, onUnmounted, ref, useTemplateRef } from 'vue';
import { RIGHTS } from '../../core/staff/rights.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useCountersignStore } from './countersignStore.ts';
import { useSessionStore } from './sessionStore.ts';

const countersigns = useCountersignStore();
const session = useSessionStore();
const notices = useNoticeStore();
const pin = ref('');
const wrong = ref('');
const busy = ref(false);
const field = useTemplateRef<HTMLInputElement>('field');
onMounted(() => field.value?.focus());
// The page, or the step that asked, is left: nobody waits for an answer any more.
onUnmounted(() => countersigns.leave());
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== 'Escape') return;
  event.stopImmediatePropagation();
  countersigns.leave();
});

async function approve(): Promise<void> {
  if (busy.value || pin.value.length < 4) return;
  busy.value = true;
  wrong.value = '';
  try {
    const given = await countersigns.approve(pin.value);
    if (given) notices.say(`${given.by} approved it.`);
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    pin.value = '';
    busy.value = false;
    field.value?.focus();
  }
}
</script>

<template>
  <form
    class="panel"
    aria-labelledby="countersign-title"
    @submit.prevent="approve"
    @keydown.f9.prevent="approve"
  >
    <h2 id="countersign-title" class="title">Countersign</h2>
    <p v-if="countersigns.asking">
      <b>{{ RIGHTS[countersigns.asking.right] }}:</b> {{ countersigns.asking.about }}
    </p>
    <label for="second-pin">{{ session.person?.name }} may not do this alone. PIN of somebody who may:</label>
    <input
      id="second-pin"
      ref="field"
      v-model="pin"
      class="big-field num"
      type="password"
      inputmode="numeric"
      autocomplete="off"
      maxlength="8"
      :aria-invalid="wrong !== ''"
      aria-describedby="second-wrong"
    />
    <p id="second-wrong" class="bad" role="alert">{{ wrong }}</p>
    <div class="acts">
      <v-btn @click="countersigns.leave()">Cancel <kbd>Esc</kbd></v-btn>
      <v-btn class="go" type="submit" :loading="busy" :disabled="pin.length < 4"
        >Approve <kbd>Enter</kbd></v-btn
      >
    </div>
  </form>
</template>
