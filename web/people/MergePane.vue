<script setup lang="ts">
import { computed, ref } from 'vue';
import { shown } from '../net/shown.ts';
import type { CustomerPage, FoundCustomer, WantedRecord } from '../../contract/people.ts';
import { birthdayText, mergedRecord } from '../../core/people/record.ts';
import FormPanel from '../look/FormPanel.vue';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import FindCustomer from './FindCustomer.vue';
import { useCustomerPageStore } from './customerPageStore.ts';
import ChipButton from '../look/ChipButton.vue';

/** Makes two records one: both side by side, and what is kept of each. */
const { page } = defineProps<{ page: CustomerPage }>();
const emit = defineEmits<{ leave: [] }>();

const store = useCustomerPageStore();
const notices = useNoticeStore();
const [other, showOther] = shown<CustomerPage | null>(null);
const wrong = ref('');
const busy = ref(false);

async function choose(one: FoundCustomer): Promise<void> {
  try {
    await showOther(store.other(one.id));
  } catch (error) {
    wrong.value = problemWords(error);
  }
}

/** Facts of which one is kept, where both have one. */
const FACTS = [
  { key: 'name', words: 'Name' },
  { key: 'company', words: 'Company or school' },
  { key: 'phone', words: 'Phone' },
  { key: 'mail', words: 'Mail' },
  { key: 'birthday', words: 'Birthday' },
] as const;
type Fact = (typeof FACTS)[number]['key'];
const valueOf = (record: WantedRecord, key: Fact) =>
  key === 'birthday' ? birthdayText(record) : record[key];
/** Facts that the other record gives. */
const taken = ref<Set<Fact>>(new Set());
const rows = computed(() => {
  const theirs = other.value?.record;
  if (!theirs) return [];
  return FACTS.map(({ key, words }) => ({
    key,
    words,
    mine: valueOf(page.record, key),
    theirs: valueOf(theirs, key),
  })).filter(({ mine, theirs: that }) => mine !== that);
});
const takes = (key: Fact, mine: string) => taken.value.has(key) || mine === '';
function take(key: Fact, theirs: boolean): void {
  const next = new Set(taken.value);
  if (theirs) next.add(key);
  else next.delete(key);
  taken.value = next;
}

const kept = computed((): WantedRecord => {
  const theirs = other.value?.record ?? page.record;
  const both = mergedRecord(page.record, theirs);
  const facts = [...taken.value].flatMap((key): [string, unknown][] =>
    key === 'birthday'
      ? [
          ['birthMonth', theirs.birthMonth],
          ['birthDay', theirs.birthDay],
        ]
      : [[key, theirs[key]]],
  );
  const { groups, tags, addresses } = both;
  return {
    ...both,
    groups: [...groups],
    tags: [...tags],
    addresses: [...addresses],
    ...Object.fromEntries(facts),
  };
});

async function merge(): Promise<void> {
  if (!other.value) return;
  busy.value = true;
  wrong.value = '';
  const { name } = other.value.record;
  try {
    await store.merge(page, other.value, kept.value);
    notices.say(`${name} is found under ${kept.value.name} from now on.`);
    emit('leave');
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    :title="`Merge with ${page.record.name}`"
    :done="other ? 'Merge them' : ''"
    :busy
    :wrong
    @accept="merge"
    @leave="emit('leave')"
  >
    <template v-if="!other">
      <FindCustomer
        id="same"
        label="Who is the same person?"
        :except="page.panel.id"
        scans
        @choose="choose"
      />
    </template>
    <template v-else>
      <p>
        <b>{{ other.record.name }}</b> is found under this record from now on, with visits, points, cards,
        what is owed and what waits. It cannot be undone.
      </p>
      <fieldset v-for="{ key, words, mine, theirs } in rows" :key="key">
        <legend class="label">{{ words }}</legend>
        <ChipButton
          v-for="side in [false, true]"
          :key="String(side)"
          :on="takes(key, mine) === side"
          :disabled="side ? theirs === '' : mine === ''"
          @click="take(key, side)"
        >
          {{ (side ? theirs : mine) || 'nothing' }}
        </ChipButton>
      </fieldset>
      <p v-if="rows.length === 0" class="soft">Both records say the same.</p>
      <p class="soft">Groups, tags, addresses and notes of both are kept.</p>
    </template>
  </FormPanel>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
legend {
  padding-bottom: 4px;
}
.chip {
  overflow-wrap: anywhere;
  text-align: left;
}
</style>
