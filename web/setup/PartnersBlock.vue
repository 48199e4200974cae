<script setup lang="ts">
import { formatMonth } from '../../core/locale.ts';
import { computed, onUnmounted, ref } from 'vue';
import type { PartnerMonth } from '../../contract/relay.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import BigChoice from '../look/BigChoice.vue';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useLook } from '../notices/look.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import PartnerForm from './PartnerForm.vue';
import { useSetupStore } from './setupStore.ts';

/** To whom orders are passed on, and what is owed to them. */
const { facts } = defineProps<{ facts: SetupFacts }>();
const setup = useSetupStore();
const till = useTillStore();
const { attempt } = useAttempt();
/** The one that is looked at; 0 is a new one. */
const chosen = ref(facts.partners[0]?.id ?? 0);
/** What is owed, once it is known. */
const [months, showMonths] = shown<PartnerMonth[] | null>(null);

const load = useLook(() => showMonths(setup.partnerMonths()));
void load();
onUnmounted(lookAgain(['relays-changed'], load));

async function settle({ partnerId, month, partner }: PartnerMonth): Promise<void> {
  if (
    await attempt(
      setup.settlePartner({ partnerId, month }),
      `${partner} is settled for ${formatMonth(month)}.`,
    )
  )
    await load();
}
const countWords = ({ delivered, passed }: PartnerMonth): string =>
  [delivered > 0 ? `${delivered} delivered` : '', passed > 0 ? `${passed} passed to us` : '']
    .filter(Boolean)
    .join(', ');
const csvOf = (month: string): string => `/api/setup/partners/months/${month}.csv`;
const options = computed(() => [
  ...facts.partners.map(({ id, name, code, city, active }) => ({
    value: id,
    title: name,
    words: active ? [code, city].filter(Boolean).join(', ') : 'is not asked',
  })),
  { value: 0, title: 'A new partner', words: 'near whoever gets the goods' },
]);
</script>

<template>
  <section class="partners" aria-labelledby="partners-title">
    <h2 id="partners-title" class="title">Partners</h2>
    <BigChoice v-model="chosen" label="Partners" :options />
    <!-- What is typed and not kept yet stays while another one is looked at. -->
    <PartnerForm v-for="one in facts.partners" v-show="one.id === chosen" :key="one.id" :partner="one" />
    <PartnerForm v-show="chosen === 0" :partner="null" />
    <table v-if="months && months.length > 0">
      <caption class="label">
        What is owed, by month
      </caption>
      <tbody>
        <tr v-for="one in months" :key="`${one.partnerId} ${one.month} ${one.settledAt}`">
          <td>{{ formatMonth(one.month) }}</td>
          <td>
            {{ one.partner }}
            <span class="soft">{{ countWords(one) }}</span>
          </td>
          <td class="right">
            <span class="soft">{{ one.amount < 0 ? 'they owe' : 'we owe' }}</span>
            <span class="num"> {{ till.money(Math.abs(one.amount)) }}</span>
          </td>
          <td><a :href="csvOf(one.month)" download>CSV</a></td>
          <td class="right">
            <v-btn v-if="one.settledAt === null" @click="settle(one)">It was paid</v-btn>
            <span v-else class="soft">paid {{ till.time(one.settledAt, 'full') }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="months" class="soft">
      Nothing is owed: no partner has delivered or passed on anything yet.
    </p>
  </section>
</template>

<style scoped>
.partners {
  display: grid;
  gap: 14px;
}
</style>
