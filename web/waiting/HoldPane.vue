<script setup lang="ts">
import { computed, ref } from 'vue';
import { useKeys } from '../keys/useKeys.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
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
// The customer's name is proposed: typing puts another one in its place.
const name = ref(basket.basket.customer?.name.slice(0, 60) ?? '');
const note = ref('');
const forTill = ref<number | null>(null);
const wrong = ref('');
const busy = ref(false);

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
useKeys('holding', { hold });
</script>

<template>
  <FormPanel
    title="Put on hold"
    done="Hold"
    done-key="holding.hold"
    :busy
    :wrong
    @accept="hold"
    @leave="work.leave()"
  >
    <BigField id="hold-name" v-model="name" label="Name, to find it again" maxlength="60" />
    <BigField id="hold-note" v-model="note" label="Note (optional)" maxlength="200" />
    <v-select v-if="tills.length > 1" v-model="forTill" :items="tills" label="For" />
  </FormPanel>
</template>
