<script setup lang="ts">
import { reactive } from 'vue';
import FileField from '../look/FileField.vue';
import FormPanel from '../look/FormPanel.vue';
import { useAttempt } from '../notices/attempt.ts';
import { useGiftCardsStore } from './giftCardsStore.ts';

/** A list of certificates that were given out on paper before. */
const emit = defineEmits<{ leave: [] }>();

const values = useGiftCardsStore();
const { wrong, attempt } = useAttempt();
const list = reactive({ csv: '' });

async function readFile([file]: File[]): Promise<void> {
  if (file) list.csv = await file.text();
}

async function importAll(): Promise<void> {
  if (await attempt(values.importCsv(list.csv), 'The certificates can be used.')) emit('leave');
}
</script>

<template>
  <FormPanel
    title="Import certificates"
    done="Import all"
    remembers="certificates"
    :fields="list"
    @accept="importAll"
    @leave="emit('leave')"
  >
    <p>One on each line: number, amount, and if there is one the last day and “once”.</p>
    <FileField label="Choose a file, or drop it here" accept=".csv,text/csv,text/plain" @chosen="readFile" />
    <v-textarea
      v-model="list.csv"
      label="Lines"
      rows="8"
      :error-messages="wrong.csv"
      placeholder="OLM-0301,25.00,2027-12-31,once"
    />
  </FormPanel>
</template>
