<script setup lang="ts">
import { onMounted } from 'vue';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { problemWords } from '../net/api.ts';
import AfterSaleBlock from './AfterSaleBlock.vue';
import ChecklistBlock from './ChecklistBlock.vue';
import DiscountsBlock from './DiscountsBlock.vue';
import PaymentBlock from './PaymentBlock.vue';
import PlacesBlock from './PlacesBlock.vue';
import ReceiptsBlock from './ReceiptsBlock.vue';
import RightsBlock from './RightsBlock.vue';
import { useSetupStore } from './setupStore.ts';
import ShopBlock from './ShopBlock.vue';
import StaffBlock from './StaffBlock.vue';
import TaxesBlock from './TaxesBlock.vue';
import TerminalsBlock from './TerminalsBlock.vue';

const setup = useSetupStore();
const notices = useNoticeStore();
onMounted(() => setup.load().catch((error: unknown) => notices.failed(problemWords(error))));
</script>

<template>
  <div class="setup scroll">
    <h1 class="hidden-text">Setup</h1>
    <template v-if="setup.facts">
      <ChecklistBlock :facts="setup.facts" />
      <ShopBlock :facts="setup.facts" />
      <ReceiptsBlock :facts="setup.facts" />
      <PaymentBlock />
      <TerminalsBlock :facts="setup.facts" />
      <TaxesBlock :facts="setup.facts" />
      <DiscountsBlock :facts="setup.facts" />
      <AfterSaleBlock :facts="setup.facts" />
      <StaffBlock :facts="setup.facts" />
      <RightsBlock :facts="setup.facts" />
      <PlacesBlock :facts="setup.facts" />
    </template>
  </div>
</template>

<style scoped>
.setup {
  padding: 22px;
  display: grid;
  gap: 22px;
  align-content: start;
}
.setup :deep(.block) {
  background: var(--surface);
  border: var(--group);
  padding: 18px;
  display: grid;
  gap: 14px;
}
.setup :deep(.fields) {
  display: grid;
  align-items: start;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.setup :deep(.adding) {
  display: flex;
  gap: 12px;
  align-items: start;
  border-top: var(--group);
  padding-top: 14px;
}
@media (max-width: 900px) {
  .setup :deep(.fields) {
    grid-template-columns: 1fr;
  }
  .setup :deep(.adding) {
    flex-wrap: wrap;
  }
}
</style>
