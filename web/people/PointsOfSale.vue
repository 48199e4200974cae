<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue';
import type { FoundCustomer } from '../../contract/people.ts';
import type { PointsOfSale } from '../../core/people/loyalty.ts';
import { formWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import FindCustomer from './FindCustomer.vue';
import { usePointsStore } from './pointsStore.ts';
import ChipButton from '../look/ChipButton.vue';

/** What a sale did to somebody's points; whoever joins now still gets those of a sale that was nobody's. */
const { saleId } = defineProps<{ saleId: string; points: PointsOfSale | null; mayJoin: boolean }>();
const emit = defineEmits<{ joined: [] }>();

const store = usePointsStore();
const notices = useNoticeStore();
const find = useTemplateRef('find');
const finding = ref(false);
const wrong = ref('');
const busy = ref(false);

async function begin(): Promise<void> {
  [finding.value, wrong.value] = [true, ''];
  await nextTick();
  find.value?.focus();
}

async function join({ id, name }: FoundCustomer): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    const got = await store.join(id, saleId);
    finding.value = false;
    notices.say(`${name} has got ${store.words(got?.earned ?? 0)} for this sale.`);
    emit('joined');
  } catch (error) {
    wrong.value = formWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div v-if="points || mayJoin" class="points-of-sale">
    <p v-if="points">
      <b>{{ store.words(points.earned) }}</b> for {{ points.customer
      }}<template v-if="points.used > 0">, {{ store.words(points.used) }} used</template> ·
      {{ store.words(points.balance) }} in all
    </p>
    <template v-else-if="finding">
      <FindCustomer
        id="joining"
        ref="find"
        scans
        :label="`Who gets the ${store.word} of this sale? Name, phone, or scan the card`"
        @choose="join"
        @keydown.esc.stop="finding = false"
      />
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      <v-btn @click="finding = false">Nobody</v-btn>
    </template>
    <ChipButton v-else @click="begin">{{ store.Word }} for a customer …</ChipButton>
  </div>
</template>

<style scoped>
.points-of-sale {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 8px 18px;
  border-bottom: var(--group);
  background: var(--surface);
}
.points-of-sale > :deep(.find-customer) {
  width: 100%;
}
</style>
