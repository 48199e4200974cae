<script setup lang="ts">
import { computed, ref, watchEffect } from 'vue';
import {
  variantKey,
  variantNumbers,
  variantsOf,
  type Axis,
  type NewVariant,
} from '../../core/goods/family.ts';
import MoneyField from '../look/MoneyField.vue';
import { useScans } from '../sale/scanner.ts';

/**
 * Variants that values make, a row each: their numbers and prices are filled in, and any can be changed or left out.
 * A code that is scanned is that of the row in which the hand is, else of the first one without.
 */
const { axes, number, price, there, wrong } = defineProps<{
  axes: readonly Axis[];
  /** The family's number, with which theirs begin. */
  number: string;
  /** What they cost where nothing else is typed. */
  price: number | null;
  /** Variants that the family has already, and values that are not made on their own. */
  there: readonly (readonly string[])[];
  wrong: Readonly<Record<string, string>>;
}>();
/** The variants that are to be made. */
const variants = defineModel<NewVariant[]>({ required: true });

/** What somebody typed, or left out, by variant: it stays when values come and go. */
interface Typed {
  number?: string;
  code?: string;
  price?: number | null;
  left?: boolean;
}
const typed = ref<Record<string, Typed>>({});
const made = computed(() => new Set(there.map(variantKey)));
const known = computed(() => axes.map((_, axis) => new Set(there.map((variant) => variant[axis]))));
const rows = computed(() => {
  const numberOf = variantNumbers(number, axes);
  return variantsOf(axes)
    .filter((variant) => !made.value.has(variantKey(variant)))
    .map((variant) => {
      const key = variantKey(variant);
      const own = typed.value[key] ?? {};
      // What was never made of values that are there was left out once.
      const left =
        own.left ?? (there.length > 0 && variant.every((value, axis) => known.value[axis]?.has(value)));
      return {
        key,
        left,
        words: variant.join(', '),
        variant,
        number: own.number ?? numberOf(variant),
        code: own.code ?? '',
        price: own.price === undefined ? price : own.price,
      };
    });
});
watchEffect(() => {
  variants.value = rows.value
    .filter(({ left }) => !left)
    .map((row) => ({ variant: row.variant, number: row.number, code: row.code, price: row.price }));
});
const put = (key: string, part: Typed) =>
  (typed.value = { ...typed.value, [key]: { ...typed.value[key], ...part } });

const wrongAt = computed(() => {
  const places = new Map(rows.value.filter(({ left }) => !left).map(({ key }, at) => [key, at]));
  return (key: string, field: keyof NewVariant): string | undefined =>
    wrong[`variants[${places.get(key)}].${field}`];
});

useScans((code) => {
  const at = document.activeElement?.closest('tr')?.dataset.variant;
  const row =
    rows.value.find(({ key }) => key === at) ?? rows.value.find((one) => !one.left && one.code === '');
  if (row) put(row.key, { code, left: false });
});
</script>

<template>
  <table v-if="rows.length > 0" class="goods-lines">
    <thead>
      <tr>
        <th>{{ axes.map(({ name }) => name).join(', ') }}</th>
        <th>Number</th>
        <th>Code</th>
        <th class="right">Price</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.key" :data-variant="row.key" :class="{ left: row.left }">
        <td>
          <v-checkbox
            :model-value="!row.left"
            :label="row.words"
            density="compact"
            hide-details
            @update:model-value="put(row.key, { left: !$event })"
          />
          <span v-if="wrongAt(row.key, 'variant')" class="bad beneath" role="alert">{{
            wrongAt(row.key, 'variant')
          }}</span>
        </td>
        <template v-if="!row.left">
          <td>
            <v-text-field
              :model-value="row.number"
              :aria-label="`Number of ${row.words}`"
              density="compact"
              maxlength="40"
              :hide-details="!wrongAt(row.key, 'number')"
              :error-messages="wrongAt(row.key, 'number')"
              @update:model-value="put(row.key, { number: $event })"
            />
          </td>
          <td>
            <v-text-field
              :model-value="row.code"
              :aria-label="`Code of ${row.words}`"
              density="compact"
              maxlength="40"
              placeholder="scan it"
              :hide-details="!wrongAt(row.key, 'code')"
              :error-messages="wrongAt(row.key, 'code')"
              @update:model-value="put(row.key, { code: $event })"
            />
          </td>
          <td class="right">
            <MoneyField
              bare
              optional
              none="asked for"
              :model-value="row.price"
              :label="`Price of ${row.words}`"
              :wrong="wrongAt(row.key, 'price')"
              @update:model-value="(amount) => put(row.key, { price: amount })"
            />
          </td>
        </template>
        <td v-else colspan="3" class="soft">is not made</td>
      </tr>
    </tbody>
  </table>
</template>
