<script setup lang="ts">
import { computed, reactive, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import type { CustomerGroup } from '../../contract/people.ts';
import BigField from '../look/BigField.vue';
import ChipChoice from '../look/ChipChoice.vue';
import FormPanel from '../look/FormPanel.vue';
import MoneyField from '../look/MoneyField.vue';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useDirectoryStore } from './directoryStore.ts';
import { useGroupStore } from './groupStore.ts';
import WordButton from '../look/WordButton.vue';

const { group } = defineProps<{ group: CustomerGroup | null }>();
const emit = defineEmits<{ leave: [] }>();

const store = useGroupStore();
const people = useDirectoryStore();
const session = useSessionStore();
const notices = useNoticeStore();
const router = useRouter();
const panel = useTemplateRef('panel');
const name = ref(group?.name ?? '');
const filled = ref<'hand' | 'rule'>(group?.rule ? 'rule' : 'hand');
const spent = ref(group?.rule?.spent ?? Number.NaN);
const months = ref(String(group?.rule?.months ?? 12));
const typed = reactive({ name, filled, spent, months });
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
const mayManage = computed(() => session.may('people.manage'));

async function save(): Promise<void> {
  busy.value = true;
  [wrong.value, whole.value] = [{}, ''];
  const rule =
    filled.value === 'rule' ? { spent: spent.value || 0, months: Number(months.value) || 0 } : null;
  try {
    await store.save(group, { name: name.value, rule });
    notices.say(group ? `${name.value} is as you said.` : `${name.value} is there.`);
    emit('leave');
  } catch (error) {
    const said = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
    wrong.value = Object.fromEntries(said.map(({ field, message }) => [field, message]));
    if (said.length === 0) whole.value = problemWords(error);
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}

async function drop(): Promise<void> {
  if (!group) return;
  whole.value = '';
  try {
    await store.drop(group.id);
    notices.say(`${group.name} is gone.`);
    emit('leave');
  } catch (error) {
    whole.value = problemWords(error);
  }
}

function show(): void {
  if (!group) return;
  people.widen();
  people.filter.group = group.id;
  void router.push('/people');
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="group ? group.name : 'New group'"
    :done="mayManage ? (group ? 'Keep it' : 'Create it') : ''"
    :busy
    :wrong="whole"
    :remembers="group ? `group ${group.id}` : 'new group'"
    :fields="typed"
    @accept="save"
    @leave="emit('leave')"
  >
    <WordButton v-if="group" @click="show">Show who is in it</WordButton>
    <BigField v-model="name" label="Name" maxlength="60" :wrong="wrong.name" />
    <ChipChoice
      :model-value="filled"
      label="How it is filled"
      :options="[
        { value: 'hand', words: 'By hand' },
        { value: 'rule', words: 'By what somebody spends' },
      ]"
      @update:model-value="filled = $event ?? 'hand'"
    />
    <template v-if="filled === 'rule'">
      <MoneyField v-model="spent" label="Spent at least, with tax" :wrong="wrong['rule.spent']" />
      <BigField v-model="months" label="Within so many months" kind="figure" :wrong="wrong['rule.months']" />
      <p class="soft">
        It is filled at once and then every night: whoever has spent that much is in, nobody else.
      </p>
    </template>
    <template #after>
      <WordButton v-if="group && mayManage" class="bad" @click="drop"> Take this group away </WordButton>
    </template>
  </FormPanel>
</template>

<style scoped>
.word {
  justify-self: start;
}
</style>
