<script setup lang="ts">
import {
  mdiAccountMultipleOutline,
  mdiBarcodeScan,
  mdiCashRegister,
  mdiChartBar,
  mdiLockOutline,
  mdiPackageVariantClosed,
  mdiPrinterOutline,
  mdiScriptTextOutline,
  mdiSwapHorizontal,
  mdiTagOutline,
  mdiThemeLightDark,
  mdiTimerSandEmpty,
  mdiTruckDeliveryOutline,
  mdiTuneVariant,
} from '@mdi/js';
import { useIdle, watchImmediate } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { useTheme } from 'vuetify';
import KeyHint from '../keys/KeyHint.vue';
import KeysPanel from './KeysPanel.vue';
import { useKeys } from '../keys/useKeys.ts';
import { storeTheme } from '../look/storedTheme.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBackupsStore } from '../backups/backupsStore.ts';
import { usePrinterStore } from '../printer/printerStore.ts';
import { useDrawerStore } from '../drawer/drawerStore.ts';
import { useShortagesStore } from '../drawer/shortagesStore.ts';
import EntryField from '../counter/EntryField.vue';
import { useBasketStore } from '../sale/basketStore.ts';
import { useEntryKinds } from '../counter/entryKinds.ts';
import { useShelfStore } from '../counter/shelfStore.ts';
import { listenForScans } from '../sale/scanner.ts';
import { usePaymentStore } from '../payment/paymentStore.ts';
import { showCustomer } from '../display/customerDisplay.ts';
import { useCustomerStore } from '../people/customerStore.ts';
import { usePromiseStore } from '../waiting/promiseStore.ts';
import { useWaitingStore } from '../waiting/waitingStore.ts';
import { sayRefusals } from '../journal/refusedMessages.ts';
import { useRelayStore } from '../waiting/relayStore.ts';
import { opening } from './opening.ts';
import { useReady } from './ready.ts';
import NoticeBand from './NoticeBand.vue';

const AREAS: readonly {
  to: string;
  word: string;
  icon: string;
  /** Where it begins for those who may not open its first page. */
  or?: readonly string[];
  also?: readonly string[];
  /** Whoever may open this page comes to it from there. */
  from?: string;
}[] = [
  { to: '/counter', word: 'Counter', icon: mdiBarcodeScan },
  { to: '/waiting', word: 'Waiting', icon: mdiTimerSandEmpty },
  {
    to: '/journal',
    word: 'Journal',
    icon: mdiScriptTextOutline,
    or: ['/gift-cards', '/card-payments', '/books'],
  },
  { to: '/drawer', word: 'Drawer', icon: mdiCashRegister },
  { to: '/people', word: 'People', icon: mdiAccountMultipleOutline },
  { to: '/goods', word: 'Goods', icon: mdiPackageVariantClosed },
  { to: '/goods/counts', word: 'Counts', icon: mdiPackageVariantClosed, from: '/goods' },
  {
    to: '/goods/orders',
    word: 'Orders',
    icon: mdiTruckDeliveryOutline,
    also: ['/goods/suppliers', '/goods/deliveries'],
    from: '/goods',
  },
  { to: '/goods/transfers', word: 'Transfers', icon: mdiSwapHorizontal, from: '/goods' },
  { to: '/offers', word: 'Offers', icon: mdiTagOutline },
  { to: '/figures', word: 'Figures', icon: mdiChartBar },
];

const route = useRoute();
const session = useSessionStore();
const mayOpen = useMayOpen();
const till = useTillStore();
const drawer = useDrawerStore();
const basket = useBasketStore();
const waiting = useWaitingStore();
const promises = usePromiseStore();
const relays = useRelayStore();
const customers = useCustomerStore();
const shortages = useShortagesStore();
const shelves = useShelfStore();
const payment = usePaymentStore();
const printer = usePrinterStore();
const backups = useBackupsStore();
const theme = useTheme();
const takeEntry = useEntryKinds();
const { trouble } = useReady();
const areas = computed(() =>
  AREAS.flatMap(({ to: first, or = [], also = [], from, ...area }) => {
    const to = [first, ...or].find(mayOpen);
    return to && !(from && mayOpen(from)) ? [{ ...area, to, pages: [first, ...or, ...also] }] : [];
  }),
);
const showKeys = ref(false);

const stop = [
  waiting.follow(),
  promises.follow(),
  relays.follow(),
  customers.follow(),
  shelves.follow(),
  drawer.follow(),
  shortages.follow(),
  basket.follow(),
  payment.follow(),
  printer.follow(),
  backups.follow(),
  sayRefusals(),
  showCustomer(),
  listenForScans((code) => void takeEntry(code, { scanned: true })),
];
onUnmounted(() => stop.forEach((end) => end()));

const drawerWords = computed(() =>
  drawer.state?.shift ? `drawer open since ${till.time(drawer.state.shift.openedAt)}` : 'drawer closed',
);

const lockAfter = (session.welcome?.lockMinutes ?? 0) * 60_000;
if (lockAfter > 0) {
  const { idle } = useIdle(lockAfter);
  watchImmediate(idle, (isIdle) => {
    if (isIdle) void session.lock();
  });
}

function changeTheme(): void {
  const next = theme.current.value.dark ? 'light' : 'dark';
  theme.change(next);
  storeTheme(next);
}

useKeys('everywhere', {
  showKeys: ({ target }) => {
    const field = target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement ? target : null;
    if (field?.value) return false;
    showKeys.value = !showKeys.value;
  },
});
</script>

<template>
  <div class="frame">
    <header class="top">
      <router-link to="/counter" class="mark" aria-label="Mondrel: to the Counter">
        <img src="/mark.svg" alt="" width="40" height="40" />
      </router-link>
      <div class="front">
        <EntryField />
        <NoticeBand />
      </div>
      <div class="who">
        <div class="where">
          <b v-if="till.facts">Till {{ till.facts.till.number }} · {{ till.facts.till.place }}</b>
          <span>{{ session.person?.name }} · {{ drawerWords }}</span>
        </div>
        <v-btn
          variant="text"
          :icon="mdiLockOutline"
          aria-label="Lock this till"
          title="Lock this till"
          @click="session.lock()"
        />
      </div>
    </header>
    <nav class="rail" aria-label="Areas">
      <router-link
        v-for="area in areas"
        :key="area.to"
        :to="area.to"
        :class="{ on: area.pages.some((path) => route.path.startsWith(path)) }"
      >
        <v-icon :icon="area.icon" />{{ area.word }}
        <span
          v-if="area.to === '/waiting' && waiting.held.length + promises.attention > 0"
          class="n num"
          :title="`${waiting.held.length} on hold, ${promises.attention} that want attention`"
          >{{ waiting.held.length + promises.attention }}</span
        >
        <span
          v-if="area.to === '/drawer' && shortages.count > 0"
          class="n num"
          :title="`${shortages.count} closed short and not explained`"
          >{{ shortages.count }}</span
        >
      </router-link>
      <span class="gap" />
      <router-link v-if="mayOpen('/setup')" to="/setup" active-class="on"
        ><v-icon :icon="mdiTuneVariant" />Setup
        <span v-if="backups.troubles.length > 0" class="n num" :title="backups.troubles.join(' ')">{{
          backups.troubles.length
        }}</span></router-link
      >
      <router-link to="/printer" active-class="on"
        ><v-icon :icon="mdiPrinterOutline" />Printer
        <span v-if="printer.count > 0" class="n num" :title="printer.trouble ?? 'Did it come out?'">{{
          printer.count
        }}</span></router-link
      >
      <button type="button" data-look @click="changeTheme">
        <v-icon :icon="mdiThemeLightDark" />{{ theme.current.value.dark ? 'Light' : 'Dark' }}
      </button>
      <button type="button" @click="showKeys = !showKeys"><KeyHint of="everywhere.showKeys" />Keys</button>
    </nav>
    <main class="page">
      <v-progress-linear
        v-if="opening"
        class="opening"
        color="primary"
        height="6"
        indeterminate
        aria-label="The page is coming"
      />
      <router-view v-if="!till.preparing" class="view" />
      <p v-else class="empty" role="status">{{ trouble }} Getting the shop ready …</p>
    </main>
    <KeysPanel v-if="showKeys" @close="showKeys = false" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template: 60px minmax(0, 1fr) / 76px minmax(0, 1fr);
  height: 100dvh;
  background: var(--paper);
  color: var(--ink);
  position: relative;
}
.top {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 76px 1fr 330px;
  border-bottom: var(--rule);
  background: var(--surface);
}
.mark {
  background: #15171c;
  display: grid;
  place-items: center;
}
.front {
  display: flex;
  min-width: 0;
  position: relative;
}
.front > .entry {
  flex: 1;
}
.who {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 0 4px 0 16px;
  border-left: var(--rule);
  font-size: 14px;
  min-width: 0;
}
.where {
  min-width: 0;
}
.where b,
.where span {
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.where b {
  font-size: 15px;
}
.rail {
  border-right: var(--rule);
  background: var(--surface);
  display: flex;
  flex-direction: column;
}
.rail a,
.rail button {
  height: 74px;
  display: grid;
  place-items: center;
  align-content: center;
  gap: 4px;
  font-size: 12px;
  font-weight: 600;
  border-bottom: var(--hair);
  color: var(--ink);
  text-decoration: none;
  text-align: center;
}
.rail a {
  position: relative;
}
.rail .n {
  position: absolute;
  top: 8px;
  right: 10px;
  background: var(--yellow);
  color: var(--on-yellow);
  font-size: 12px;
  font-weight: 600;
  padding: 0 5px;
}
.rail .gap {
  flex: 1;
}
.rail .gap ~ a,
.rail button {
  height: 62px;
  border-bottom: 0;
  border-top: var(--hair);
}
.rail .on {
  background: var(--blue);
  color: var(--on-blue);
}
.page {
  min-height: 0;
  min-width: 0;
  display: flex;
  flex-direction: column;
  position: relative;
}
/* Most pages are there at once: only one that lets somebody wait is said to come. */
.page > .opening {
  position: absolute;
  z-index: 8;
  animation: come 0s 300ms both;
}
@keyframes come {
  from {
    visibility: hidden;
  }
}
.view {
  flex: 1;
  min-height: 0;
}
.page > .empty {
  flex: 1;
}
@media (max-width: 1100px) {
  .top {
    grid-template-columns: 76px 1fr 250px;
  }
}
@media (max-width: 800px) {
  .top {
    grid-template-columns: 76px 1fr 58px;
  }
  .who {
    padding: 0 2px;
  }
  .where {
    display: none;
  }
}
</style>
