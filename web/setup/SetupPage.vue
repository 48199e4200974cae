<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch, type Component } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { wordsFit } from '../../core/words.ts';
import { SETUP_SECTIONS } from '../../core/setup/sections.ts';
import BackupsBlock from '../backups/BackupsBlock.vue';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { problemWords } from '../net/problem.ts';
import AfterSaleBlock from './AfterSaleBlock.vue';
import ChannelsBlock from './ChannelsBlock.vue';
import ChangesBlock from './ChangesBlock.vue';
import ChecklistBlock from './ChecklistBlock.vue';
import DiscountsBlock from './DiscountsBlock.vue';
import PartnersBlock from './PartnersBlock.vue';
import PaymentBlock from './PaymentBlock.vue';
import PlacesBlock from './PlacesBlock.vue';
import AccountsBlock from './AccountsBlock.vue';
import PointsBlock from './PointsBlock.vue';
import PrintersBlock from './PrintersBlock.vue';
import ReceiptsBlock from './ReceiptsBlock.vue';
import RightsBlock from './RightsBlock.vue';
import { SETTING_NAMES } from './settingNames.ts';
import { useSetupStore } from './setupStore.ts';
import LayawayBlock from './LayawayBlock.vue';
import OrdersBlock from './OrdersBlock.vue';
import ShopBlock from './ShopBlock.vue';
import StaffBlock from './StaffBlock.vue';
import StockBlock from './StockBlock.vue';
import TaxesBlock from './TaxesBlock.vue';
import TerminalsBlock from './TerminalsBlock.vue';
import RowButton from '../look/RowButton.vue';

type Section = keyof typeof SETTING_NAMES;

const TITLES: Record<Section, string> = {
  ...SETUP_SECTIONS,
  backups: 'Backups',
  changes: 'Who changed what',
};
const SECTIONS = Object.keys(SETTING_NAMES) as Section[];
const BLOCKS: Record<Section, Component> = {
  shop: ShopBlock,
  receipts: ReceiptsBlock,
  printers: PrintersBlock,
  payment: PaymentBlock,
  terminals: TerminalsBlock,
  taxes: TaxesBlock,
  discounts: DiscountsBlock,
  returns: AfterSaleBlock,
  stock: StockBlock,
  layaway: LayawayBlock,
  points: PointsBlock,
  accounts: AccountsBlock,
  orders: OrdersBlock,
  channels: ChannelsBlock,
  partners: PartnersBlock,
  staff: StaffBlock,
  rights: RightsBlock,
  places: PlacesBlock,
  backups: BackupsBlock,
  changes: ChangesBlock,
};

const route = useRoute();
const router = useRouter();
const setup = useSetupStore();
const notices = useNoticeStore();
const find = ref('');
const section = computed<Section>(() => SECTIONS.find((one) => one === route.params.section) ?? 'shop');
/** Blocks that read the setup have it as `facts`; the others have none. */
const facts = computed(() => ({ facts: setup.facts ?? undefined }));
/** Settings that have every word that is typed, in their own name or in that of their part. */
const found = computed(() => {
  if (!find.value.trim()) return [];
  return SECTIONS.flatMap((one) =>
    SETTING_NAMES[one]
      .filter((name) => wordsFit(find.value, `${TITLES[one]} ${name}`))
      .map((name) => ({ section: one, name })),
  );
});

onUnmounted(lookAgain(['shop-changed'], setup.load));
onMounted(() => setup.load().catch((error: unknown) => notices.failed(problemWords(error))));
watch(section, () => document.querySelector('.setup .part')?.scrollTo({ top: 0 }));

async function takeFirst(): Promise<void> {
  const [first] = found.value;
  if (first) await go(first.section);
}

async function go(to: Section): Promise<void> {
  find.value = '';
  await router.push(`/setup/${to}`);
}
</script>

<template>
  <div class="setup">
    <h1 class="hidden-text">Setup: {{ TITLES[section] }}</h1>
    <nav class="parts scroll" aria-label="Parts of Setup">
      <v-text-field
        v-model="find"
        label="Find a setting"
        hide-details
        density="compact"
        @keydown.enter.prevent="takeFirst"
        @keydown.esc.stop="find = ''"
      />
      <ul v-if="find.trim()" class="found" aria-label="Settings found">
        <li v-for="{ section: one, name } in found" :key="one + name">
          <RowButton @click="go(one)">
            <span class="what"
              ><b>{{ name }}</b
              ><span class="soft">{{ TITLES[one] }}</span></span
            >
          </RowButton>
        </li>
        <li v-if="found.length === 0" class="soft none" role="status">No setting is called that.</li>
      </ul>
      <ul v-else>
        <li v-for="one in SECTIONS" :key="one">
          <router-link
            :to="`/setup/${one}`"
            :class="{ on: one === section }"
            :aria-current="one === section ? 'page' : undefined"
            >{{ TITLES[one] }}</router-link
          >
        </li>
      </ul>
    </nav>
    <div class="part scroll">
      <template v-if="setup.facts">
        <ChecklistBlock v-if="section === 'shop'" :facts="setup.facts" />
        <component :is="BLOCKS[section]" :key="section" v-bind="facts" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.setup {
  display: grid;
  grid-template-columns: 260px minmax(0, 1fr);
}
.parts {
  border-right: var(--rule);
  background: var(--surface);
  padding: 14px 0;
  display: grid;
  gap: 10px;
  align-content: start;
}
.parts > :deep(.v-input) {
  padding: 0 14px;
}
.parts a {
  display: block;
  width: 100%;
  min-height: 46px;
  padding: 11px 16px;
  border: 0;
  border-bottom: var(--hair);
  background: none;
  color: var(--ink);
  font-weight: 600;
  text-align: left;
  text-decoration: none;
}
.parts .on {
  background: var(--blue);
  color: var(--on-blue);
}
.none {
  padding: 14px 16px;
}
.part {
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
  flex-wrap: wrap;
  gap: 12px;
  align-items: start;
  border-top: var(--group);
  padding-top: 14px;
}
.setup :deep(.adding > .v-input) {
  flex: 1 1 180px;
}
@media (max-width: 1100px) {
  .setup {
    grid-template-columns: 210px minmax(0, 1fr);
  }
  /* What fields are called has room on one line. */
  .setup :deep(.fields) {
    grid-template-columns: 1fr;
  }
}
@media (max-width: 900px) {
  .setup {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
  }
  .parts {
    max-height: 200px;
    border-right: 0;
    border-bottom: var(--rule);
  }
}
</style>
