<script setup lang="ts">
import { mdiCheckboxBlankOutline, mdiCheckboxMarked } from '@mdi/js';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { keyHint } from '../keys/keyTable.ts';
import type { BasketLine } from '../../core/counter/basket.ts';
import type { PriceRecord, PricedLine } from '../../core/pricing/price.ts';
import { formatQuantity, parseQuantity } from '../../core/quantity.ts';
import { useItemStore } from '../goods/itemStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import ChipButton from '../look/ChipButton.vue';
import StepperField from '../look/StepperField.vue';
import { useAnswer } from '../notices/answer.ts';

const { line, priced = undefined } = defineProps<{
  line: BasketLine;
  priced?: PricedLine | undefined;
  /** Whether keys act on it. */
  chosen: boolean;
  /** Whether it is picked together with others. */
  picked: boolean;
}>();

const basket = useBasketStore();
const items = useItemStore();
const till = useTillStore();
const work = useBasketWorkStore();
const typing = ref(false);
const typed = ref('');
const wrong = ref('');
const field = useTemplateRef<HTMLInputElement>('field');

const unit = computed(() => (line.unit === 'each' ? '' : ` ${line.unit}`));
const stock = computed(() => basket.stock[line.itemId] ?? null);
const lacking = computed(() => stock.value !== null && stock.value < line.quantity);
/** Where else the goods are, asked for when they are short here. */
// A hint only: no message gives way to it where it cannot be had.
const elsewhere = useAnswer(() => (lacking.value ? items.elsewhere(line.itemId).catch(() => []) : []), []);
const lackingWords = computed(() => {
  const left = stock.value ?? 0;
  const here = left > 0 ? `Only ${formatQuantity(left)}${unit.value} in stock here` : 'None in stock here';
  return [
    here,
    ...elsewhere.value.map(({ place, quantity }) => `${formatQuantity(quantity)}${unit.value} at ${place}`),
  ].join(' · ');
});
const amount = computed(() => (priced ? till.money(priced.net) : ''));

/** Why a line costs what it costs; of a discount on the whole basket it has its share. */
const whyWords = ({ why, discountId }: PriceRecord) =>
  basket.basket.discounts?.some(({ id, lineIds }) => id === discountId && lineIds === null)
    ? `Share of ${why}`
    : why;

/** A click with Ctrl or Shift picks the line together with others. */
function choose(event: MouseEvent): void {
  if (event.ctrlKey || event.metaKey || event.shiftKey || basket.picked.size > 0) basket.pick(line.id);
  basket.chosenId = line.id;
}

async function typeQuantity(): Promise<void> {
  basket.chosenId = line.id;
  typed.value = formatQuantity(line.quantity);
  wrong.value = '';
  typing.value = true;
  await nextTick();
  field.value?.select();
}

async function accept(): Promise<void> {
  const quantity = parseQuantity(typed.value, line.decimals);
  if (quantity === null || quantity <= 0) {
    wrong.value =
      line.decimals === 0
        ? 'A whole number above zero, please.'
        : `A number above zero with at most ${line.decimals} decimals, please.`;
    return;
  }
  typing.value = false;
  await basket.quantityOf(line, quantity);
}
</script>

<template>
  <li class="row" :class="{ on: chosen, picked }">
    <button
      type="button"
      class="line"
      :aria-current="chosen || undefined"
      @click="choose"
      @focus="basket.chosenId = line.id"
      @keydown.enter.prevent="typeQuantity"
    >
      <span class="q num" :class="{ long: formatQuantity(line.quantity).length > 7 }"
        >{{ formatQuantity(line.quantity) }}<span class="unit">{{ unit }}</span></span
      >
      <span class="what">
        <span class="t">{{ line.name }}</span>
        <span class="s">
          {{ line.number }}
          <span v-if="lacking" class="why">{{ lackingWords }}</span>
          <span v-for="(record, at) in priced?.records" :key="at" class="why"
            >{{ whyWords(record) }} <span class="num">{{ till.money(record.amount) }}</span></span
          >
          <span v-if="line.serial" class="num">No. {{ line.serial }}</span>
          <span v-if="line.quantity < 0" class="why back"
            >{{ line.comesBack?.sale ? `Back from ${line.comesBack.sale.receipt}` : 'Comes back, no receipt'
            }}{{ line.comesBack ? `: ${line.comesBack.reason}` : '' }}</span
          >
          <span v-if="line.promised?.part === 'goods'" class="why">From {{ line.promised.number }}</span>
          <span v-if="line.bundle">{{ line.bundle }}</span>
          <span v-if="line.ageChecked">Age checked</span>
          <span v-if="line.gift" class="why">Gift receipt</span>
          <span v-if="line.note">{{ line.note }}</span>
        </span>
      </span>
      <span class="u num"
        >{{ till.money(priced?.unitPrice ?? line.listPrice) }}{{ unit && `/${line.unit}` }}</span
      >
      <span class="a num"
        ><span v-if="priced && priced.net !== priced.regular" class="was">{{
          till.money(priced.regular)
        }}</span>
        {{ amount }}</span
      >
    </button>
    <div v-if="chosen" class="edit">
      <button
        type="button"
        class="pick"
        role="checkbox"
        :aria-checked="picked"
        aria-label="Pick this line together with others"
        :title="`Pick this line together with others (${keyHint('line.pick')})`"
        @click="basket.pick(line.id)"
      >
        <v-icon :icon="picked ? mdiCheckboxMarked : mdiCheckboxBlankOutline" />
      </button>
      <template v-if="!line.promised && !line.account">
        <StepperField less="One less" more="One more" @step="(by) => basket.step(by)">
          <form v-if="typing" @submit.prevent="accept">
            <input
              ref="field"
              v-model="typed"
              class="num"
              inputmode="decimal"
              aria-label="Quantity"
              :aria-invalid="wrong !== ''"
              @keydown.esc.stop="typing = false"
              @blur="typing = false"
            />
          </form>
          <button
            v-else
            type="button"
            class="num n"
            :aria-label="`${formatQuantity(line.quantity)}, type the quantity`"
            @click="typeQuantity"
          >
            {{ formatQuantity(line.quantity) }}
          </button>
        </StepperField>
        <ChipButton @click="work.begin('item')"> Item <KeyHint of="line.item" /> </ChipButton>
        <ChipButton @click="work.beginDiscount()"> Discount <KeyHint of="line.discount" /> </ChipButton>
        <ChipButton @click="work.begin('price')"> Price <KeyHint of="line.price" /> </ChipButton>
        <ChipButton @click="work.begin('line-note')"> Note <KeyHint of="line.note" /> </ChipButton>
        <ChipButton @click="work.markGift(line)">
          {{ line.gift ? 'No gift' : 'Gift' }} <KeyHint of="line.gift" />
        </ChipButton>
      </template>
      <ChipButton class="stop" @click="basket.remove(line)">
        Remove <KeyHint of="counter.remove" />
      </ChipButton>
      <span v-if="wrong" class="bad" role="alert">{{ wrong }}</span>
    </div>
  </li>
</template>

<style scoped>
.row {
  border-bottom: var(--hair);
  /* Rows out of sight are not laid out: a long basket stays as quick as a short one. */
  content-visibility: auto;
  contain-intrinsic-size: auto 68px;
}
.line {
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr) 104px 122px;
  column-gap: 12px;
  align-items: baseline;
  padding: 11px 18px;
  width: 100%;
}
.row.on {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.row.picked .line {
  background: repeating-linear-gradient(-45deg, transparent 0 9px, var(--yellow-wash) 9px 18px);
  outline: 2px solid var(--yellow);
  outline-offset: -2px;
}
.back {
  border-left-color: var(--red);
  background: var(--red-wash);
}
.q {
  font-size: 20px;
  font-weight: 600;
}
/* Of the longest the unit stands below: nothing runs into the name. */
.q.long {
  font-size: 15px;
}
.q .unit {
  font-size: 15px;
}
.t {
  display: block;
  font-weight: 650;
  font-size: 17px;
  overflow-wrap: anywhere;
}
.s {
  color: var(--soft);
  font-size: 14px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
}
.u {
  text-align: right;
  color: var(--soft);
}
.a {
  text-align: right;
  font-size: 20px;
  font-weight: 600;
}
.edit .chip {
  padding: 0 7px;
  gap: 6px;
}
.edit {
  display: flex;
  gap: 4px;
  padding: 0 18px 12px;
  align-items: center;
  flex-wrap: wrap;
}
.pick {
  width: 32px;
  height: 44px;
  text-align: left;
}
.n {
  height: 41px;
  padding: 0 8px;
  text-align: center;
}
</style>
