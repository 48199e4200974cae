<script setup lang="ts">
import { nextTick, onMounted, reactive, ref, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { WantedItem } from '../../contract/goods.ts';
import { parseQuantity } from '../../core/quantity.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { formProblems, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScansInTurn } from '../sale/scannedGoods.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ItemFields from './ItemFields.vue';
import { useItemPageStore } from './itemPageStore.ts';
import { useNewItem } from './newItem.ts';
import { notNumbers } from './notNumbers.ts';
import WordButton from '../look/WordButton.vue';
import { useWayOn } from '../look/wayOn.ts';

/** Items go in one after the other: scan, name, price, next. A code that is known opens its item. */
const store = useItemPageStore();
const till = useTillStore();
const notices = useNoticeStore();
const route = useRoute();
const router = useRouter();
const goOn = useWayOn();
const panel = useTemplateRef('panel');
const fields = useTemplateRef('fields');

const { item, fresh, categories, tags } = useNewItem();
/** What the one before was stays for the next: they mostly lie on one shelf. */
const next = ({ category, taxCategoryId, unit, decimals }: WantedItem) =>
  fresh({ category, taxCategoryId, unit, decimals });
const code = ref('');
const onHand = ref('');
const typed = reactive({ code, onHand });
const more = ref(false);
const wrong = ref<Record<string, string>>({});
const whole = ref('');
const busy = ref(false);
onMounted(async () => {
  // A code that was scanned where nothing has it.
  const { code: scanned } = route.query;
  if (typeof scanned === 'string') await takeCode(scanned);
});

/** One that is on its way, and whether it is in then: the form is free for the next. */
let adding: Promise<boolean> = Promise.resolve(true);

async function takeCode(scanned: string): Promise<void> {
  if (busy.value && !(await adding))
    return notices.failed(`The item before it is not in yet: scan ${scanned} again.`);
  code.value = scanned;
  await nextTick();
  // The hand goes on at once: whoever types waits for no answer. Who has typed the name is not called back.
  if (item.name === '') fields.value?.focusName();
  const known = await store.idOfCode(scanned).catch((problem: unknown) => {
    notices.failed(problemWords(problem));
    return null;
  });
  if (known !== null) {
    notices.say(`${scanned} is known: this is its item.`);
    // But for the code there is nothing yet.
    if (item.name === '') {
      code.value = '';
      await nextTick();
    }
    await goOn(`/goods/${known}`);
  }
}
useScansInTurn(takeCode);

async function accept(): Promise<void> {
  // Enter in the field of the code goes on to the name, as a scan does.
  if (item.name === '' && code.value && document.activeElement?.id === 'item-code')
    return takeCode(code.value);
  [wrong.value, whole.value] = [notNumbers(item), ''];
  const stock = onHand.value.trim() === '' ? 0 : parseQuantity(onHand.value, item.decimals);
  if (stock === null || stock < 0) wrong.value = { ...wrong.value, stock: 'How many?' };
  if (Object.keys(wrong.value).length > 0) return panel.value?.focusWrong();
  await (adding = add(stock ?? 0));
}

async function add(stock: number): Promise<boolean> {
  const typed = code.value.trim();
  const codes = typed ? [...item.codes, typed] : item.codes;
  busy.value = true;
  try {
    const record = { ...item, codes, number: item.number || typed };
    const id = await store.add(record, stock);
    notices.say(`${item.name} can be sold on every till.`, {
      word: 'Its page',
      do: () => void router.push(`/goods/${id}`),
    });
    Object.assign(item, next(item));
    [code.value, onHand.value] = ['', ''];
    await panel.value?.focusFirst();
    return true;
  } catch (error) {
    const { fields, whole: other } = formProblems(error);
    [wrong.value, whole.value] = [fields, other];
    if (wrong.value.number) more.value = true;
    await panel.value?.focusWrong();
    return false;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="scroll page">
    <FormPanel
      ref="panel"
      class="form"
      title="New items, one after the other"
      done="Add it"
      :busy
      :wrong="whole"
      remembers="new item"
      :fields="[item, typed]"
      @accept="accept"
      @leave="router.push('/goods')"
    >
      <BigField
        id="item-code"
        v-model="code"
        label="Scan its code, or type a number of your own"
        kind="code"
        maxlength="40"
        :wrong="wrong.codes ?? (more ? undefined : wrong.number)"
      />
      <ItemFields
        ref="fields"
        v-model="item"
        :wrong
        :more
        plain
        :categories
        :units="['each', 'm', 'kg', 'pair']"
        :tags
        :groups="[]"
      />
      <v-text-field
        v-if="item.stocked && !item.serials"
        v-model="onHand"
        :label="`On hand at ${till.facts?.till.place ?? 'this place'}`"
        inputmode="decimal"
        :error-messages="wrong.stock"
      />
      <template #after>
        <WordButton v-if="!more" @click="more = true"> More about it: cost, codes, unit, age </WordButton>
        <p class="soft">
          It comes in sizes or colours?
          <router-link class="word" to="/goods/new-family">A family</router-link>
          Several goods under one code?
          <router-link class="word" to="/goods/new-bundle">A bundle</router-link>
        </p>
      </template>
    </FormPanel>
  </div>
</template>

<style scoped>
.page {
  background: var(--surface);
}
.form {
  max-width: 620px;
}
</style>
