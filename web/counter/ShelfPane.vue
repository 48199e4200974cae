<script setup lang="ts">
import { mdiArrowLeft, mdiChevronDown, mdiChevronUp } from '@mdi/js';
import { useLocalStorage } from '@vueuse/core';
import { defineAsyncComponent, nextTick, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Tile, TileJob } from '../../core/counter/shelves.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import TileFace from './TileFace.vue';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useJournalStore } from '../journal/journalStore.ts';
import { useReturnStore } from '../journal/returnStore.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useShelfStore } from './shelfStore.ts';
import { useWayOn } from '../look/wayOn.ts';

// Loaded when somebody arranges: the Counter sells without it.
const ArrangeTiles = defineAsyncComponent(() => import('./ArrangeTiles.vue'));

const shelf = useShelfStore();
const basket = useBasketStore();
const ringUp = useRingUpStore();
const work = useBasketWorkStore();
const returns = useReturnStore();
const session = useSessionStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const goOn = useWayOn();
const journal = useJournalStore();
const folded = useLocalStorage('mondrel.shelves.folded', false);
const arranging = ref(false);

const JOBS: Record<TileJob, () => unknown> = {
  'open-price': openPriceItem,
  'gift-card': () => work.begin('gift-card'),
  customer: () => work.begin('customer'),
  cash: () => work.begin('cash'),
  relay: () => work.begin('relay'),
  'no-sale': () => work.begin('drawer-opening'),
  hold: () => work.begin('hold'),
  return: () => returns.openEmpty(),
  waiting: () => router.push('/waiting'),
  drawer: () => router.push('/drawer'),
  'last-receipt': openLastReceipt,
};

async function openLastReceipt(): Promise<void> {
  const last = await journal.lastOn(till.facts?.till.id ?? 0);
  if (last) await goOn(`/journal/${last.id}`);
  else notices.say('No sale was finished on this till yet.');
}

async function openPriceItem(): Promise<void> {
  const id = till.facts?.shop.openItemId;
  const [item] = id == null ? [] : await catalogue.find([id]);
  if (item) await ringUp.add(item);
  else notices.failed('The shop sells no unlisted things.');
}

async function press(tile: Tile): Promise<void> {
  if (tile.kind === 'bin') {
    shelf.binId = tile.id;
    await nextTick();
    document.querySelector<HTMLElement>('.shelf .tile')?.focus();
  } else if (tile.kind === 'item') {
    const item = shelf.items.get(tile.itemId);
    if (item) await ringUp.add(item);
    else notices.failed('This item is no longer sold. Take its tile away under Arrange.');
  } else if (tile.kind === 'discount') {
    if (basket.lines.length > 0) work.beginDiscount(tile.presetId);
    else notices.say('Ring something up first: a discount is given on goods.');
  } else if (tile.kind === 'category') {
    const field = document.querySelector<HTMLInputElement>('input[name="entry"]');
    if (!field) return;
    field.value = tile.category;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.focus();
  } else {
    await JOBS[tile.job]();
  }
}
</script>

<template>
  <section class="shelf" :class="{ folded }" aria-label="Shelves">
    <div class="tabs">
      <button
        v-for="one in shelf.shelves"
        :key="one.id"
        type="button"
        :class="{ on: one.id === shelf.shelf?.id && !folded }"
        :aria-pressed="one.id === shelf.shelf?.id"
        @click="
          folded = false;
          shelf.open(one.id);
        "
      >
        {{ one.name }}
      </button>
      <span class="space" />
      <button
        v-if="session.may('shelves.arrange')"
        type="button"
        class="quiet"
        @click="
          arranging = !arranging;
          folded = false;
        "
      >
        {{ arranging ? 'Done arranging' : 'Arrange' }}
      </button>
      <button
        type="button"
        class="quiet"
        :aria-label="folded ? 'Show the shelves' : 'Fold the shelves away'"
        @click="folded = !folded"
      >
        <v-icon :icon="folded ? mdiChevronUp : mdiChevronDown" />
      </button>
    </div>
    <ArrangeTiles v-if="arranging && !folded" />
    <div v-else-if="!folded" class="tiles scroll">
      <button v-if="shelf.binId" type="button" class="tile back" @click="shelf.binId = null">
        <v-icon :icon="mdiArrowLeft" /> Back
      </button>
      <button v-for="tile in shelf.tiles" :key="tile.id" type="button" class="tile" @click="press(tile)">
        <TileFace :tile="tile" />
      </button>
      <p v-if="shelf.tiles.length === 0 && !shelf.binId" class="soft none">
        {{
          session.may('shelves.arrange')
            ? 'No tiles here yet: press Arrange and add some.'
            : 'No tiles here yet. A supervisor can arrange the shelves.'
        }}
      </p>
    </div>
  </section>
</template>

<style scoped>
.shelf {
  border-top: var(--rule);
  background: var(--paper);
  display: flex;
  flex-direction: column;
  height: 204px;
  flex: none;
}
.shelf.folded {
  height: auto;
}
.shelf:has(.arrange) {
  height: 350px;
}
.tabs {
  display: flex;
  border-bottom: 1.5px solid var(--ink);
  font-weight: 650;
  font-size: 14.5px;
  overflow-x: auto;
  flex: none;
}
.tabs button {
  padding: 0 16px;
  min-height: 44px;
  border-right: 1.5px solid var(--ink);
  white-space: nowrap;
}
.tabs .on {
  background: var(--ink);
  color: var(--paper);
}
.tabs .quiet {
  border-right: 0;
  color: var(--soft);
}
.space {
  flex: 1;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  grid-auto-rows: 78px;
  flex: 1;
  align-content: start;
}
.tile {
  border-right: 1.5px solid var(--ink);
  border-bottom: 1.5px solid var(--ink);
  min-width: 0;
  height: 100%;
}
.tile:active {
  opacity: 0.6;
}
.back {
  text-align: center;
  font-weight: 650;
}
.none {
  grid-column: 1 / -1;
  padding: 24px;
}
@media (max-width: 1100px) {
  .tiles {
    grid-template-columns: repeat(4, 1fr);
  }
}
</style>
