<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import UsualWords from '../look/UsualWords.vue';
import { plainMoney, parseMoney } from '../../core/money.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore, type Work } from '../sale/basketWorkStore.ts';
import WordButton from '../look/WordButton.vue';

const REASONS = ['Agreed price', 'Damaged', 'Display piece', 'Price on the shelf'];

const work = useBasketWorkStore();
const basket = useBasketStore();
const till = useTillStore();
const panel = useTemplateRef('panel');
/** What is wrong, by its field; without one it is the whole. */
const wrong = ref<{ first?: string; second?: string; whole?: string }>({});

const what = work.work;
const line = basket.chosen;
const { note, exemption } = basket.basket;
const TYPED: Partial<Record<Work, string | undefined>> = {
  price: line ? plainMoney(line.typedPrice?.unitPrice ?? line.listPrice, till.digits) : '',
  'line-note': line?.note,
  'sale-note': note,
  exemption: exemption?.reason,
};
const first = ref((what && TYPED[what]) ?? '');
const second = ref(what === 'price' ? (line?.typedPrice?.reason ?? '') : (exemption?.certificate ?? ''));

const words = computed(() => {
  switch (what) {
    case 'price':
      return {
        title: line?.name ?? '',
        first: `Price of one (${till.money(line?.listPrice ?? 0)} in the list)`,
        done: 'Set the price',
      };
    case 'line-note':
      return {
        title: line?.name ?? '',
        first: 'Note on this line, printed on the receipt',
        done: 'Keep the note',
      };
    case 'sale-note':
      return {
        title: 'Note for the sale',
        first: 'Printed at the end of the receipt',
        done: 'Keep the note',
      };
    default:
      return { title: 'Sell without tax', first: 'Why no tax is due', done: 'Sell without tax' };
  }
});
const undo = computed(() => {
  if (what === 'price' && line?.typedPrice)
    return { words: 'Back to the list price', do: () => work.backToListPrice(line) };
  if (what === 'exemption' && exemption) return { words: 'Charge tax again', do: work.tax };
  return null;
});

/** Does what was asked. @returns what is wrong, or nothing */
async function act(): Promise<typeof wrong.value> {
  const [words, more] = [first.value.trim(), second.value.trim()];
  if (what === 'price' && line) {
    const price = parseMoney(words, till.digits);
    if (price === null || price < 0) return { first: `Type an amount, for example ${till.example(12.5)}.` };
    if (!more) return { second: 'Say why: the reason is printed.' };
    if (!(await work.typePrice(line, price, more))) return { whole: 'Not approved.' };
  } else if (what === 'line-note' && line) {
    await work.noteLine(line, first.value);
  } else if (what === 'sale-note') {
    await work.noteSale(first.value);
  } else if (what === 'exemption') {
    if (!words) return { first: 'Say why no tax is due: it is printed.' };
    if (!(await work.exempt(words, more))) return { whole: 'Not approved.' };
  }
  return {};
}

async function accept(): Promise<void> {
  wrong.value = await act();
  if (wrong.value.whole) return panel.value?.focusFirst();
  if (wrong.value.first ?? wrong.value.second) return panel.value?.focusWrong();
  work.leave();
}

async function takeAway(): Promise<void> {
  await undo.value?.do();
  work.leave();
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="words.title"
    :done="words.done"
    :wrong="wrong.whole"
    @accept="accept"
    @leave="work.leave()"
  >
    <BigField
      id="work-first"
      v-model="first"
      :label="words.first"
      :kind="what === 'price' ? 'figure' : 'text'"
      maxlength="200"
      :wrong="wrong.first"
    />
    <BigField
      v-if="what === 'price' || what === 'exemption'"
      id="work-second"
      v-model="second"
      :label="what === 'price' ? 'Reason, printed on the receipt' : 'Certificate number, if one was shown'"
      maxlength="60"
      :wrong="wrong.second"
    />
    <UsualWords v-if="what === 'price'" v-model="second" :words="REASONS" />
    <template v-if="undo" #after>
      <WordButton @click="takeAway">{{ undo.words }}</WordButton>
    </template>
  </FormPanel>
</template>
