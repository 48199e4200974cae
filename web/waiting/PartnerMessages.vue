<script setup lang="ts">
import type { RelayMessageView } from '../../contract/relay.ts';
import { RELAY_SAYINGS } from '../../core/promises/relay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** What was said between a partner and the shop, as rows of a table. */
const { messages, partner } = defineProps<{ messages: readonly RelayMessageView[]; partner: string }>();
const till = useTillStore();
const saidBy = ({ ours, by, sent }: RelayMessageView): string =>
  ours ? `${by ?? 'the shop'}${sent ? '' : ', not there yet'}` : partner;
</script>

<template>
  <tr v-for="message in messages" :key="message.id">
    <td class="soft when">{{ till.time(message.at, 'full') }}</td>
    <td colspan="2">
      {{ RELAY_SAYINGS[message.kind] }}<template v-if="message.words">: {{ message.words }}</template>
      <span class="soft"> · {{ saidBy(message) }}</span>
    </td>
  </tr>
</template>

<style scoped>
.when {
  white-space: nowrap;
  font-size: 14px;
}
</style>
