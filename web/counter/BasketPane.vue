<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, nextTick, useTemplateRef, watch } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { sum } from '../../core/money.ts';
import { formatQuantity } from '../../core/quantity.ts';
import BasketRow from './BasketRow.vue';
import { useTillStore } from '../shop/tillStore.ts';
import { isMoney } from '../../core/counter/basket.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import ChipButton from '../look/ChipButton.vue';

const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const list = useTemplateRef<HTMLOListElement>('list');
const pricedById = computed(() => new Map(basket.priced?.lines.map((line) => [line.id, line])));
/** Money of a promise or for an account is no goods. */
const units = computed(() =>
  formatQuantity(sum(basket.lines.map((line) => (isMoney(line) ? 0 : line.quantity)))),
);

const chosenId = computed(() => (basket.phase === 'basket' ? basket.chosenId : null));

/** The whole basket: no line is chosen for it. */
function discountBasket(): void {
  basket.chosenId = null;
  work.beginDiscount();
}

const pickedNet = computed(() =>
  basket.pickedLines.reduce((total, { id }) => total + (pricedById.value.get(id)?.net ?? 0), 0),
);

watch(
  () => [basket.chosenId, basket.lines.length],
  async () => {
    await nextTick();
    // With the frame that draws the row, instead of a layout of its own before it.
    requestAnimationFrame(() => list.value?.querySelector('.row.on')?.scrollIntoView({ block: 'nearest' }));
  },
);
</script>

<template>
  <section class="tape" aria-label="Basket">
    <ol v-if="basket.lines.length > 0" ref="list" class="scroll">
      <!-- Of a long basket only the rows are drawn again that have changed. -->
      <BasketRow
        v-for="line in basket.lines"
        :key="line.id"
        v-memo="[line, pricedById.get(line.id), chosenId === line.id, basket.picked.has(line.id)]"
        :line="line"
        :priced="pricedById.get(line.id)"
        :chosen="chosenId === line.id"
        :picked="basket.picked.has(line.id)"
      />
    </ol>
    <div v-else class="empty">
      <b>{{ basket.phase === 'done' ? 'Ready for the next sale' : 'Nothing rung up yet' }}</b>
      <p>Scan the first item, or type its number or a few letters of its name.</p>
    </div>
    <footer v-if="basket.pickedLines.length > 0" class="with-picked">
      <b
        >{{ counted(basket.pickedLines.length, 'line') }} picked,
        <span class="num">{{ till.money(pickedNet) }}</span></b
      >
      <span class="chips">
        <ChipButton @click="basket.pickAll()">All</ChipButton>
        <ChipButton @click="work.beginDiscount()">Discount</ChipButton>
        <ChipButton @click="work.markGifts(basket.pickedLines)">
          {{ basket.pickedLines.every(({ gift }) => gift) ? 'No gifts' : 'Gifts' }}
        </ChipButton>
        <ChipButton class="stop" @click="basket.removeAll(basket.pickedLines)">Remove</ChipButton>
        <ChipButton @click="basket.pickNone()"> Clear selection <KeyHint of="counter.back" /> </ChipButton>
      </span>
    </footer>
    <footer v-else-if="basket.lines.length > 0">
      <b>{{ units }} {{ units === '1' ? 'unit' : 'units' }} · {{ counted(basket.lines.length, 'line') }}</b>
      <span v-if="basket.basket.note" class="note">{{ basket.basket.note }}</span>
      <span class="chips">
        <ChipButton @click="discountBasket">Discount</ChipButton>
        <ChipButton @click="work.begin('sale-note')">Note for the sale</ChipButton>
        <ChipButton @click="work.begin('exemption')">
          {{ basket.basket.exemption ? 'Without tax' : 'No tax' }}
        </ChipButton>
        <ChipButton class="stop" @click="basket.clear()">Clear</ChipButton>
      </span>
    </footer>
  </section>
</template>

<style scoped>
.tape {
  display: flex;
  flex-direction: column;
  background: var(--surface);
  min-height: 0;
}
ol {
  flex: 1;
  /* What changes in the list moves nothing outside of it. */
  contain: strict;
}
footer {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 18px;
  border-top: var(--hair);
  font-size: 14px;
}
.with-picked {
  background: var(--yellow-wash);
  border-top: var(--group);
}
.note {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.chips {
  margin-left: auto;
}
</style>
