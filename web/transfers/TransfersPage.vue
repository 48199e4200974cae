<script setup lang="ts">
import { watchImmediate, whenever } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { transferName, type TransferView } from '../../contract/transfers.ts';
import { useAskedList } from '../look/askedList.ts';
import { useFirstFound } from '../look/firstFound.ts';
import ListColumn from '../look/ListColumn.vue';
import { problemWords } from '../net/problem.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import TransferDetail from './TransferDetail.vue';
import TransferForm from './TransferForm.vue';
import { TRANSFER_STATES } from './transferStates.ts';
import { useTransferStore } from './transferStore.ts';

/** Goods that go from a place to another: asked for, on the way, there. The address says which one is looked at. */
const store = useTransferStore();
const mayOpen = useMayOpen();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const asking = ref(false);

const asked = useAskedList(() => JSON.stringify(store.filter), ref(0), store.load);
const more = useLook(store.more);
onUnmounted(store.follow());
useScans((code) => (store.filter.find = code));

const transfers = computed(() => store.page?.transfers ?? []);
const id = computed(() => (route.params.id ? Number(route.params.id) : null));
// What is not there sends back to the list.
const open = useLook(store.look, (error) => {
  notices.failed(problemWords(error));
  return router.replace('/goods/transfers');
});
watchImmediate(id, (now) => void open(now));

const choose = (transfer: Pick<TransferView, 'id'>) => router.replace(`/goods/transfers/${transfer.id}`);
/** Where nothing was looked at, it is the first: nobody's hand is on another one. */
whenever(
  () => route.path === '/goods/transfers' && transfers.value[0],
  (first) => void choose(first),
  { immediate: true },
);
const chooseFirst = useFirstFound(
  () => store.filter.find,
  asked,
  () => {
    const [first] = transfers.value;
    if (first && store.filter.find.trim()) void choose(first);
  },
);
async function isAsked(transfer: TransferView): Promise<void> {
  asking.value = false;
  await choose(transfer);
  await store.loadAgain().catch(() => {});
}
</script>

<template>
  <div class="two">
    <ListColumn
      :narrowed="store.filter.find.trim() !== ''"
      @widen="store.filter.find = ''"
      title="Transfers"
      :known="store.page !== null"
      :parts="[{ rows: transfers }]"
      :open="id"
      :more="transfers.length < (store.page?.count ?? 0) ? 'Older' : ''"
      @open="choose"
      :pass="choose"
      @more="more"
    >
      <template #way
        ><router-link v-if="mayOpen('/goods')" class="word" to="/goods">All goods</router-link></template
      >
      <template #acts>
        <v-btn v-if="!asking" :class="{ go: store.looked?.state !== 'sent' }" @click="asking = true"
          >Ask for goods</v-btn
        >
      </template>
      <template v-if="!asking" #find>
        <v-text-field
          v-model="store.filter.find"
          data-search
          label="Goods, place, number, or scan the code"
          autocomplete="off"
          clearable
          @keydown.enter.prevent="chooseFirst"
          @click:clear="store.filter.find = ''"
        />
      </template>
      <template v-if="asking && store.page" #instead>
        <div class="scroll">
          <TransferForm :places="store.page.places" @done="isAsked" @leave="asking = false" />
        </div>
      </template>
      <template #row="{ row }">
        <span class="what"
          ><b>{{ row.from }} → {{ row.to }}</b>
          <span class="soft"
            >{{ transferName(row.id) }}, {{ till.time(row.askedAt, 'full') }}, {{ row.askedBy }}</span
          ></span
        ><span>{{ TRANSFER_STATES[row.state] }}</span>
      </template>
      <template #empty>
        <b>Nothing is to go anywhere</b>
        <p>Ask another place for goods; they send them, you take them in.</p>
      </template>
    </ListColumn>
    <section v-if="store.looked" class="zone" aria-labelledby="transfer-title">
      <TransferDetail :key="store.looked.id" :transfer="store.looked" />
    </section>
  </div>
</template>
