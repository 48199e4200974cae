<script setup lang="ts">
import { computed } from 'vue';
import type { BalanceRow, TrialBalance } from '../../contract/books.ts';
import type { AccountClass } from '../../core/books/accounts.ts';
import WordButton from '../look/WordButton.vue';
import { useTillStore } from '../shop/tillStore.ts';

/** Every account with what moved in it and where it stands; debits and credits come to the same. */
const { balance } = defineProps<{ balance: TrialBalance }>();
const emit = defineEmits<{ open: [row: BalanceRow] }>();

const CLASSES: Record<AccountClass, string> = {
  assets: 'What the shop has',
  liabilities: 'What it owes',
  equity: 'From before these books',
  income: 'What it earns',
  expenses: 'What it spends',
};
const till = useTillStore();
const classes = computed(() =>
  (Object.keys(CLASSES) as AccountClass[])
    .map((one) => ({ name: CLASSES[one], rows: balance.rows.filter((row) => row.class === one) }))
    .filter(({ rows }) => rows.length > 0),
);
</script>

<template>
  <table>
    <thead>
      <tr>
        <th scope="col">Account</th>
        <th scope="col" class="right">Debit</th>
        <th scope="col" class="right">Credit</th>
        <th scope="col" class="right">Balance</th>
      </tr>
    </thead>
    <tbody v-for="{ name, rows } in classes" :key="name">
      <tr>
        <th colspan="4" scope="colgroup" class="label">{{ name }}</th>
      </tr>
      <tr v-for="row in rows" :key="row.account + row.subject">
        <td>
          <WordButton @click="emit('open', row)">{{ row.words }}</WordButton>
        </td>
        <td class="num right">{{ row.debit === 0 ? '' : till.money(row.debit) }}</td>
        <td class="num right">{{ row.credit === 0 ? '' : till.money(row.credit) }}</td>
        <td class="num right strong">{{ till.money(row.balance) }}</td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th scope="row">Together</th>
        <td class="num right" data-test="debit">{{ till.money(balance.debit) }}</td>
        <td class="num right" data-test="credit">{{ till.money(balance.credit) }}</td>
        <td></td>
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
tbody .label {
  padding-top: 16px;
  border-bottom: var(--group);
}
tbody td {
  padding-block: 0;
}
tfoot th,
tfoot td {
  border-top: var(--rule);
  font-weight: 700;
}
.strong {
  font-weight: 700;
}
td .word {
  text-align: left;
}
</style>
