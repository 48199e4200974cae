<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useWaitingStore } from './waitingStore.ts';

const waiting = useWaitingStore();
const basket = useBasketStore();
const work = useBasketWorkStore();
const notices = useNoticeStore();
const session = useSessionStore();
const till = useTillStore();
const name = ref(basket.basket.customer?.name.slice(0, 60) ?? '');
const note = ref('');
const forTill = ref<number | null>(null);
const wrong = ref('');
const busy = ref(false);
const field = useTemplateRef<HTMLInputElement>('field');
// The customer's name is proposed: typing puts another one in its place.
onMounted(() => field.value?.select());

const tills = computed(() => [
  { value: null, title: 'Any till' },
  ...(session.welcome?.tills ?? [])
    .filter(({ id }) => id !== till.facts?.till.id)
    .map(({ id, number, place }) => ({ value: id, title: `Send to till ${number} · ${place}` })),
]);

async function hold(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    const number = await waiting.hold(name.value, note.value, forTill.value);
    work.leave();
    notices.say(`${name.value || 'The basket'} waits as ${number}. Take it up under Waiting, on any till.`);
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
    aria-labelledby="hold-title"
    @submit.prevent="hold"
    @keydown.f9.prevent="hold"
    @keydown.f8.prevent="hold"
    @keydown.esc.stop="work.leave()"
  >
    <h2 id="hold-title" class="title">Put on hold</h2>
    <label for="hold-name">Name, to find it again</label>
    <input id="hold-name" ref="field" v-model="name" class="big-field" maxlength="60" autocomplete="off" />
    <label for="hold-note">Note (optional)</label>
    <input id="hold-note" v-model="note" class="big-field" maxlength="200" autocomplete="off" />
    <v-select v-if="tills.length > 1" v-model="forTill" :items="tills" label="For" />
    <p class="bad" role="alert">{{ wrong }}</p>
    <div class="acts">
      <v-btn @click="work.leave()">Cancel <kbd>Esc</kbd></v-btn>
      <v-btn class="go" type="submit" :loading="busy">Hold <kbd>F8</kbd></v-btn>
    </div>
  </form>
</template>
