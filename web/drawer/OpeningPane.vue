<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { onMounted, ref, useTemplateRef } from 'vue';
import { openingStep } from '../../core/drawer/openingSlip.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useDrawerStore } from './drawerStore.ts';

const REASONS = ['Change for a customer', 'A note was checked', 'A receipt was put in'];

const drawer = useDrawerStore();
const work = useBasketWorkStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const reason = ref('');
const wrong = ref('');
const busy = ref(false);
const field = useTemplateRef<HTMLInputElement>('field');
/** One opening, however often it is pressed. */
const id = newId();
onMounted(() => field.value?.focus());

async function open(): Promise<void> {
  const why = reason.value.trim();
  wrong.value = why ? '' : 'Say why: it is recorded and printed.';
  if (!why || busy.value) return;
  busy.value = true;
  try {
    const approval = await countersigns.need('drawer.no-sale', id, why, [openingStep(why)]);
    if (!approval) return;
    await drawer.openWithoutSale(id, why, approval.id);
    notices.say('The drawer is open.');
    work.leave();
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form
    class="panel"
    aria-labelledby="opening-title"
    @submit.prevent="open"
    @keydown.f9.prevent="open"
    @keydown.esc.stop="work.leave()"
  >
    <h2 id="opening-title" class="title">Open the drawer without a sale</h2>
    <label for="opening-reason">Why</label>
    <input
      id="opening-reason"
      ref="field"
      v-model="reason"
      class="big-field"
      maxlength="120"
      autocomplete="off"
      :aria-invalid="wrong !== ''"
      aria-describedby="opening-wrong"
    />
    <div class="reasons" role="group" aria-label="Usual reasons">
      <button v-for="one in REASONS" :key="one" type="button" class="chip" @click="reason = one">
        {{ one }}
      </button>
    </div>
    <p id="opening-wrong" class="bad" role="alert">{{ wrong }}</p>
    <div class="acts">
      <v-btn @click="work.leave()">Cancel <kbd>Esc</kbd></v-btn>
      <v-btn class="go" type="submit" :loading="busy">Open the drawer <kbd>Enter</kbd></v-btn>
    </div>
  </form>
</template>

<style scoped>
.reasons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
