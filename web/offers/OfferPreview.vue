<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed, toRaw, watch } from 'vue';
import { shown } from '../net/shown.ts';
import type { OfferDraft } from '../../contract/offers.ts';
import type { OfferConflict } from '../../core/offers/offerConflicts.ts';
import type { OfferExample } from '../../core/offers/offerExamples.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useOffersStore } from './offersStore.ts';

/** What an offer says and does, while it is being written. */
const { offer, offerId } = defineProps<{ offer: OfferDraft; offerId: number | null }>();

const offers = useOffersStore();
const till = useTillStore();
/** Nothing before the goods were looked through. */
const [found, show] = shown<[examples: OfferExample[], conflicts: OfferConflict[]] | null>(null);
const examples = computed(() => found.value?.[0] ?? []);
const conflicts = computed(() => found.value?.[1] ?? []);

/** A figure that is not finished is left out of sentences and examples. */
const finished = computed(() => !hasGap(offer.rule));
const words = computed(() => (finished.value ? offers.words(offer) : 'Type the missing figure.'));
const text = computed(() => JSON.stringify(offer));
const settled = refDebounced(text, 150);

function hasGap(value: unknown): boolean {
  if (typeof value === 'number') return Number.isNaN(value);
  return typeof value === 'object' && value !== null && Object.values(value).some(hasGap);
}

watch(
  settled,
  async () => {
    if (!finished.value) return;
    const plain = { ...(JSON.parse(text.value) as OfferDraft), id: offerId ?? 0 };
    await show(Promise.all([catalogue.examples(toRaw(plain)), catalogue.conflicts(toRaw(plain))]));
  },
  { immediate: true },
);

const conflictWords = ({ other, shared, excludes, examples: some }: OfferConflict) =>
  `${excludes ? 'A unit takes part in one of the two' : 'One comes on top of the other'}: ${shared} ${
    shared === 1 ? 'item' : 'items'
  } such as ${some[0] ?? ''} ${shared === 1 ? 'is' : 'are'} in “${other.name}”, too.`;
</script>

<template>
  <div class="preview">
    <p class="words" role="status" aria-label="In words">{{ words }}</p>
    <h2 class="label">In a basket</h2>
    <p v-if="found && examples.length === 0" class="soft">Nothing that is sold fits yet.</p>
    <ul v-for="(example, at) in examples" :key="at" class="example" :class="{ applies: example.applies }">
      <li v-for="line in example.lines" :key="line.name">
        <span class="num">{{ line.count }}</span>
        <span class="name">{{ line.name }}</span>
        <span class="num">{{ till.money(line.after) }}</span>
      </li>
      <li class="sum">
        <b>{{ example.applies ? 'Applies' : 'Does not apply' }}</b>
        <span class="num"
          ><s v-if="example.applies">{{ till.money(example.before) }}</s></span
        >
        <b class="num">{{ till.money(example.after) }}</b>
      </li>
    </ul>
    <template v-if="conflicts.length > 0">
      <h2 class="label">Meets other offers</h2>
      <p v-for="conflict in conflicts.slice(0, 4)" :key="conflict.other.id" class="conflict">
        {{ conflictWords(conflict) }}
      </p>
      <p v-if="conflicts.length > 4" class="soft">and {{ conflicts.length - 4 }} more.</p>
    </template>
  </div>
</template>

<style scoped>
.preview {
  display: grid;
  gap: 12px;
  align-content: start;
}
.words {
  background: var(--yellow-wash);
  border-left: 6px solid var(--yellow);
  padding: 12px 14px;
  font-size: 17px;
  font-weight: 600;
}
.example {
  border: var(--group);
  background: var(--surface);
}
.example li {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  gap: 8px;
  padding: 3px 10px;
  font-size: 14.5px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.example .sum {
  grid-template-columns: 1fr auto auto;
  border-top: var(--hair);
  background: var(--paper);
}
.example.applies .sum {
  background: var(--blue-wash);
}
.conflict {
  border-left: 6px solid var(--yellow);
  padding-left: 10px;
  font-size: 14.5px;
}
</style>
