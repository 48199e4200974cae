<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import { transferName, type TransferState, type TransferView } from '../../contract/transfers.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import QuantityField from '../look/QuantityField.vue';
import { useRememberedInTurn } from '../look/remembered.ts';
import TypedBefore from '../look/TypedBefore.vue';
import WaitButton from '../look/WaitButton.vue';
import { useAttempt } from '../notices/attempt.ts';
import { TRANSFER_STATES } from './transferStates.ts';
import { useTransferStore } from './transferStore.ts';

/** One transfer: what goes, how far it is, and what came of it. */
const { transfer } = defineProps<{ transfer: TransferView }>();
const store = useTransferStore();
const { wrong, attempt } = useAttempt();
const busy = ref(false);
/** What came of each line, while it is taken in. */
const came = reactive<{ quantities: (number | null)[] }>({ quantities: [] });
const { remembered, begin, end } = useRememberedInTurn();
/** Until somebody else has taken them in. */
const taking = computed(() => remembered.value !== null && transfer.state === 'sent');
const unknown = ref(false);

async function go(work: Promise<TransferView>, words: string): Promise<boolean> {
  busy.value = true;
  const done = await attempt(work, words);
  busy.value = false;
  if (done) await store.loadAgain().catch(() => {});
  return done;
}
function beginTaking(): void {
  came.quantities = transfer.lines.map(({ quantity }) => quantity);
  begin(`came of transfer ${transfer.id}`, () => transferName(transfer.id), came);
}
function leave(): void {
  remembered.value?.left();
  end();
}
async function takeIn(): Promise<void> {
  const quantities = came.quantities.map((quantity) => quantity ?? Number.NaN);
  unknown.value = quantities.some(Number.isNaN);
  if (unknown.value) return;
  if (await go(store.takeIn(transfer, quantities), 'The goods are in.')) {
    remembered.value?.kept();
    end();
  }
}
const wrongAt = (at: number): string =>
  unknown.value && !Number.isFinite(came.quantities[at] ?? Number.NaN)
    ? 'How many came?'
    : (wrong.value[`lines[${at}]`] ?? '');
const over = (state: TransferState) => state === 'arrived' || state === 'cancelled';
</script>

<template>
  <header class="head">
    <h2 id="transfer-title" class="title">{{ transfer.from }} → {{ transfer.to }}</h2>
    <span class="soft name">{{ transferName(transfer.id) }}</span>
    <b>{{ TRANSFER_STATES[transfer.state] }}</b>
  </header>
  <form class="scroll" @submit.prevent="takeIn">
    <p v-if="transfer.words" class="said">{{ transfer.words }}</p>
    <TypedBefore v-if="remembered" :of="remembered" />
    <table class="goods-lines">
      <thead>
        <tr>
          <th>Goods</th>
          <th v-if="transfer.state === 'asked'" class="right">There</th>
          <th class="right">{{ transfer.state === 'asked' ? 'Wanted' : 'Sent' }}</th>
          <th v-if="transfer.state === 'arrived' || taking" class="right">Came</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(line, at) in transfer.lines" :key="line.itemId">
          <td>
            <router-link class="word" :to="`/goods/${line.itemId}`">{{ line.name }}</router-link>
            <span class="soft beneath">{{
              line.serials.length > 0 ? line.serials.join(', ') : line.number
            }}</span>
          </td>
          <td
            v-if="transfer.state === 'asked'"
            class="right num"
            :class="{ bad: line.there < line.quantity }"
          >
            {{ quantityWords(line.there, line.unit) }}
          </td>
          <td class="right num">{{ quantityWords(line.quantity, line.unit) }}</td>
          <td v-if="taking" class="right">
            <QuantityField
              bare
              :model-value="came.quantities[at] ?? null"
              :label="`Came of ${line.name}`"
              :decimals="line.decimals"
              :wrong="wrongAt(at)"
              @update:model-value="(quantity) => (came.quantities[at] = quantity)"
            />
          </td>
          <td v-else-if="transfer.state === 'arrived'" class="right num">
            <span :class="{ bad: line.arrived < line.quantity }">{{
              quantityWords(line.arrived, line.unit)
            }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <div v-if="!over(transfer.state)" class="acts steps">
      <template v-if="transfer.state === 'asked'">
        <WaitButton :loading="busy" @click="go(store.step(transfer, 'cancelled'), 'Nobody sends it.')"
          >Do not send</WaitButton
        >
        <WaitButton
          class="go"
          :loading="busy"
          @click="go(store.step(transfer, 'sent'), 'The goods are on the way.')"
          >They are on the way</WaitButton
        >
      </template>
      <template v-else-if="taking">
        <v-btn @click="leave">Cancel</v-btn>
        <WaitButton class="go" type="submit" :loading="busy">That came</WaitButton>
      </template>
      <WaitButton v-else class="go" :loading="busy" @click="beginTaking">Take them in</WaitButton>
    </div>
  </form>
</template>

<style scoped>
.name {
  margin-right: auto;
}
.said {
  padding: 10px 12px;
}
.steps {
  padding: 16px 12px;
}
</style>
