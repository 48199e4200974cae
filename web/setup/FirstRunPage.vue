<script setup lang="ts">
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import KeyHint from '../keys/KeyHint.vue';
import { ValidationError } from '../../contract/yup.ts';
import { firstRunSchema } from '../../contract/setup.ts';
import { nearestLocale } from '../../core/locale.ts';
import { CURRENCIES } from '../../core/payment/currency.ts';
import { parseRate } from '../../core/rate.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { LOCALE_CHOICES } from './localeChoices.ts';
import { useSetupStore } from './setupStore.ts';
import { useRemembered } from '../look/remembered.ts';
import TypedBefore from '../look/TypedBefore.vue';
import WaitButton from '../look/WaitButton.vue';

const setup = useSetupStore();
const router = useRouter();
const busy = ref(false);
const problem = ref('');
const wrong = ref<Record<string, string>>({});
const form = reactive({
  shopName: '',
  placeName: '',
  currency: 'USD',
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  locale: nearestLocale(navigator.languages),
  taxMode: 'on-top' as 'on-top' | 'inside',
  taxes: [{ name: 'General', rate: '' }],
  managerName: '',
  managerPin: '',
});
const remembered = useRemembered('first run', () => 'A new shop', form, ['managerPin']);
const currencies = CURRENCIES.map(({ code, name }) => ({ value: code, title: `${code} · ${name}` }));
const timezones = Intl.supportedValuesOf('timeZone');
const modes = [
  { value: 'on-top', title: 'Tax is added on top of prices' },
  { value: 'inside', title: 'Prices contain tax' },
];

async function setUp(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  problem.value = '';
  wrong.value = {};
  try {
    const taxes = form.taxes.map(({ name, rate }) => ({ name, rate: parseRate(rate) ?? undefined }));
    const entry = await firstRunSchema.validate({ ...form, taxes }, { abortEarly: false });
    await remembered.send(() => setup.setUpShop(entry));
    await router.push('/sign-in');
  } catch (error) {
    const fields =
      error instanceof ValidationError
        ? error.inner.map(({ path = '', message }) => ({ field: path, message }))
        : error instanceof ApiProblem
          ? (error.details.fields ?? [])
          : [];
    wrong.value = Object.fromEntries(fields.map(({ field, message }) => [field, message]));
    problem.value = fields.length > 0 ? 'Some fields need a look.' : problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="first">
    <form class="sheet-of-fields" novalidate @submit.prevent="setUp">
      <header>
        <img src="/mark.svg" alt="" width="56" height="56" />
        <div>
          <h1>A new shop</h1>
          <p class="soft">
            Seven answers, then the first person can sign in. All of it can be changed later.
          </p>
        </div>
      </header>
      <TypedBefore :of="remembered" />
      <fieldset>
        <legend>The shop</legend>
        <v-text-field
          v-model="form.shopName"
          label="Name of the shop"
          autofocus
          :error-messages="wrong.shopName"
        />
        <v-text-field
          v-model="form.placeName"
          label="Name of the place (street or quarter)"
          :error-messages="wrong.placeName"
        />
        <v-autocomplete
          v-model="form.currency"
          :items="currencies"
          label="Currency"
          :error-messages="wrong.currency"
        />
        <v-autocomplete
          v-model="form.timezone"
          :items="timezones"
          label="Time zone"
          :error-messages="wrong.timezone"
        />
        <v-autocomplete
          v-model="form.locale"
          :items="LOCALE_CHOICES"
          label="Amounts, dates and times are written"
          class="wide"
          :error-messages="wrong.locale"
        />
      </fieldset>
      <fieldset>
        <legend>Tax</legend>
        <v-select
          v-model="form.taxMode"
          :items="modes"
          label="Prices and tax"
          class="wide"
          :error-messages="wrong.taxMode"
        />
        <template v-for="(tax, at) in form.taxes" :key="at">
          <v-text-field
            v-model="tax.name"
            label="Tax category"
            :error-messages="wrong[`taxes[${at}].name`]"
          />
          <div class="rate">
            <v-text-field
              v-model="tax.rate"
              label="Rate in per cent"
              inputmode="decimal"
              suffix="%"
              :error-messages="wrong[`taxes[${at}].rate`]"
            />
            <v-btn v-if="form.taxes.length > 1" class="stop" @click="form.taxes.splice(at, 1)">Remove</v-btn>
          </div>
        </template>
        <p v-if="wrong.taxes" class="bad wide" role="alert">{{ wrong.taxes }}</p>
        <v-btn class="wide add" @click="form.taxes.push({ name: '', rate: '' })">Another tax category</v-btn>
      </fieldset>
      <fieldset>
        <legend>The first manager</legend>
        <v-text-field v-model="form.managerName" label="Name" :error-messages="wrong.managerName" />
        <v-text-field
          v-model="form.managerPin"
          label="PIN, 4 to 8 digits"
          type="password"
          inputmode="numeric"
          autocomplete="new-password"
          :error-messages="wrong.managerPin"
        />
      </fieldset>
      <footer class="acts">
        <p class="bad" role="alert">{{ problem }}</p>
        <WaitButton type="submit" class="go" height="60" :loading="busy"
          >Set up the shop <KeyHint of="form.accept"
        /></WaitButton>
      </footer>
    </form>
  </main>
</template>

<style scoped>
.first {
  height: 100dvh;
  overflow-y: auto;
  background: var(--paper);
}
.sheet-of-fields {
  max-width: 860px;
  margin: 0 auto;
  min-height: 100%;
  background: var(--surface);
  border-inline: var(--rule);
  padding: 28px 36px;
  display: grid;
  gap: 18px;
  align-content: start;
}
header {
  display: flex;
  gap: 18px;
  align-items: center;
}
h1 {
  font-size: 36px;
  font-weight: 750;
}
fieldset {
  border: 0;
  border-top: var(--group);
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 18px;
  padding-top: 12px;
}
legend {
  font-weight: 700;
  padding-right: 12px;
}
.wide {
  grid-column: 1 / -1;
}
.add {
  justify-self: start;
}
.rate {
  display: flex;
  gap: 10px;
}
</style>
