<script setup lang="ts">
import { nextTick, reactive, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import type { FoundCustomer, LikelySame, NewCustomer } from '../../contract/people.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useScans } from '../sale/scanner.ts';
import { typedDay } from './birthdayWords.ts';
import MoreFields from './MoreFields.vue';
import PersonFields from './PersonFields.vue';
import { useRemembered } from '../look/remembered.ts';
import TypedBefore from '../look/TypedBefore.vue';
import WordButton from '../look/WordButton.vue';
import WaitButton from '../look/WaitButton.vue';

const { typed, make } = defineProps<{
  /** What was searched before: it is most likely the name or the phone. */
  typed: string;
  /** Makes them known. @throws ApiProblem `customer-known` with who they may be */
  make: (customer: NewCustomer) => Promise<unknown>;
  back: string;
}>();
const emit = defineEmits<{ back: []; use: [customer: FoundCustomer] }>();

const form = useTemplateRef('form');
const isPhone = /^[\d\s()+./-]+$/.test(typed.trim());
const fields = reactive({
  name: isPhone ? '' : typed.trim(),
  phone: isPhone ? typed.trim() : '',
  mail: '',
  company: '',
  birthMonth: null as number | null,
  birthDay: '',
  note: '',
  card: '',
});
const remembered = useRemembered('new customer', () => 'New customer', fields);
const more = ref(false);
const wrong = ref<Record<string, string>>({});
const known = ref<LikelySame | null>(null);
const busy = ref(false);

// A card that is scanned is theirs, wherever the hand is.
useScans((code) => (fields.card = code));
useKeys('form', { accept: () => create('no') }, { within: form });

async function create(anyway: 'yes' | 'no'): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = {};
  known.value = null;
  try {
    await remembered.send(() => make({ ...fields, birthDay: typedDay(fields.birthDay), anyway }));
  } catch (error) {
    const like = error instanceof ApiProblem ? error.data('customer-known') : undefined;
    if (like) {
      known.value = like;
    } else {
      const said = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
      wrong.value = Object.fromEntries(said.map(({ field, message }) => [field, message]));
      if (said.length === 0) wrong.value = { name: problemWords(error) };
      if (said.some(({ field }) => ['company', 'birthMonth', 'birthDay', 'note'].includes(field)))
        more.value = true;
      await nextTick();
      form.value?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
    }
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form ref="form" class="new" novalidate aria-labelledby="customer-title" @submit.prevent="create('no')">
    <h2 id="customer-title" class="title">New customer</h2>
    <TypedBefore :of="remembered" />
    <PersonFields v-model="fields" :wrong="wrong" />
    <v-text-field
      v-model="fields.card"
      label="Card: scan it"
      maxlength="40"
      autocomplete="off"
      :error-messages="wrong.card"
      @keydown.enter.prevent
    />
    <MoreFields v-if="more" v-model="fields" :wrong="wrong" />
    <WordButton v-else @click="more = true">More: company, birthday, note</WordButton>
    <div v-if="known" class="known" role="alert">
      <b>{{ known.customer.name }} is known already: {{ known.why }}.</b>
      <span>{{
        [known.customer.company, known.customer.phone, known.customer.mail].filter(Boolean).join(' · ')
      }}</span>
      <span class="acts">
        <v-btn class="go" @click="emit('use', known.customer)">Use {{ known.customer.name }}</v-btn>
        <v-btn @click="create('yes')">Create anyway</v-btn>
      </span>
    </div>
    <div class="acts">
      <v-btn @click="emit('back')">{{ back }}</v-btn>
      <WaitButton class="go" type="submit" :loading="busy">Create <KeyHint of="form.accept" /></WaitButton>
    </div>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  gap: 12px;
}
.known {
  display: grid;
  gap: 8px;
  padding: 12px;
  background: var(--yellow-wash);
  border-left: 8px solid var(--yellow);
}
</style>
