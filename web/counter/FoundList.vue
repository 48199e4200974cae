<script setup lang="ts">
import { useTemplateRef } from 'vue';
import { kindOf, type Item } from '../../core/goods/item.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useInSight } from '../look/inSight.ts';
import { useTillStore } from '../shop/tillStore.ts';

const { at } = defineProps<{
  open: boolean;
  /** The words that were searched. */
  words: string;
  items: readonly Item[];
  /** Which one is pointed at. */
  at: number;
}>();
defineEmits<{ take: [item: Item] }>();

const till = useTillStore();
const list = useTemplateRef<HTMLUListElement>('list');

useInSight(list, '[aria-selected="true"]', () => at);

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
  <ul v-show="open" id="found" ref="list" :data-words="words" role="listbox" aria-label="Found items">
    <!-- By place, not by item: rows are filled anew with every letter, which is quicker than making them anew. -->
    <li
      v-for="(item, index) in items"
      :id="`found-${index}`"
      :key="index"
      role="option"
      :aria-selected="index === at"
      :class="{ on: index === at }"
      @mousedown.prevent
      @click="$emit('take', item)"
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
</template>

<style scoped>
ul {
  position: absolute;
  z-index: 10;
  left: 0;
  /* As wide as the basket below it; the totals stay in sight. */
  right: 67px;
  top: 60px;
  max-height: calc(100vh - 100px);
  contain: layout paint style;
  overflow-y: auto;
  background: var(--surface);
  border: var(--rule);
  border-top: 0;
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
