<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PromiseView } from '../../contract/promises.ts';
import { useAttempt } from '../notices/attempt.ts';
import PartnerMessages from './PartnerMessages.vue';
import { usePromiseStore } from './promiseStore.ts';
import { useRelayStore } from './relayStore.ts';
import SayToPartner from './SayToPartner.vue';

/** An order that a partner has passed to the shop: the answer, and what was said. */
const { view } = defineProps<{ view: PromiseView }>();
const relays = useRelayStore();
const promises = usePromiseStore();
const { wrong, attempt } = useAttempt();
const words = ref('');
const field = ref<{ focus(): void }>();
const order = computed(() => view.partnerOrder);

const accept = (): Promise<boolean> =>
  attempt(relays.accept(view.id, words.value.trim()), 'Accepted: it is an order of this shop.');
/** What is refused is told why. */
async function refuse(): Promise<boolean> {
  if (!words.value.trim()) {
    wrong.value = { words: 'Say why: the partner reads it.' };
    field.value?.focus();
    return false;
  }
  return attempt(promises.drop(view.id, words.value.trim()), 'Refused.');
}
defineExpose({ accept, refuse });
</script>

<template>
  <div v-if="order" class="order">
    <v-text-field
      v-if="view.state === 'asked'"
      ref="field"
      v-model="words"
      :label="`Words for ${order.partner}`"
      maxlength="120"
      :error-messages="wrong.words"
    />
    <table>
      <caption class="label">
        Said between
        {{
          order.partner
        }}
        and us
      </caption>
      <tbody>
        <PartnerMessages :messages="order.messages" :partner="order.partner" />
      </tbody>
    </table>
    <SayToPartner :partner="order.partner" :about="view.id" :say="(said) => relays.answer(view.id, said)" />
  </div>
</template>

<style scoped>
.order {
  display: grid;
  gap: 18px;
}
</style>
