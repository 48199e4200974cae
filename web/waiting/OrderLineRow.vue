<script setup lang="ts">
import { formatTenths } from '../../core/locale.ts';
import { computed, ref } from 'vue';
import type { BasketLine } from '../../core/counter/basket.ts';
import { SOURCE_ORDERS, sortSources, type SourceOrder } from '../../core/promises/sources.ts';
import { WAYS, type Way } from '../../core/promises/ways.ts';
import { formatQuantity, ONE, parseQuantity } from '../../core/quantity.ts';
import ChipChoice from '../look/ChipChoice.vue';
import { useTillStore } from '../shop/tillStore.ts';
import HowManyField from '../look/HowManyField.vue';
import type { OrderDraft } from './orderDraft.ts';
import WordButton from '../look/WordButton.vue';

/** A line of the basket: how it gets to the customer, and where it comes from. */
const { line, draft } = defineProps<{ line: BasketLine; draft: OrderDraft }>();
const till = useTillStore();
const open = ref(false);
const by = ref<SourceOrder>('distance');

const CHOICES = (Object.keys(WAYS) as Way[]).map((value) => ({ value, words: WAYS[value] }));
const ORDERS = (Object.keys(SOURCE_ORDERS) as SourceOrder[]).map((value) => ({
  value,
  words: SOURCE_ORDERS[value],
}));
const mine = computed(() => draft.ways[line.id]);
const waits = computed(() => mine.value !== undefined && mine.value.way !== 'take');
/** A piece with a number is the one in the hand: where it comes from is no question. */
const stocked = computed(() => line.serial === undefined && (draft.stockOf(line)?.stocked ?? false));
const sources = computed(() => {
  const to = mine.value?.way === 'collect' ? draft.collect.placeId : (till.facts?.till.placeId ?? 0);
  return sortSources(draft.sourcesOf(line), by.value, draft.placeOf(to)?.at ?? null);
});
const missing = computed(() => draft.missingOf(line));
/** Where it comes from, in words. */
const from = computed(() => {
  const parts = Object.entries(mine.value?.parts ?? {}).filter(([, quantity]) => quantity > 0);
  const several = parts.length > 1 || missing.value > 0;
  return [
    ...parts.map(
      ([id, quantity]) =>
        `${several ? `${formatQuantity(quantity)} ` : ''}from ${draft.placeOf(Number(id))?.name ?? ''}`,
    ),
    ...(missing.value > 0 ? [`${formatQuantity(missing.value)} still to come`] : []),
  ].join(', ');
});
const shown = (placeId: number): string => formatQuantity(mine.value?.parts[placeId] ?? 0);
function type(placeId: number, event: Event): void {
  const typed = parseQuantity((event.target as HTMLInputElement).value || '0', line.decimals);
  if (typed !== null && typed >= 0 && typed <= line.quantity) draft.setPart(line, placeId, typed);
}
</script>

<template>
  <li class="order-line">
    <span
      ><span v-if="line.quantity !== ONE" class="num">{{ formatQuantity(line.quantity) }} × </span
      >{{ line.name }}</span
    >
    <WordButton v-if="waits && stocked" :aria-expanded="open" @click="open = !open">
      <span :class="{ bad: missing !== 0 }">{{ missing < 0 ? 'More than are wanted' : from }}</span>
    </WordButton>
    <ChipChoice
      class="ways"
      :model-value="mine?.way ?? null"
      :label="`How ${line.name} gets to the customer`"
      :options="CHOICES"
      @update:model-value="draft.setWay(line, $event ?? 'collect')"
    />
    <div v-if="waits && stocked && open" class="sources">
      <ChipChoice
        :model-value="by"
        label="Places by"
        :options="ORDERS"
        @update:model-value="by = $event ?? 'distance'"
      />
      <div v-for="one in sources" :key="one.placeId" class="source">
        <WordButton @click="draft.takeFrom(line, one.placeId)">
          {{ one.place }}
        </WordButton>
        <span class="soft num"
          >{{ formatQuantity(one.available) }} there{{
            one.km === null
              ? ''
              : one.km === 0
                ? ', here'
                : ` · ${one.km < 10 ? formatTenths(one.km) : Math.round(one.km)} km`
          }}</span
        >
        <HowManyField
          :label="`How many from ${one.place}`"
          :model-value="shown(one.placeId)"
          @change="type(one.placeId, $event)"
        />
      </div>
    </div>
  </li>
</template>

<style scoped>
.order-line {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 2px 8px;
  padding: 8px 0;
  border-bottom: var(--hair);
}
.order-line > .word {
  text-align: right;
}
.ways,
.sources {
  grid-column: 1 / -1;
}
.sources .word {
  justify-self: start;
  text-align: left;
}
.sources {
  display: grid;
  gap: 4px;
}
.source {
  display: grid;
  grid-template-columns: 1fr auto 64px;
  gap: 8px;
  align-items: center;
}
</style>
