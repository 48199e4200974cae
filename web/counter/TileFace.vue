<script setup lang="ts">
import { computed } from 'vue';
import { kindOf } from '../../core/goods/item.ts';
import { sizeWords } from '../../core/pricing/discount.ts';
import { TILE_JOBS, type Tile } from '../../core/counter/shelves.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useShelfStore } from './shelfStore.ts';

const { tile } = defineProps<{ tile: Tile }>();

const shelf = useShelfStore();
const till = useTillStore();

const face = computed(() => {
  switch (tile.kind) {
    case 'item': {
      const item = shelf.items.get(tile.itemId);
      if (!item) return { name: shelf.finding ? '' : 'No longer sold', small: '' };
      if (kindOf(item) !== 'goods')
        return { name: item.name, small: kindOf(item) === 'family' ? 'which?' : 'bundle' };
      const unit = item.unit === 'each' ? '' : `/${item.unit}`;
      return { name: item.name, small: item.price === null ? 'asks' : `${till.money(item.price)}${unit}` };
    }
    case 'category':
      return { name: tile.category, small: 'all of them' };
    case 'discount': {
      const preset = till.facts?.discountPresets.find(({ id }) => id === tile.presetId);
      return {
        name: preset?.name ?? 'No longer given',
        small: preset ? sizeWords(preset.size, till.digits) : '',
      };
    }
    case 'job':
      return { name: TILE_JOBS[tile.job], small: '' };
    default:
      return { name: tile.name, small: `${tile.tiles.length} inside` };
  }
});
</script>

<template>
  <span class="face" :class="[tile.colour, tile.kind]">
    <span class="name">{{ face.name }}</span>
    <small class="num">{{ face.small }}</small>
  </span>
</template>

<style scoped>
.face {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 4px;
  height: 100%;
  padding: 8px 11px;
  font-weight: 650;
  font-size: 14.5px;
  line-height: 1.15;
  background: var(--surface);
  border-left: 8px solid transparent;
}
.name {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  overflow-wrap: anywhere;
}
small {
  font-size: 13px;
  font-weight: 400;
  color: var(--soft);
}
.blue {
  border-left-color: var(--blue);
}
.yellow {
  border-left-color: var(--yellow);
}
.red {
  border-left-color: var(--red);
}
.job {
  background: var(--band);
  color: var(--on-band);
}
</style>
