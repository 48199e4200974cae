<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { StatementsJob } from '../../contract/accounts.ts';
import { counted, formatCount } from '../../core/locale.ts';
import { PERIODS } from '../../core/figures/period.ts';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import ProgressBar from '../look/ProgressBar.vue';
import { formWords } from '../net/problem.ts';
import { useJob } from '../notices/job.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useAccountStore } from './accountStore.ts';

/** Statements of all who owe, as one file to print. */
const emit = defineEmits<{ leave: [] }>();

const store = useAccountStore();
const till = useTillStore();
const days = reactive(PERIODS['last-month'].of(till.today()));
const { job, follow } = useJob(
  ({ id }: StatementsJob) => store.lookAtStatements(id),
  ({ state }) => state === 'making',
);
const refused = ref('');
const wrong = computed(() => refused.value || (job.value?.words ?? ''));

async function make(): Promise<void> {
  refused.value = '';
  try {
    await follow(await store.makeStatements({ ...days }));
  } catch (error) {
    refused.value = formWords(error);
  }
}
</script>

<template>
  <FormPanel
    title="Statements of all who owe"
    :done="job?.state === 'done' ? '' : 'Make them'"
    :busy="job?.state === 'making'"
    :wrong
    leave="Close"
    @accept="make"
    @leave="emit('leave')"
  >
    <DateField v-model="days.from" label="From" />
    <DateField v-model="days.to" label="Until" />
    <div v-if="job" role="status">
      <ProgressBar v-if="job.state === 'making'" :done="job.progress" :of="1" label="Making statements">
        Making {{ job.count > 0 ? formatCount(job.count) : 'them' }} …
      </ProgressBar>
      <v-btn v-else-if="job.state === 'done'" class="go" :href="`/api/accounts/statements/${job.id}/all.pdf`"
        >{{ counted(job.count, 'statement') }}, PDF</v-btn
      >
    </div>
  </FormPanel>
</template>
