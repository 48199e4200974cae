<script setup lang="ts">
import { computed, onMounted, reactive, ref, useTemplateRef } from 'vue';
import type { WantedRecord } from '../../contract/people.ts';
import { MOST_ADDRESSES, MOST_TAGS } from '../../core/people/record.ts';
import DateField from '../look/DateField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formProblems } from '../net/problem.ts';
import { follow, lookFirst } from '../notices/follow.ts';
import { useLook } from '../notices/look.ts';
import { typedDay } from './birthdayWords.ts';
import MoreFields from './MoreFields.vue';
import PersonFields from './PersonFields.vue';
import { useGroupStore } from './groupStore.ts';
import ChipButton from '../look/ChipButton.vue';
import WordButton from '../look/WordButton.vue';

/** What is known of a customer, to be changed. */
const { record, save, look } = defineProps<{
  title: string;
  /** By what name what is typed is remembered. */
  remembers: string;
  done: string;
  record: WantedRecord;
  /** Tags that are in use. */
  tags?: readonly string[];
  save: (record: WantedRecord) => Promise<void>;
  /** Reads the record again where another one has changed it meanwhile. */
  look?: () => Promise<WantedRecord | undefined>;
}>();
const emit = defineEmits<{ leave: [] }>();

const groups = useGroupStore();
const panel = useTemplateRef('panel');
const asFields = (of: WantedRecord) => ({ ...structuredClone(of), birthDay: String(of.birthDay ?? '') });
const fields = reactive(asFields(record));
let looked = record;
/** What another one has changed is taken over where nobody has touched it here. */
async function takeOver(): Promise<void> {
  const now = await look?.();
  if (!now) return;
  follow<ReturnType<typeof asFields>>(fields, asFields(looked), asFields(now));
  looked = now;
}
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
onMounted(useLook(groups.load));

/** Groups that people are put into by hand. */
const byHand = computed(() => groups.groups.filter(({ rule }) => rule === null));

function toggle(name: string): void {
  fields.groups = fields.groups.includes(name)
    ? fields.groups.filter((one) => one !== name)
    : [...fields.groups, name].toSorted();
}
const addAddress = () => fields.addresses.push({ recipient: '', street: '', postcode: '', city: '' });

async function accept(): Promise<void> {
  busy.value = true;
  [wrong.value, whole.value] = [{}, ''];
  try {
    await save({
      ...fields,
      birthDay: typedDay(fields.birthDay),
      tags: [...fields.tags].toSorted(),
      addresses: fields.addresses.filter((one) => Object.values(one).some((part) => part.trim())),
    }).catch(lookFirst(takeOver));
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    await panel.value?.focusWrong();
  } finally {
    busy.value = false;
  }
}
const wrongTag = computed(() => Object.entries(wrong.value).find(([field]) => field.startsWith('tags'))?.[1]);
</script>

<template>
  <FormPanel
    ref="panel"
    :title
    :done
    :busy
    :wrong="whole"
    :remembers
    :fields
    @accept="accept"
    @leave="emit('leave')"
  >
    <PersonFields v-model="fields" :wrong="wrong" />
    <MoreFields v-model="fields" :wrong="wrong" />
    <fieldset v-if="byHand.length > 0">
      <legend class="label">Groups</legend>
      <div class="chips">
        <ChipButton
          v-for="{ id, name } in byHand"
          :key="id"
          :on="fields.groups.includes(name)"
          @click="toggle(name)"
        >
          {{ name }}
        </ChipButton>
      </div>
    </fieldset>
    <v-combobox
      v-model="fields.tags"
      label="Tags"
      :items="[...(tags ?? [])]"
      multiple
      chips
      closable-chips
      :counter="false"
      :maxlength="40"
      :error-messages="wrongTag ?? (fields.tags.length > MOST_TAGS ? `At most ${MOST_TAGS} tags.` : '')"
    />
    <v-checkbox v-model="fields.news" label="May get news" hide-details density="compact" />
    <div v-if="fields.news" class="side-by-side">
      <DateField v-model="fields.newsOn" label="Said so on" :wrong="wrong.newsOn" />
      <v-text-field v-model="fields.newsHow" label="How" maxlength="120" :error-messages="wrong.newsHow" />
    </div>
    <fieldset v-for="(address, at) in fields.addresses" :key="at">
      <legend class="label">{{ at === 0 ? 'Address' : `Address ${at + 1}` }}</legend>
      <v-text-field v-model="address.recipient" label="Recipient, if another" maxlength="80" />
      <v-text-field v-model="address.street" label="Street and number" maxlength="120" />
      <div class="town">
        <v-text-field v-model="address.postcode" label="Postcode" maxlength="12" />
        <v-text-field v-model="address.city" label="Town" maxlength="80" />
      </div>
      <WordButton @click="fields.addresses.splice(at, 1)"> Take this address out </WordButton>
    </fieldset>
    <WordButton v-if="fields.addresses.length < MOST_ADDRESSES" @click="addAddress">
      {{ fields.addresses.length === 0 ? 'Add an address' : 'Add another address' }}
    </WordButton>
  </FormPanel>
</template>

<style scoped>
.town {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 10px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 10px;
  min-width: 0;
}
.word {
  justify-self: start;
}
</style>
