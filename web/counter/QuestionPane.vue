<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue';
import type { StockedSerial } from '../../contract/goods.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { parseMoney } from '../../core/money.ts';
import { parseQuantity } from '../../core/quantity.ts';
import { houseNow } from '../shop/houseClock.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useItemStore } from '../goods/itemStore.ts';
import { useQuestionStore, type Question } from '../sale/questionStore.ts';
import RowButton from '../look/RowButton.vue';
import { useAnswer } from '../notices/answer.ts';

const { asked } = defineProps<{ asked: Question }>();

const questions = useQuestionStore();
const items = useItemStore();
const till = useTillStore();
const typed = ref('');
const wrong = ref('');
const panel = useTemplateRef('panel');

const unit = computed(() => (asked.item?.unit === 'each' ? 'one' : `one ${asked.item?.unit ?? ''}`));
/** The last day on which somebody was born who is old enough. */
const bornBy = computed(() => {
  const day = houseNow();
  day.setFullYear(day.getFullYear() - (asked.item?.more?.minAge ?? 0));
  return till.day(day);
});
const words = computed(() => {
  switch (asked.kind) {
    case 'price':
      return { label: `Has no fixed price. What does ${unit.value} cost?`, done: 'Add' };
    case 'quantity':
      return { label: `How many ${asked.item?.unit ?? ''}?`, done: 'Add' };
    case 'serial': {
      const { at = 1, of = 1 } = asked.unit ?? {};
      return {
        label: `Serial number${of > 1 ? `, ${at} of ${of}` : ''}: scan it, choose it or type it`,
        done: 'Add',
      };
    }
    case 'age':
      return { label: `Sold from ${asked.item?.more?.minAge ?? 0} years on.`, done: 'Old enough' };
    default:
      return { label: asked.item?.more?.asksNote ?? '', done: 'Add' };
  }
});

const askSerials = async (): Promise<StockedSerial[]> =>
  asked.kind === 'serial' && asked.item ? items.serialsOf(asked.item.id) : [];
/** What is in stock; nothing until that is known. */
const serials = useAnswer<StockedSerial[] | null>(askSerials, null);
/** A number that the shop does not have, or may not have, and that was asked about: it is taken on purpose only. */
const sure = ref('');
const listed = computed(() =>
  (serials.value ?? [])
    .filter(({ serial }) => serial.toLowerCase().includes(typed.value.trim().toLowerCase()))
    .slice(0, 30),
);
const NOT_KNOWN = 'Whether it is in stock cannot be looked up now. Enter once more takes it all the same.';
watch(serials, () => {
  if (wrong.value === NOT_KNOWN) sure.value = wrong.value = '';
});
watch(
  () => questions.scanned,
  (one) => {
    if (!one) return;
    typed.value = one.serial;
    void accept();
  },
);

/** Answers. @returns what is wrong, or nothing */
async function act(): Promise<string | undefined> {
  const text = typed.value.trim();
  switch (asked.kind) {
    case 'price': {
      const price = parseMoney(text, till.digits);
      if (price === null || price < 0) return `Type the price of one, for example ${till.example(12.5)}.`;
      return void questions.answer('price', price);
    }
    case 'quantity': {
      const quantity = parseQuantity(text, asked.item?.decimals);
      if (quantity === null || quantity <= 0)
        return `A number above zero with at most ${asked.item?.decimals ?? 0} decimals, please.`;
      return void questions.answer('quantity', quantity);
    }
    case 'serial':
      if (!text) return 'Scan, choose or type the serial number that is on the goods.';
      if (sure.value !== text) {
        const known = serials.value ?? (await askSerials().catch(() => null));
        if (!known?.some(({ serial }) => serial === text)) {
          sure.value = text;
          return known
            ? 'Not in stock under this number. Look again; Enter once more takes it all the same.'
            : NOT_KNOWN;
        }
      }
      return void questions.answer('serial', text);
    case 'age':
      return void questions.answer('age', true);
    default:
      return void questions.answer('note', text);
  }
}

async function accept(): Promise<void> {
  wrong.value = (await act()) ?? '';
  if (wrong.value) await panel.value?.focusFirst();
}
</script>

<template>
  <FormPanel
    ref="panel"
    :title="asked.item?.name ?? ''"
    :done="words.done"
    :wrong="asked.kind === 'age' ? wrong : ''"
    @accept="accept"
    @leave="questions.leave()"
  >
    <template v-if="asked.kind === 'age'">
      <p class="age">{{ words.label }}</p>
      <p>
        Was the customer born on <b>{{ bornBy }}</b> or before? Look at a card with a picture.
      </p>
    </template>
    <BigField
      v-else
      id="question"
      v-model="typed"
      :label="words.label"
      :kind="asked.kind === 'price' || asked.kind === 'quantity' ? 'figure' : 'text'"
      :maxlength="asked.kind === 'serial' ? 40 : 200"
      :wrong
    />
    <template #after>
      <ul v-if="listed.length > 0" class="ruled" aria-label="In stock">
        <li v-for="one in listed" :key="one.serial">
          <RowButton @click="questions.answer('serial', one.serial)">
            <b class="what num">{{ one.serial }}</b>
            <span :class="one.here ? 'soft' : 'why'">{{ one.here ? 'here' : one.place }}</span>
          </RowButton>
        </li>
      </ul>
      <p v-else-if="asked.kind === 'serial' && serials === null" class="soft" role="status">
        Looking up what is in stock …
      </p>
      <p v-else-if="asked.kind === 'serial' && serials?.length === 0" class="soft">
        None is in stock with a serial number.
      </p>
    </template>
  </FormPanel>
</template>

<style scoped>
.age {
  font-size: 22px;
  font-weight: 700;
}
</style>
