<script setup lang="ts">
import ChipChoice from '../look/ChipChoice.vue';
import DateField from '../look/DateField.vue';
import { BOOK_VIEWS, type BookView } from './booksStore.ts';

/** What is looked at of the books, of which days, and what takes it elsewhere. */
defineProps<{ days: string }>();
const view = defineModel<BookView>('view', { required: true });
const from = defineModel<string>('from', { required: true });
const to = defineModel<string>('to', { required: true });
const day = defineModel<string>('day', { required: true });
</script>

<template>
  <div class="bar">
    <ChipChoice v-model="view" label="What is shown of the books" :options="BOOK_VIEWS" />
    <DateField v-if="view === 'day'" v-model="day" label="Day" />
    <template v-else>
      <DateField v-model="from" label="From" />
      <DateField v-model="to" label="Until" />
    </template>
    <div class="acts">
      <v-btn :href="`/api/books/books.csv?${days}`">CSV</v-btn>
      <v-btn :href="`/api/books/books.journal?${days}`">Accounting journal</v-btn>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.bar > .v-input {
  flex: 0 1 180px;
}
.acts {
  margin-left: auto;
}
</style>
