<script setup lang="ts">
import { reactive, ref, shallowRef, useTemplateRef } from 'vue';
import type { DeliveryPage } from '../../contract/supply.ts';
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { ONE } from '../../core/quantity.ts';
import { canGoBack } from '../../core/supply/purchaseOrder.ts';
import FormPanel from '../look/FormPanel.vue';
import QuantityField from '../look/QuantityField.vue';
import UsualWords from '../look/UsualWords.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSupplyStore } from './supplyStore.ts';

/** Goods of a delivery that go back to the supplier: how many of each, and why. */
const { page } = defineProps<{ page: DeliveryPage }>();
const emit = defineEmits<{ leave: [] }>();

const REASONS = ['Broken', 'Wrong goods', 'Too many came', 'Recalled'];
const store = useSupplyStore();
const notices = useNoticeStore();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);
const words = ref('');
/** How many of each line, or which units; by the line's place in the delivery. */
const going = shallowRef(
  page.lines.map(() => ({ quantity: null as number | null, serials: [] as string[] })),
);
const typed = reactive({ words, going });
const put = (at: number, part: Partial<(typeof going.value)[number]>) =>
  (going.value = going.value.map((one, nth) => (nth === at ? { ...one, ...part } : one)));

const nothing = ref('');
const wanted = () =>
  going.value.flatMap(({ quantity, serials }, line) => {
    const many = page.lines[line]?.serials ? serials.length * ONE : (quantity ?? 0);
    return many === 0 ? [] : [{ line, quantity: many, serials }];
  });
/** What the server says of a line that is sent, by the line's place in the delivery. */
const wrongAt = (line: number): string | undefined => {
  const at = wanted().findIndex((one) => one.line === line);
  return at < 0 ? undefined : (wrong.value[`lines[${at}].quantity`] ?? wrong.value[`lines[${at}].serials`]);
};
const accept = () => {
  const lines = wanted();
  nothing.value = lines.length === 0 ? 'What goes back?' : '';
  return send(
    {
      words: words.value.trim() === '' && 'Why?',
      ...Object.fromEntries(
        lines.map(({ quantity }, at) => [`lines[${at}].quantity`, Number.isNaN(quantity) && 'How many?']),
      ),
      lines: nothing.value,
    },
    async () => {
      await store.sendBack(page.id, { words: words.value, lines });
      notices.say('It is out of stock: the sheet that goes along stands below.');
      emit('leave');
    },
  );
};
</script>

<template>
  <div class="scroll page">
    <FormPanel
      ref="panel"
      class="form"
      :title="`Back to ${page.supplier}`"
      done="Send it back"
      :busy
      :wrong="whole || nothing"
      :remembers="`back of ${page.id} ${page.version}`"
      :fields="typed"
      @accept="accept"
      @leave="emit('leave')"
    >
      <v-text-field v-model="words" label="Why" maxlength="200" :error-messages="wrong.words" />
      <UsualWords v-model="words" :words="REASONS" />
      <table class="goods-lines">
        <thead>
          <tr>
            <th>Goods</th>
            <th class="right">Can go back</th>
            <th class="right">Goes back</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(line, at) in page.lines" :key="line.layerId">
            <tr v-if="canGoBack(line) > 0">
              <td>
                <b>{{ line.name }}</b>
                <span class="soft beneath">{{ line.number }}</span>
                <v-combobox
                  v-if="line.serials"
                  :model-value="going[at]?.serials ?? []"
                  label="Serial numbers"
                  multiple
                  chips
                  closable-chips
                  @update:model-value="put(at, { serials: [...$event] })"
                />
                <span v-if="wrongAt(at)" class="bad beneath" role="alert">{{ wrongAt(at) }}</span>
              </td>
              <td class="right num">{{ quantityWords(canGoBack(line), line.unit) }}</td>
              <td class="right num">
                <template v-if="line.serials">{{ going[at]?.serials.length || '' }}</template>
                <QuantityField
                  v-else
                  bare
                  :model-value="going[at]?.quantity ?? null"
                  :label="`How many of ${line.name}`"
                  :decimals="line.decimals"
                  :aria-invalid="wrongAt(at) !== undefined"
                  @update:model-value="(quantity) => put(at, { quantity })"
                />
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </FormPanel>
  </div>
</template>

<style scoped>
.page {
  background: var(--surface);
}
.form {
  max-width: 900px;
}
</style>
