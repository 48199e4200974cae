<script setup lang="ts">
import { onMounted, reactive, ref, watch } from 'vue';
import type { NewTenderType } from '../../contract/payment.ts';
import { CURRENCIES } from '../../core/payment/currency.ts';
import { TENDER_KINDS, tenderKind, type TenderKind } from '../../core/payment/tenderKinds.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { WHOLE } from '../../core/rate.ts';
import { useAttempt } from '../notices/attempt.ts';
import { usePaymentSetupStore } from './paymentSetupStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

const setup = usePaymentSetupStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const { wrong: settingsWrong, attempt: attemptSettings } = useAttempt();
/** The means of payment that is being changed; 0 is a new one. */
const editing = ref<number | null>(null);
const type = reactive({
  name: '',
  kind: 'voucher' as TenderKind,
  active: true,
  reference: '',
  counted: true,
  opensDrawer: true,
  foreignCurrency: '',
  rate: '',
});
const settings = reactive({
  roundUpStep: 0,
  fund: '',
  tipRates: '',
  cashRounding: 0,
  giftCardMonths: '',
  dormantMonths: '',
});

onMounted(() => setup.load().catch(() => {}));
watch(
  () => setup.facts?.settings,
  (now) => {
    if (!now) return;
    Object.assign(settings, now, {
      giftCardMonths: String(now.giftCardMonths ?? ''),
      dormantMonths: String(now.dormantMonths ?? ''),
    });
  },
  { immediate: true },
);

function edit(one: TenderType | null): void {
  editing.value = one?.id ?? 0;
  wrong.value = {};
  Object.assign(type, {
    name: one?.name ?? '',
    kind: one?.kind ?? 'voucher',
    active: one?.active ?? true,
    reference: one?.reference ?? '',
    counted: one?.counted ?? true,
    opensDrawer: one?.opensDrawer ?? true,
    foreignCurrency: one?.foreign?.currency ?? '',
    rate: one?.foreign ? String(one.foreign.rate / WHOLE) : '',
  });
}

const asSent = ({ rate, ...rest }: typeof type): NewTenderType => ({
  ...rest,
  foreignRate: rest.kind === 'foreign-cash' && Number(rate) > 0 ? Math.round(Number(rate) * WHOLE) : null,
});

async function save(): Promise<void> {
  const wanted = asSent(type);
  const work = editing.value ? setup.changeType(editing.value, wanted) : setup.addType(wanted);
  if (await attempt(work, `${type.name} is kept.`)) editing.value = null;
}

async function move(at: number, by: number): Promise<void> {
  const ids = (setup.facts?.types ?? []).map(({ id }) => id);
  const [id] = ids.splice(at, 1);
  if (id === undefined) return;
  ids.splice(Math.max(0, at + by), 0, id);
  await attempt(setup.order(ids), '');
}

const months = (text: string): number | null => (text.trim() ? Number(text) : null);

async function saveSettings(): Promise<void> {
  await attemptSettings(
    setup.saveSettings({
      ...settings,
      giftCardMonths: months(settings.giftCardMonths),
      dormantMonths: months(settings.dormantMonths),
    }),
    'The shop takes money like this from now on.',
  );
}

function wordsOf({ kind, reference, counted, opensDrawer, foreign }: TenderType): string {
  return [
    tenderKind(kind).words,
    foreign && `1 ${foreign.currency} = ${foreign.rate / WHOLE} ${till.facts?.currency.code ?? ''}`,
    reference && `asks for: ${reference}`,
    counted ? 'counted at close' : 'not counted',
    opensDrawer ? 'opens the drawer' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
</script>

<template>
  <section v-if="setup.facts" class="block" aria-labelledby="payment-title">
    <h2 id="payment-title" class="title">Means of payment</h2>
    <ol class="types">
      <li v-for="(one, at) in setup.facts.types" :key="one.id" :class="{ off: !one.active }">
        <kbd>{{ at + 1 }}</kbd>
        <span class="what"
          ><b>{{ one.name }}{{ one.active ? '' : ', switched off' }}</b
          ><span class="soft">{{ wordsOf(one) }}</span></span
        >
        <v-btn :disabled="at === 0" :aria-label="`${one.name} one up`" @click="move(at, -1)">↑</v-btn>
        <v-btn
          :disabled="at === setup.facts.types.length - 1"
          :aria-label="`${one.name} one down`"
          @click="move(at, 1)"
          >↓</v-btn
        >
        <v-btn @click="edit(one)">Change</v-btn>
      </li>
    </ol>
    <div v-if="editing === null" class="acts"><v-btn @click="edit(null)">Add a means of payment</v-btn></div>
    <form v-else class="fields" novalidate @submit.prevent="save">
      <v-text-field v-model="type.name" label="Name" :error-messages="wrong.name" />
      <v-select
        v-model="type.kind"
        label="What it is"
        :disabled="editing !== 0"
        :items="
          Object.entries(TENDER_KINDS)
            .filter(([, { onlyOnce }]) => editing !== 0 || !onlyOnce)
            .map(([value, { words }]) => ({ value, title: words }))
        "
        :error-messages="wrong.kind"
      />
      <v-text-field
        v-model="type.reference"
        label="Asks for, e.g. Cheque number (empty: nothing)"
        :error-messages="wrong.reference"
      />
      <template v-if="type.kind === 'foreign-cash'">
        <v-autocomplete
          v-model="type.foreignCurrency"
          label="Currency"
          :items="
            CURRENCIES.filter(({ code }) => code !== till.facts?.currency.code).map(({ code, name }) => ({
              value: code,
              title: `${code} ${name}`,
            }))
          "
          :error-messages="wrong.foreignCurrency"
        />
        <v-text-field
          v-model="type.rate"
          label="One of it is worth"
          inputmode="decimal"
          :error-messages="wrong.foreignRate"
        />
      </template>
      <div class="checks">
        <v-checkbox v-model="type.active" label="Taken" hide-details />
        <v-checkbox v-model="type.counted" label="Counted at close" hide-details />
        <v-checkbox v-model="type.opensDrawer" label="Opens the drawer" hide-details />
        <p v-if="wrong.active" class="bad">{{ wrong.active }}</p>
      </div>
      <div class="acts">
        <v-btn @click="editing = null">Cancel</v-btn>
        <v-btn class="go" type="submit">Keep it</v-btn>
      </div>
    </form>
    <form class="fields parted" novalidate @submit.prevent="saveSettings">
      <v-select
        v-model="settings.roundUpStep"
        label="Round up for a fund"
        :items="[
          { value: 0, title: 'No' },
          { value: 100, title: 'To the next 1' },
          { value: 500, title: 'To the next 5' },
          { value: 1000, title: 'To the next 10' },
        ]"
        :error-messages="settingsWrong.roundUpStep"
      />
      <v-text-field v-model="settings.fund" label="For whom" :error-messages="settingsWrong.fund" />
      <v-text-field
        v-model="settings.tipRates"
        label="Tips on the terminal, per cent (10, 15, 20; empty: none)"
        :error-messages="settingsWrong.tipRates"
      />
      <v-select
        v-model="settings.cashRounding"
        label="Cash is rounded to"
        :items="[
          { value: 0, title: 'nothing: all coins are in use' },
          { value: 5, title: '0.05' },
          { value: 10, title: '0.10' },
          { value: 50, title: '0.50' },
          { value: 100, title: '1.00' },
        ]"
        :error-messages="settingsWrong.cashRounding"
      />
      <v-text-field
        v-model="settings.giftCardMonths"
        label="New gift cards expire after so many months (empty: never)"
        inputmode="numeric"
        :error-messages="settingsWrong.giftCardMonths"
      />
      <v-text-field
        v-model="settings.dormantMonths"
        label="Dormant after so many months without use (empty: never)"
        inputmode="numeric"
        :error-messages="settingsWrong.dormantMonths"
      />
      <div class="acts"><v-btn class="go" type="submit">Keep the changes</v-btn></div>
    </form>
  </section>
</template>

<style scoped>
.types {
  list-style: none;
  padding: 0;
  margin: 0;
}
.types li {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 0;
  border-bottom: var(--hair);
}
.what {
  flex: 1;
  display: grid;
}
.off b {
  color: var(--soft);
}
.parted {
  border-top: var(--group);
  padding-top: 14px;
}
.checks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
</style>
