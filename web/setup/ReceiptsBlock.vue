<script setup lang="ts">
import { computed } from 'vue';
import type { SetupFacts } from '../../contract/setup.ts';
import { receipt, RECEIPT_TERMS } from '../../core/journal/receipt.ts';
import PaperView from '../journal/PaperView.vue';
import FileField from '../look/FileField.vue';
import { LOCALE_CHOICES } from './localeChoices.ts';
import { logoFrom } from './logo.ts';
import { sampleReceipt } from './sampleReceipt.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

const { facts } = defineProps<{ facts: SetupFacts }>();

const setup = useSetupStore();
const till = useTillStore();
const linesOf = (text: string) => text.split('\n').filter((line) => line.trim());
const {
  form: words,
  wrong,
  remembered,
  keep,
} = useSettingsForm(
  'Receipts',
  () => setup.facts,
  ({ shop: now }) => ({
    receiptWords: now.receiptWords.join('\n'),
    receiptThanks: now.receiptThanks,
    receiptLogo: now.receiptLogo,
    receiptLocale: now.receiptLocale,
    mailFrom: now.mailFrom,
    receiptTerms: { ...now.receiptTerms },
  }),
);

/** The receipt as it will be, while it is being written. */
const preview = computed(() =>
  receipt(
    sampleReceipt({
      name: facts.shop.name,
      words: linesOf(words.receiptWords),
      thanks: words.receiptThanks,
      logo: words.receiptLogo,
      terms: words.receiptTerms,
      locale: words.receiptLocale,
      currency: till.facts?.currency.code ?? '',
      digits: till.digits,
    }),
  ),
);

async function readLogo([file]: File[]): Promise<void> {
  if (!file) return;
  const logo = await logoFrom(file);
  if (logo) words.receiptLogo = logo;
  else wrong.value = { receiptLogo: 'This file is no picture.' };
}

async function save(): Promise<void> {
  const next = { ...facts.shop, ...words, receiptWords: linesOf(words.receiptWords) };
  await keep((seen) => setup.saveShop(next, seen), 'Receipts look like this from now on.');
}
</script>

<template>
  <form class="block" novalidate aria-labelledby="receipts-title" @submit.prevent="save">
    <h2 id="receipts-title" class="title">Receipts</h2>
    <TypedBefore :of="remembered" />
    <div class="pair">
      <div class="words">
        <v-textarea
          v-model="words.receiptWords"
          label="At the top of receipts, one line each"
          rows="2"
          auto-grow
          :error-messages="wrong.receiptWords"
        />
        <v-text-field
          v-model="words.receiptThanks"
          label="At the end of receipts"
          :error-messages="wrong.receiptThanks"
        />
        <div class="logo">
          <FileField label="Logo" accept="image/*" in-line @chosen="readLogo" />
          <v-btn v-if="words.receiptLogo" @click="words.receiptLogo = ''">Without logo</v-btn>
        </div>
        <p v-if="wrong.receiptLogo" class="bad" role="alert">{{ wrong.receiptLogo }}</p>
        <v-autocomplete
          v-model="words.receiptLocale"
          label="Amounts are written"
          :items="LOCALE_CHOICES"
          :error-messages="wrong.receiptLocale"
        />
        <v-text-field
          v-model="words.mailFrom"
          :hint="words.mailFrom ? '' : 'Without an address no mail goes out.'"
          persistent-hint
          label="Mail comes from"
          type="email"
          :error-messages="wrong.mailFrom"
        />
        <div class="side-by-side">
          <v-text-field
            v-for="(usual, term) in RECEIPT_TERMS"
            :key="term"
            v-model="words.receiptTerms[term]"
            :label="usual"
            :placeholder="usual"
            :error-messages="wrong[`receiptTerms.${term}`]"
          />
        </div>
        <div class="acts"><v-btn class="go" type="submit">Keep the receipts</v-btn></div>
      </div>
      <div class="sight" aria-label="Preview"><PaperView :paper="preview" /></div>
    </div>
  </form>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 24px;
}
.words {
  display: grid;
  gap: 12px;
  align-content: start;
}
.logo {
  display: flex;
  align-items: center;
  gap: 12px;
}
@media (max-width: 1100px) {
  .pair {
    grid-template-columns: 1fr;
  }
}
</style>
