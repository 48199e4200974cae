<script setup lang="ts">
import { useTemplateRef } from 'vue';
import type { WantedItem } from '../../contract/goods.ts';
import { MOST_ITEM_TAGS } from '../../core/goods/itemRecord.ts';
import CountField from '../look/CountField.vue';
import MoneyField from '../look/MoneyField.vue';
import { useTillStore } from '../shop/tillStore.ts';

/** What an item is, as it is typed. The rest of it lies behind a button, so that a new one is quickly in. */
const { wrong, more } = defineProps<{
  wrong: Readonly<Record<string, string>>;
  /** Whether everything is in sight. */
  more: boolean;
  /** Of a family or a bundle there is no price and no stock. */
  plain: boolean;
  categories: readonly string[];
  units: readonly string[];
  tags: readonly string[];
  groups: readonly string[];
}>();
const item = defineModel<WantedItem>({ required: true });

const till = useTillStore();
const nameField = useTemplateRef<{ $el: HTMLElement }>('nameField');
defineExpose({ focusName: () => nameField.value?.$el.querySelector('input')?.focus() });

const taxes = () => (till.facts?.taxCategories ?? []).map(({ id, name }) => ({ value: id, title: name }));
const groupPrice = (group: string) =>
  item.value.groupPrices.find((one) => one.group === group)?.price ?? null;
function setGroupPrice(group: string, price: number | null): void {
  const others = item.value.groupPrices.filter((one) => one.group !== group);
  item.value.groupPrices = price === null ? others : [...others, { group, price }];
}
</script>

<template>
  <v-text-field
    ref="nameField"
    v-model="item.name"
    label="Name"
    maxlength="120"
    :error-messages="wrong.name"
  />
  <MoneyField
    v-if="plain"
    v-model="item.price"
    label="Price"
    optional
    none="asked for at the Counter"
    :wrong="wrong.price"
  />
  <div class="side-by-side">
    <v-combobox
      v-model="item.category"
      label="Category"
      :items="[...categories]"
      maxlength="60"
      :error-messages="wrong.category"
    />
    <v-select
      v-model="item.taxCategoryId"
      label="Tax"
      :items="taxes()"
      :error-messages="wrong.taxCategoryId"
    />
  </div>
  <template v-if="more">
    <v-combobox
      v-model="item.codes"
      label="Codes: scan them"
      multiple
      chips
      closable-chips
      :maxlength="40"
      :error-messages="wrong.codes"
    />
    <div class="side-by-side">
      <v-text-field v-model="item.number" label="Number" maxlength="40" :error-messages="wrong.number" />
      <MoneyField v-model="item.cost" label="Costs the shop" optional :wrong="wrong.cost" />
    </div>
    <v-combobox
      v-model="item.tags"
      label="Tags"
      :items="[...tags]"
      multiple
      chips
      closable-chips
      :maxlength="40"
      :error-messages="
        wrong.tags ?? (item.tags.length > MOST_ITEM_TAGS ? `At most ${MOST_ITEM_TAGS} tags.` : '')
      "
    />
    <v-textarea
      v-model="item.description"
      label="Description"
      rows="2"
      auto-grow
      maxlength="1000"
      :error-messages="wrong.description"
    />
    <template v-if="plain">
      <div class="side-by-side">
        <v-combobox
          v-model="item.unit"
          label="One unit is called"
          :items="[...units]"
          maxlength="12"
          :error-messages="wrong.unit"
        />
        <CountField v-model="item.decimals" label="Decimals of a quantity" :wrong="wrong.decimals" />
      </div>
      <v-checkbox
        v-model="item.stocked"
        label="Kept in stock"
        density="compact"
        :error-messages="wrong.stocked"
      />
      <v-checkbox
        v-model="item.serials"
        label="Each unit has a serial number"
        density="compact"
        :error-messages="wrong.serials"
      />
      <div class="side-by-side">
        <CountField v-model="item.minAge" label="Sold from years on" optional :wrong="wrong.minAge" />
        <CountField v-model="item.weight" label="Weighs grams" optional :wrong="wrong.weight" />
      </div>
      <v-text-field
        v-model="item.asksNote"
        label="Question to the customer, kept as a note"
        maxlength="120"
        :error-messages="wrong.asksNote"
      />
      <fieldset v-if="groups.length > 0">
        <legend class="label">Prices for groups</legend>
        <MoneyField
          v-for="group in groups"
          :key="group"
          :model-value="groupPrice(group)"
          :label="group"
          optional
          none="as everybody"
          :wrong="wrong.groupPrices"
          @update:model-value="(price: number | null) => setGroupPrice(group, price)"
        />
      </fieldset>
    </template>
    <v-checkbox v-model="item.active" label="Sold" density="compact" hide-details />
  </template>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
</style>
