<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue';
import type { TransferState, TransferView } from '../../contract/transfers.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { useChosenOf } from '../look/chosenOf.ts';
import ListColumn from '../look/ListColumn.vue';
import QuantityField from '../look/QuantityField.vue';
import { problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import TransferForm from './TransferForm.vue';
import { useTransferStore } from './transferStore.ts';
import WaitButton from '../look/WaitButton.vue';

/** Goods that go from a place to another: asked for, on the way, there. */
const store = useTransferStore();
const till = useTillStore();
const notices = useNoticeStore();
const asking = ref(false);
const busy = ref(false);
/** What came of each line, while it is taken in. */
const came = ref<(number | null)[] | null>(null);

void useLook(store.load)();
onUnmounted(store.follow());

const transfers = computed(() => store.page?.transfers ?? []);
const { chosenId, chosen: shown } = useChosenOf(() => transfers.value);
const STATES: Readonly<Record<TransferState, string>> = {
  asked: 'Asked for',
  sent: 'On the way',
  arrived: 'There',
  cancelled: 'Not sent',
};

function choose({ id }: TransferView): void {
  chosenId.value = id;
  came.value = null;
}
async function attempt(work: () => Promise<TransferView>, words: string): Promise<void> {
  busy.value = true;
  try {
    choose(await work());
    notices.say(words);
    await store.load();
  } catch (error) {
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}
async function takeIn(transfer: TransferView): Promise<void> {
  const lines = came.value;
  if (!lines) {
    came.value = transfer.lines.map(({ quantity }) => quantity);
    return;
  }
  if (lines.some((quantity) => quantity === null || Number.isNaN(quantity)))
    return notices.failed('How many came of each?');
  await attempt(
    () =>
      store.takeIn(
        transfer,
        lines.map((quantity) => quantity ?? 0),
      ),
    'The goods are in.',
  );
}
async function asked(transfer: TransferView): Promise<void> {
  asking.value = false;
  choose(transfer);
  await store.load().catch(() => {});
}
</script>

<template>
  <div class="two">
    <ListColumn
      title="Transfers"
      :known="store.page !== null"
      :parts="[{ rows: transfers }]"
      :open="chosenId"
      @open="choose"
      :pass="choose"
    >
      <template #way><router-link class="word" to="/goods">All goods</router-link></template>
      <template #acts>
        <v-btn v-if="!asking" :class="{ go: shown?.state !== 'sent' }" @click="asking = true"
          >Ask for goods</v-btn
        >
      </template>
      <template v-if="asking && store.page" #instead>
        <div class="scroll">
          <TransferForm :places="store.page.places" @done="asked" @leave="asking = false" />
        </div>
      </template>
      <template #row="{ row }">
        <span class="what"
          ><b>{{ row.from }} → {{ row.to }}</b>
          <span class="soft">{{ till.time(row.askedAt, 'full') }}, {{ row.askedBy }}</span></span
        ><span>{{ STATES[row.state] }}</span>
      </template>
      <template #empty>
        <b>Nothing is to go anywhere</b>
        <p>Ask another place for goods; they send them, you take them in.</p>
      </template>
    </ListColumn>
    <section v-if="shown" class="zone" aria-labelledby="transfer-title">
      <header class="head">
        <h2 id="transfer-title" class="title">{{ shown.from }} → {{ shown.to }}</h2>
        <b>{{ STATES[shown.state] }}</b>
      </header>
      <div class="scroll">
        <p v-if="shown.words" class="said">{{ shown.words }}</p>
        <table class="goods-lines">
          <thead>
            <tr>
              <th>Goods</th>
              <th v-if="shown.state === 'asked'" class="right">There</th>
              <th class="right">{{ shown.state === 'asked' ? 'Wanted' : 'Sent' }}</th>
              <th v-if="shown.state === 'arrived' || came" class="right">Came</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(line, at) in shown.lines" :key="line.itemId">
              <td>
                <router-link class="word" :to="`/goods/${line.itemId}`">{{ line.name }}</router-link>
                <span class="soft beneath">{{
                  line.serials.length > 0 ? line.serials.join(', ') : line.number
                }}</span>
              </td>
              <td
                v-if="shown.state === 'asked'"
                class="right num"
                :class="{ bad: line.there < line.quantity }"
              >
                {{ quantityWords(line.there, line.unit) }}
              </td>
              <td class="right num">{{ quantityWords(line.quantity, line.unit) }}</td>
              <td v-if="came" class="right">
                <QuantityField
                  bare
                  :model-value="came[at] ?? null"
                  :label="`Came of ${line.name}`"
                  :decimals="line.decimals"
                  @update:model-value="(quantity) => came && (came[at] = quantity)"
                />
              </td>
              <td v-else-if="shown.state === 'arrived'" class="right num">
                <span :class="{ bad: line.arrived < line.quantity }">{{
                  quantityWords(line.arrived, line.unit)
                }}</span>
              </td>
            </tr>
          </tbody>
        </table>
        <div v-if="shown.state === 'asked' || shown.state === 'sent'" class="acts steps">
          <template v-if="shown.state === 'asked'">
            <WaitButton
              :loading="busy"
              @click="attempt(() => store.step(shown!, 'cancelled'), 'Nobody sends it.')"
              >Do not send</WaitButton
            >
            <WaitButton
              class="go"
              :loading="busy"
              @click="attempt(() => store.step(shown!, 'sent'), 'The goods are on the way.')"
              >They are on the way</WaitButton
            >
          </template>
          <template v-else>
            <v-btn v-if="came" @click="came = null">Cancel</v-btn>
            <WaitButton class="go" :loading="busy" @click="takeIn(shown)">{{
              came ? 'That came' : 'Take them in'
            }}</WaitButton>
          </template>
        </div>
      </div>
    </section>
  </div>
</template>

<style scoped>
.said {
  padding: 10px 12px;
}
.steps {
  padding: 16px 12px;
}
</style>
