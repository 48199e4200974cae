<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { moveTile, TILE_COLOURS, TILE_JOBS, type Tile, type TileJob } from '../../core/counter/shelves.ts';
import type { Item } from '../../core/goods/item.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import TileFace from './TileFace.vue';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useShelfStore } from './shelfStore.ts';
import ChipButton from '../look/ChipButton.vue';
import WordButton from '../look/WordButton.vue';

const shelf = useShelfStore();
const notices = useNoticeStore();
const till = useTillStore();
const typed = ref('');
const found = shallowRef<Item[]>([]);
const chosenId = ref('');

/** What dragging changes; stored when the tile is let go. */
const order = ref<Tile[]>([]);
watch(
  () => shelf.tiles,
  (tiles) => (order.value = [...tiles]),
  { immediate: true },
);
watch(typed, async (words) => {
  found.value = words.trim() ? await catalogue.search(words, 6) : [];
});
const chosen = computed(() => shelf.tiles.find(({ id }) => id === chosenId.value));
const name = computed(() => shelf.shelf?.name ?? '');

const add = (tile: Tile) => shelf.changeTiles([...shelf.tiles, tile]);
const fresh = () => ({ id: newId(), colour: 'plain' as const });

async function addItem(item: Item): Promise<void> {
  typed.value = '';
  await add({ ...fresh(), kind: 'item', itemId: item.id });
}

async function addCategory(category: string): Promise<void> {
  typed.value = '';
  await add({ ...fresh(), kind: 'category', category });
}

async function addBin(): Promise<void> {
  const binName = typed.value.trim().slice(0, 30);
  if (!binName) return;
  typed.value = '';
  await add({ id: newId(), colour: 'blue', kind: 'bin', name: binName, tiles: [] });
}

async function addShelf(): Promise<void> {
  const id = newId();
  const shelfName = typed.value.trim().slice(0, 30) || 'New shelf';
  typed.value = '';
  const stored = shelf.change([...shelf.all, { id, name: shelfName, tillId: null, tiles: [] }]);
  shelf.open(id);
  await stored;
}

const changeShelf = (change: object) =>
  shelf.change(shelf.all.map((one) => (one.id === shelf.shelf?.id ? { ...one, ...change } : one)));

async function removeShelf(): Promise<void> {
  const before = shelf.all;
  notices.say(`${name.value} removed.`, { word: 'Undo', do: () => void shelf.change(before) });
  const stored = shelf.change(shelf.all.filter(({ id }) => id !== shelf.shelf?.id));
  shelf.open(shelf.shelves[0]?.id ?? '');
  await stored;
}

async function move(tile: Tile, by: number): Promise<void> {
  const stored = shelf.changeTiles(moveTile(shelf.tiles, tile.id, by));
  await nextTick();
  document.querySelector<HTMLElement>(`[data-tile="${tile.id}"]`)?.focus();
  await stored;
}

async function remove(tile: Tile): Promise<void> {
  const before = shelf.all;
  notices.say('Tile taken away.', { word: 'Undo', do: () => void shelf.change(before) });
  await shelf.changeTiles(shelf.tiles.filter(({ id }) => id !== tile.id));
}

function recolour(tile: Tile): Promise<void> {
  const next = TILE_COLOURS[(TILE_COLOURS.indexOf(tile.colour) + 1) % TILE_COLOURS.length] ?? 'plain';
  return shelf.changeTiles(shelf.tiles.map((one) => (one.id === tile.id ? { ...one, colour: next } : one)));
}

const STEPS = [-6, 6, -1, 1] as const;
const arranging = useTemplateRef('arranging');
/** The tile that has the focus. */
const focused = ({ target }: KeyboardEvent) =>
  target instanceof HTMLElement ? shelf.tiles.find(({ id }) => id === target.dataset.tile) : undefined;
const onTile = (act: (tile: Tile, nth: number) => Promise<void>) => (event: KeyboardEvent, nth: number) => {
  const tile = focused(event);
  return tile ? act(tile, nth) : false;
};
useKeys(
  'tiles',
  {
    move: onTile((tile, nth) => move(tile, STEPS[nth] ?? 0)),
    colour: onTile(recolour),
    remove: onTile(remove),
  },
  { within: arranging },
);
</script>

<template>
  <div ref="arranging" class="arrange">
    <div class="tools">
      <div class="adding">
        <input
          v-model="typed"
          class="big-field"
          aria-label="Search an item to add, or type a name for a bin or shelf"
          placeholder="Search to add, or name a bin or shelf"
        />
        <ul v-if="found.length > 0">
          <li v-for="item in found" :key="item.id">
            <button type="button" @click="addItem(item)">{{ item.name }}</button>
          </li>
          <li v-if="found[0]">
            <button type="button" @click="addCategory(found[0].category)">
              All of {{ found[0].category }}
            </button>
          </li>
        </ul>
      </div>
      <ChipButton v-if="!shelf.binId" :disabled="!typed.trim()" @click="addBin"> Add bin </ChipButton>
      <select
        class="chip"
        aria-label="Add a till job"
        :value="''"
        @change="add({ ...fresh(), kind: 'job', job: ($event.target as HTMLSelectElement).value as TileJob })"
      >
        <option value="" disabled>Add job …</option>
        <option v-for="(words, job) in TILE_JOBS" :key="job" :value="job">{{ words }}</option>
      </select>
      <select
        v-if="till.facts?.discountPresets.length"
        class="chip"
        aria-label="Add a discount"
        :value="''"
        @change="
          add({
            ...fresh(),
            kind: 'discount',
            presetId: Number(($event.target as HTMLSelectElement).value),
          })
        "
      >
        <option value="" disabled>Add discount …</option>
        <option v-for="preset in till.facts.discountPresets" :key="preset.id" :value="preset.id">
          {{ preset.name }}
        </option>
      </select>
      <ChipButton @click="addShelf">Add shelf</ChipButton>
      <input
        class="big-field short"
        aria-label="Name of this shelf"
        :value="name"
        maxlength="30"
        @change="changeShelf({ name: ($event.target as HTMLInputElement).value.trim() || name })"
      />
      <ChipButton
        @click="changeShelf({ tillId: shelf.shelf?.tillId === null ? (till.facts?.till.id ?? null) : null })"
      >
        {{ shelf.shelf?.tillId === null ? 'For all tills' : 'Only this till' }}
      </ChipButton>
      <ChipButton class="stop" @click="removeShelf">Remove shelf</ChipButton>
    </div>
    <p class="soft hint">
      {{ chosen?.kind === 'bin' ? 'Press Enter to open the bin. ' : '' }}Drag tiles, or choose one and press
      <kbd>← → ↑ ↓</kbd> to move, <KeyHint of="tiles.colour" /> for its colour,
      <KeyHint of="tiles.remove" /> to take it away.
    </p>
    <VueDraggable
      v-model="order"
      class="tiles scroll"
      :animation="120"
      :force-fallback="true"
      @end="shelf.changeTiles(order)"
    >
      <button
        v-for="tile in order"
        :key="tile.id"
        type="button"
        class="tile"
        :data-tile="tile.id"
        @focus="chosenId = tile.id"
        @dblclick="tile.kind === 'bin' && (shelf.binId = tile.id)"
        @keydown.enter="tile.kind === 'bin' && (shelf.binId = tile.id)"
      >
        <TileFace :tile="tile" />
      </button>
    </VueDraggable>
    <WordButton v-if="shelf.binId" @click="shelf.binId = null"> Back to {{ name }} </WordButton>
  </div>
</template>

<style scoped>
.arrange {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 8px 12px;
  background: var(--yellow-wash);
}
.adding {
  position: relative;
  flex: 1;
  min-width: 220px;
}
.tools .big-field {
  height: 44px;
  font-size: 16px;
}
.tools .short {
  width: 150px;
}
.adding ul {
  position: absolute;
  z-index: 5;
  left: 0;
  right: 0;
  bottom: 44px;
  background: var(--surface);
  border: var(--group);
}
.adding li button {
  width: 100%;
  min-height: 44px;
  padding: 0 12px;
  border-bottom: var(--hair);
}
.hint {
  padding: 4px 12px;
  font-size: 14px;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  grid-auto-rows: 72px;
  flex: 1;
  align-content: start;
  border-top: 1.5px solid var(--ink);
}
.tile {
  border-right: 1.5px solid var(--ink);
  border-bottom: 1.5px solid var(--ink);
  min-width: 0;
  cursor: grab;
}
select.chip {
  color: var(--ink);
}
</style>
