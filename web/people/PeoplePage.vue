<script setup lang="ts">
import { computed, onUnmounted, ref, toRef } from 'vue';
import { useRouter } from 'vue-router';
import type { DirectoryRow } from '../../contract/people.ts';
import { DIRECTORY_PAGE, DIRECTORY_SORTS, type DirectorySort } from '../../core/people/directory.ts';
import { formatCount } from '../../core/locale.ts';
import DateField from '../look/DateField.vue';
import { useAskedList } from '../look/askedList.ts';
import ListPage from '../look/ListPage.vue';
import { shopDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useMayOpen } from '../staff/mayOpen.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useDirectoryStore } from './directoryStore.ts';
import { usePointsStore } from './pointsStore.ts';
import { monthNames } from './birthdayWords.ts';
import ChipButton from '../look/ChipButton.vue';
import WordButton from '../look/WordButton.vue';

const people = useDirectoryStore();
const till = useTillStore();
const points = usePointsStore();
const session = useSessionStore();
const mayOpen = useMayOpen();
const router = useRouter();
const narrowing = ref(people.narrowed);

const stop = people.follow();
onUnmounted(stop);
const asked = computed(() => people.query.toString());
const { busy } = useAskedList(() => asked.value, toRef(people, 'page'), people.load);

const COLUMNS = computed(() => [
  { key: 'name', words: 'Name' },
  { key: 'phone', words: 'Phone and mail', width: '240px' },
  { key: 'groups', words: 'Groups and tags' },
  ...(points.programme?.on ? [{ key: 'points', words: points.Word, right: true, width: '90px' }] : []),
  { key: 'owes', words: 'Owes', right: true, width: '130px' },
  { key: 'seenAt', words: 'Last visit', width: '130px' },
]);
const SORTS = computed(() =>
  Object.entries(DIRECTORY_SORTS)
    .filter(([value]) => value !== 'points' || points.programme?.on)
    .map(([value, title]) => ({
      value: value as DirectorySort,
      title: value === 'points' ? points.Word : title,
    })),
);
const groups = computed(() => [
  { value: 0, title: 'Any group' },
  ...(people.listed?.groups ?? []).map(({ id, name }) => ({ value: id, title: name })),
]);
const tags = computed(() => [
  { value: '', title: 'Any tag' },
  ...(people.listed?.tags ?? []).map((tag) => ({ value: tag, title: tag })),
]);
const FLAGS = [
  { key: 'owes', words: 'Owes us' },
  { key: 'credit', words: 'Has store credit' },
  { key: 'news', words: 'May get news' },
] as const;
const months = computed(() => [
  { value: 0, title: 'Any month' },
  ...monthNames(till.facts).map((title, at) => ({ value: at + 1, title })),
]);
const csv = computed(() => `/api/people/directory.csv?${asked.value}`);

const visit = ({ seenAt }: DirectoryRow) =>
  seenAt ? till.calendarDay(shopDay(new Date(seenAt), till.facts?.shop.timezone ?? 'UTC')) : '';
const open = ({ id }: DirectoryRow) => router.push(`/people/${id}`);
function widen(): void {
  people.widen();
  narrowing.value = false;
}
</script>

<template>
  <ListPage
    :narrowed="people.narrowed || people.filter.find !== ''"
    @widen="widen"
    v-model:page="people.page"
    title="People"
    :of="['customer', 'customers']"
    :columns="COLUMNS"
    :rows="people.listed?.rows ?? []"
    :count="people.listed?.count ?? null"
    :per-page="DIRECTORY_PAGE"
    :busy="busy"
    :name-of="(row) => row.name"
    @open="open"
  >
    <template #acts>
      <v-btn v-if="mayOpen('/people/accounts')" to="/people/accounts">House accounts</v-btn>
      <template v-if="session.may('people.manage')">
        <v-btn to="/people/groups">Groups</v-btn>
        <v-btn to="/people/import">Import</v-btn>
        <v-btn :href="csv">CSV</v-btn>
      </template>
      <v-btn class="go" to="/people/new">New customer</v-btn>
    </template>
    <template #filters>
      <div class="first">
        <v-text-field
          v-model="people.filter.find"
          label="Name, phone, mail, or scan the card"
          data-search
          autocomplete="off"
          clearable
          @click:clear="people.filter.find = ''"
        />
        <v-select v-model="people.filter.group" label="Group" :items="groups" />
        <v-select v-model="people.filter.tag" label="Tag" :items="tags" />
        <v-select v-model="people.sort" label="Sorted by" :items="SORTS" />
      </div>
      <div class="chips">
        <ChipButton
          v-for="{ key, words } in FLAGS"
          :key="key"
          :on="people.filter[key] === 'yes'"
          @click="people.filter[key] = people.filter[key] ? '' : 'yes'"
        >
          {{ words }}
        </ChipButton>
        <WordButton v-if="!narrowing" @click="narrowing = true">
          By {{ points.programme?.on ? `${points.word}, ` : '' }}birthday or last visit
        </WordButton>
        <WordButton v-if="people.narrowed || narrowing" @click="widen"> Show everybody </WordButton>
      </div>
      <div v-if="narrowing" class="more">
        <template v-if="points.programme?.on">
          <v-text-field
            v-model="people.filter.pointsFrom"
            :label="`${points.Word} from`"
            inputmode="numeric"
          />
          <v-text-field v-model="people.filter.pointsTo" :label="`${points.Word} to`" inputmode="numeric" />
        </template>
        <v-select v-model="people.filter.born" label="Birthday in" :items="months" />
        <DateField v-model="people.filter.notSince" label="Not seen since" />
      </div>
    </template>
    <template #name="{ row }">
      <b>{{ row.name }}</b>
      <span v-if="row.company" class="soft under">{{ row.company }}</span>
    </template>
    <template #phone="{ row }">
      {{ row.phone }} <span v-if="row.mail" class="soft under">{{ row.mail }}</span>
    </template>
    <template #groups="{ row }">
      <span class="words">
        <span v-for="group in row.groups" :key="group" class="why">{{ group }}</span>
        <span v-for="tag in row.tags" :key="tag" class="soft">{{ tag }}</span>
      </span>
    </template>
    <template #points="{ row }">{{ row.points > 0 ? formatCount(row.points) : '' }}</template>
    <template #owes="{ row }">
      <span v-if="row.owes > 0" class="bad">{{ till.money(row.owes) }}</span>
      <span v-if="row.credit - Math.min(0, row.owes) > 0" class="under"
        >{{ till.money(row.credit - Math.min(0, row.owes)) }} credit</span
      >
    </template>
    <template #seenAt="{ row }">{{ visit(row) }}</template>
    <template #empty>
      <b>No customers yet</b>
      <p>
        Create one at the Counter with F4 or here, or import the list that you have: whoever comes back is
        found by name, phone, mail or card.
      </p>
    </template>
  </ListPage>
</template>

<style scoped>
.first {
  display: grid;
  grid-template-columns: minmax(0, 2fr) repeat(3, minmax(0, 1fr));
  gap: 10px;
}
.more {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
}
</style>
