<script setup lang="ts">
import { nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { parseMoney } from '../../core/money.ts';
import { useTillStore } from '../setup/tillStore.ts';
import { useBasketStore } from './basketStore.ts';

const basket = useBasketStore();
const till = useTillStore();
const typed = ref('');
const wrong = ref('');
const field = useTemplateRef<HTMLInputElement>('field');
onMounted(() => field.value?.focus());

async function accept(): Promise<void> {
  const price = parseMoney(typed.value, till.digits);
  if (price === null || price < 0) {
    wrong.value = 'Type the price of one, for example 12.50.';
    return;
  }
  await basket.answerPrice(price);
  await nextTick();
  field.value?.focus();
}
</script>

<template>
  <form class="panel" @submit.prevent="accept" @keydown.f9.prevent="accept">
    <h2 class="title">{{ basket.asking?.item.name }}</h2>
    <label for="price"
      >Has no fixed price. What does
      {{ basket.asking?.item.unit === 'each' ? 'one' : `one ${basket.asking?.item.unit}` }} cost?</label
    >
    <input
      id="price"
      ref="field"
      v-model="typed"
      class="big-field num"
      inputmode="decimal"
      autocomplete="off"
      :aria-invalid="wrong !== ''"
      aria-describedby="price-wrong"
    />
    <p id="price-wrong" class="bad" role="alert">{{ wrong }}</p>
    <div class="acts">
      <v-btn @click="basket.asking = null">Leave it <kbd>Esc</kbd></v-btn>
      <v-btn class="go" type="submit">Add <kbd>Enter</kbd></v-btn>
    </div>
  </form>
</template>
