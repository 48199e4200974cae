<script setup lang="ts">
import type { TillPrinter } from '../../contract/printer.ts';
import { CODE_PAGES, PRINTER_COLUMNS } from '../../core/journal/printerSetup.ts';
import TypedBefore from '../look/TypedBefore.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useSettingsForm } from './settingsForm.ts';
import { useSetupStore } from './setupStore.ts';

const { till } = defineProps<{ till: TillPrinter }>();

const KINDS = [
  { value: 'stand-in', title: 'On the screen (stand-in)' },
  { value: 'network', title: 'On the network' },
];
const WIDTHS = PRINTER_COLUMNS.map((columns) => ({
  value: columns,
  title: `${columns} columns${columns === 32 ? ' (58 mm)' : ''}`,
}));
const PAGES = Object.entries(CODE_PAGES).map(([value, title]) => ({ value, title }));

const setup = useSetupStore();
const { attempt } = useAttempt();
const { form, wrong, remembered, keep } = useSettingsForm(
  `Printer of till ${till.number}`,
  () => setup.printers.find(({ tillId }) => tillId === till.tillId),
  ({ setup: printer }) => ({ ...printer }),
);

async function save(words = `The printer of till ${till.number} is set.`): Promise<boolean> {
  const wanted = { ...form, port: Number(form.port) };
  return keep((seen) => setup.choosePrinter(till.tillId, wanted, seen), words);
}

async function test(): Promise<void> {
  if (!(await save(''))) return;
  await attempt(
    setup.testPrinter(till.tillId),
    `A test page is on its way to the printer of till ${till.number}.`,
  );
}
</script>

<template>
  <form class="printer-form" novalidate @submit.prevent="save()">
    <TypedBefore :of="remembered" />
    <div class="fields">
      <v-select v-model="form.kind" :items="KINDS" label="Where receipts come out" />
      <div v-if="form.kind === 'network'" class="address">
        <v-text-field
          v-model="form.host"
          label="Address of the printer"
          placeholder="192.168.1.50"
          :error-messages="wrong.host"
        />
        <v-text-field v-model="form.port" label="Port" inputmode="numeric" :error-messages="wrong.port" />
      </div>
      <v-select v-model="form.columns" :items="WIDTHS" label="Width" :error-messages="wrong.columns" />
      <v-select
        v-model="form.codePage"
        :items="PAGES"
        label="Letters (code page)"
        :error-messages="wrong.codePage"
      />
      <v-checkbox v-model="form.cutter" label="It cuts the paper" hide-details />
      <v-checkbox v-model="form.pulse" label="The cash drawer hangs on it" hide-details />
      <v-checkbox
        v-if="form.kind === 'network'"
        v-model="form.answers"
        label="It says how it is (paper, cover)"
        hide-details
      />
    </div>
    <p v-if="form.kind === 'network' && !form.answers" class="soft">
      A printer that says nothing back is trusted: what it was sent counts as printed.
    </p>
    <div class="acts">
      <v-btn @click="test">Keep and print a test page</v-btn>
      <v-btn class="go" type="submit">Keep the printer</v-btn>
    </div>
  </form>
</template>

<style scoped>
.printer-form {
  display: grid;
  gap: 14px;
}
.address {
  display: grid;
  grid-template-columns: 1fr 110px;
  gap: 10px;
}
</style>
