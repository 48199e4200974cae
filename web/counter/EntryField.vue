<script setup lang="ts">
import { mdiCameraOutline } from '@mdi/js';
import { useEventListener } from '@vueuse/core';
import {
  computed,
  defineAsyncComponent,
  nextTick,
  onMounted,
  ref,
  shallowRef,
  useTemplateRef,
  watch,
} from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { parseEntry } from '../../core/counter/entry.ts';
import { kindOf, type Item } from '../../core/goods/item.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useTillStore } from '../setup/tillStore.ts';

import { catalogue } from './catalogue/thread.ts';
import { useEntryKinds } from './entryKinds.ts';
import { useRingUpStore } from './ringUpStore.ts';
import { ENTRY } from './scanner.ts';

// Loaded when somebody scans with a camera.
const CameraScan = defineAsyncComponent(() => import('./CameraScan.vue'));

const LISTED = 12;

const ringUp = useRingUpStore();
const till = useTillStore();
const route = useRoute();
const router = useRouter();
const takeEntry = useEntryKinds();
const input = useTemplateRef<HTMLInputElement>('input');
const list = useTemplateRef<HTMLUListElement>('list');
const text = ref('');
const found = shallowRef<Item[]>([]);
/** The words that the list belongs to. */
const foundFor = ref('');
const at = ref(0);
let turn = 0;
const camera = ref(false);
/** Whether this device has a camera that a page may use. */
const hasCamera = ref(false);
onMounted(async () => {
  const devices = await navigator.mediaDevices?.enumerateDevices().catch(() => []);
  hasCamera.value = devices?.some(({ kind }) => kind === 'videoinput') ?? false;
});

const searched = computed(() => parseEntry(text.value).text);
const open = computed(() => searched.value !== '' && found.value.length > 0);

watch(searched, async (words) => {
  const mine = ++turn;
  at.value = 0;
  const items = words ? await catalogue.search(words, LISTED) : [];
  if (mine !== turn) return;
  found.value = items;
  foundFor.value = words;
});
watch(at, async () => {
  await nextTick();
  list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' });
});

function clear(): void {
  text.value = '';
  found.value = [];
  turn += 1;
}

/** Takes what is in the field: the item that is pointed at, if the list was used, or whatever the text means. */
async function submit(): Promise<void> {
  const typed = text.value;
  const pointed = at.value > 0 ? found.value[at.value] : undefined;
  clear();
  if (typed.trim() === '') return;
  if (!pointed) return takeEntry(typed);
  if (route.path !== '/counter') await router.push('/counter');
  await ringUp.add(pointed, parseEntry(typed).quantity);
}

async function take(item: Item): Promise<void> {
  const { quantity } = parseEntry(text.value);
  clear();
  input.value?.focus();
  if (route.path !== '/counter') await router.push('/counter');
  await ringUp.add(item, quantity);
}

function keyDown(event: KeyboardEvent): void {
  if (open.value && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
    event.preventDefault();
    event.stopPropagation();
    const by = event.key === 'ArrowDown' ? 1 : -1;
    at.value = Math.min(found.value.length - 1, Math.max(0, at.value + by));
  } else if (event.key === 'Escape' && text.value) {
    event.stopPropagation();
    clear();
  }
}

function focusEntry(): void {
  input.value?.focus();
}

onMounted(focusEntry);
// The entry field has the focus whenever nothing else has it.
useEventListener(document, 'focusout', () => {
  setTimeout(() => {
    if (document.activeElement === document.body && document.hasFocus()) focusEntry();
  });
});
// Heard last, so that keys which mean something to the page are not taken for text.
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const inField = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
  if (event.key === '/' && !inField) {
    event.preventDefault();
    focusEntry();
  } else if (
    !inField &&
    !event.defaultPrevented &&
    event.key !== ' ' &&
    event.key.length === 1 &&
    !event.ctrlKey &&
    !event.metaKey &&
    !event.altKey
  ) {
    focusEntry();
  }
});

function priceWords(item: Item): string {
  if (kindOf(item) === 'family') return 'which?';
  if (kindOf(item) === 'bundle') return 'bundle';
  return item.price === null ? 'asks' : till.money(item.price);
}

function stockWords({ stock, unit }: Item): string {
  if (stock === null) return '';
  return `${formatQuantity(stock)}${unit === 'each' ? '' : ` ${unit}`} here`;
}
</script>

<template>
  <form class="entry" role="search" @submit.prevent="submit">
    <kbd aria-hidden="true">/</kbd>
    <input
      ref="input"
      v-model="text"
      :name="ENTRY"
      role="combobox"
      aria-label="Entry field: scan or type an item"
      aria-autocomplete="list"
      aria-controls="found"
      :aria-expanded="open"
      :aria-activedescendant="open ? `found-${at}` : undefined"
      autocomplete="off"
      autocapitalize="off"
      spellcheck="false"
      placeholder="Scan or type anything: item, number, name, receipt…"
      @keydown="keyDown"
    />
    <span class="hint" aria-hidden="true"><kbd>3*</kbd> quantity first</span>
    <v-btn
      v-if="hasCamera"
      variant="text"
      :icon="mdiCameraOutline"
      aria-label="Scan with the camera"
      title="Scan with the camera"
      @click="camera = !camera"
    />
    <CameraScan v-if="camera" @code="takeEntry($event, { scanned: true })" @close="camera = false" />
    <ul v-show="open" id="found" :data-words="foundFor" ref="list" role="listbox" aria-label="Found items">
      <li
        v-for="(item, index) in found"
        :id="`found-${index}`"
        :key="item.id"
        role="option"
        :aria-selected="index === at"
        :class="{ on: index === at }"
        @mousedown.prevent
        @click="take(item)"
      >
        <span class="name"
          >{{ item.name }}<small class="soft">{{ item.number }} · {{ item.category }}</small></span
        >
        <span class="num soft" :class="{ none: item.stock !== null && item.stock <= 0 }">{{
          stockWords(item)
        }}</span>
        <span class="num price">{{ priceWords(item) }}</span>
      </li>
    </ul>
    <p v-if="searched && found.length === 0 && searched.length > 1" class="hidden-text" role="status">
      Nothing found
    </p>
  </form>
</template>

<style scoped>
.entry {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 18px;
  position: relative;
  min-width: 0;
}
.entry input {
  flex: 1;
  min-width: 0;
  height: 100%;
  font-size: 20px;
  background: transparent;
  color: var(--ink);
  border: 0;
  outline: 0;
}
.entry input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.entry:focus-within {
  box-shadow: inset 0 -6px 0 var(--blue);
}
.hint {
  font-size: 13px;
  color: var(--soft);
  white-space: nowrap;
}
ul {
  position: absolute;
  z-index: 10;
  left: 0;
  /* As wide as the basket below it; the totals stay in sight. */
  right: 67px;
  top: 60px;
  max-height: calc(100vh - 100px);
  overflow-y: auto;
  background: var(--surface);
  border: var(--rule);
  border-top: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 1fr 110px 110px;
  align-items: center;
  gap: 12px;
  padding: 7px 18px;
  min-height: 52px;
  border-bottom: var(--hair);
  cursor: pointer;
}
li.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.name {
  font-weight: 650;
  overflow-wrap: anywhere;
}
.name small {
  display: block;
  font-weight: 400;
  font-size: 14px;
}
.none {
  color: var(--red);
  font-weight: 600;
}
li .num {
  text-align: right;
}
.price {
  font-size: 18px;
  font-weight: 600;
}
@media (max-width: 1100px) {
  .hint {
    display: none;
  }
  ul {
    right: 87px;
  }
}
@media (max-width: 800px) {
  ul {
    right: -60px;
  }
}
</style>
