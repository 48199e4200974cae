<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue';
import type { OfferGoods } from '../../core/offers/offer.ts';
import { fold } from '../../core/words.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useOffersStore } from './offersStore.ts';

/** Chooses goods: whole categories and single items, found by a few letters. */
const goods = defineModel<OfferGoods>({ required: true });
defineProps<{ label: string; wrong?: string | undefined }>();

const offers = useOffersStore();
const search = ref('');
const found = shallowRef<{ value: string; title: string }[]>([]);

const ofCategory = (name: string) => ({ value: `category ${name}`, title: `All ${name}` });
const ofItem = (id: number) => ({ value: `item ${id}`, title: offers.names.item(id) });

const chosen = computed(() => [
  ...goods.value.categories.map(ofCategory),
  ...goods.value.itemIds.map(ofItem),
]);
const choices = computed(() => {
  const known = new Map([...chosen.value, ...found.value].map((one) => [one.value, one]));
  return [...known.values()];
});

watch(
  search,
  async (text) => {
    const words = fold(text.trim());
    const categories = (await catalogue.categories()).filter((name) => fold(name).includes(words));
    const items = words ? await catalogue.search(words, 12) : [];
    await offers.learn(items.map(({ id }) => id));
    found.value = [...categories.map(ofCategory), ...items.map(({ id }) => ofItem(id))];
  },
  { immediate: true },
);

function choose(values: readonly string[]): void {
  const of = (kind: string) =>
    values.filter((value) => value.startsWith(`${kind} `)).map((value) => value.slice(kind.length + 1));
  goods.value = { categories: of('category'), itemIds: of('item').map(Number) };
}
</script>

<template>
  <v-autocomplete
    v-model:search="search"
    :model-value="chosen.map(({ value }) => value)"
    :items="choices"
    :label="label"
    :error-messages="wrong"
    placeholder="Anything"
    persistent-placeholder
    multiple
    chips
    closable-chips
    clear-on-select
    no-filter
    no-data-text="Nothing has this name."
    @update:model-value="choose"
  />
</template>
