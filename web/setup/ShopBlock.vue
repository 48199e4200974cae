<script setup lang="ts">
import { computed } from 'vue';
import type { SetupFacts, ShopSettings } from '../../contract/setup.ts';
import { plainMoney, parseMoney } from '../../core/money.ts';
import { LOCALE_CHOICES } from './localeChoices.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const TIMEZONES = Intl.supportedValuesOf('timeZone');

const setup = useSetupStore();
const till = useTillStore();
const plain = (amount: number) => plainMoney(amount, till.digits);
const linesOf = (text: string) => text.split('\n').filter((line) => line.trim());
const {
  form: shop,
  wrong,
  remembered,
  keep,
} = useSettingsForm(
  'Shop',
  () => setup.facts,
  ({ shop: now }) => ({
    name: now.name,
    timezone: now.timezone,
    locale: now.locale,
    dayEnds: String(now.dayEnds),
    summaryMail: now.summaryMail,
    taxRounding: now.taxRounding,
    openingFloat: plain(now.openingFloat),
    openPriceLimit: plain(now.openPriceLimit),
    lockMinutes: String(now.lockMinutes),
    codeLayouts: now.codeLayouts.join('\n'),
  }),
);
const layoutWrong = computed(
  () => Object.entries(wrong.value).find(([field]) => field.startsWith('codeLayouts'))?.[1],
);

async function saveShop(): Promise<void> {
  const openingFloat = parseMoney(shop.openingFloat, till.digits);
  const openPriceLimit = parseMoney(shop.openPriceLimit, till.digits);
  if (openingFloat === null || openPriceLimit === null) {
    const message = `Type an amount, for example ${till.example(200)}.`;
    wrong.value = {
      ...(openingFloat === null ? { openingFloat: message } : {}),
      ...(openPriceLimit === null ? { openPriceLimit: message } : {}),
    };
    return;
  }
  const next: ShopSettings = {
    ...facts.shop,
    name: shop.name,
    timezone: shop.timezone,
    locale: shop.locale,
    dayEnds: Number(shop.dayEnds),
    summaryMail: shop.summaryMail,
    openingFloat,
    openPriceLimit,
    lockMinutes: Number(shop.lockMinutes),
    taxRounding: shop.taxRounding,
    codeLayouts: linesOf(shop.codeLayouts).map((layout) => layout.trim().toUpperCase()),
  };
  await keep((seen) => setup.saveShop(next, seen), 'The shop is changed.');
}
</script>

<template>
  <form class="block" novalidate aria-labelledby="shop-title" @submit.prevent="saveShop">
    <h2 id="shop-title" class="title">Shop</h2>
    <TypedBefore :of="remembered" />
    <div class="fields">
      <v-text-field v-model="shop.name" label="Name" :error-messages="wrong.name" />
      <v-text-field
        v-model="shop.openingFloat"
        label="Usual float"
        inputmode="decimal"
        :error-messages="wrong.openingFloat"
      />
      <v-text-field
        v-model="shop.openPriceLimit"
        label="Open prices up to, without approval"
        inputmode="decimal"
        :error-messages="wrong.openPriceLimit"
      />
      <v-text-field
        v-model="shop.lockMinutes"
        label="Lock a till after so many minutes (0: never)"
        inputmode="numeric"
        :error-messages="wrong.lockMinutes"
      />
      <v-autocomplete
        v-model="shop.timezone"
        :items="TIMEZONES"
        label="Time zone"
        :error-messages="wrong.timezone"
      />
      <v-autocomplete
        v-model="shop.locale"
        :items="LOCALE_CHOICES"
        label="Amounts, dates and times are written"
        :error-messages="wrong.locale"
      />
      <v-text-field
        v-model="shop.dayEnds"
        label="The day ends so many hours after midnight"
        hint="Sales before then belong to the day before."
        inputmode="numeric"
        :error-messages="wrong.dayEnds"
      />
      <v-text-field
        v-model="shop.summaryMail"
        label="Mail about the day, after the last drawer is closed"
        inputmode="email"
        :error-messages="wrong.summaryMail"
      />
      <v-select
        v-model="shop.taxRounding"
        :items="[
          { value: 'sale', title: 'once for each rate of a sale' },
          { value: 'line', title: 'on every line' },
        ]"
        label="Tax is rounded"
        :error-messages="wrong.taxRounding"
      />
      <v-textarea
        v-model="shop.codeLayouts"
        label="Codes with a price or weight inside, one layout each"
        hint="13 letters: two digits from 20 to 29, I for the item, P price or W weight, C check digit: 28IIIIIPPPPPC"
        persistent-hint
        rows="2"
        auto-grow
        :error-messages="layoutWrong"
      />
    </div>
    <div class="acts"><v-btn class="go" type="submit">Keep the changes</v-btn></div>
  </form>
</template>
