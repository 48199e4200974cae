<script setup lang="ts">
import { computed, reactive, ref, shallowRef, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { lineAmount } from '../../core/quantity.ts';
import FormPanel from '../look/FormPanel.vue';
import { useFormAnswer } from '../look/formAnswer.ts';
import { problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import PartRows from './PartRows.vue';
import { partMistakes, wantedParts, type PartRow } from './partRow.ts';
import { useItemPageStore } from './itemPageStore.ts';
import { useNewItem } from './newItem.ts';
import WordButton from '../look/WordButton.vue';
import { useWayOn } from '../look/wayOn.ts';

/** A new bundle: several goods that are rung up with one code, each at its own price. */
const store = useItemPageStore();
const till = useTillStore();
const notices = useNoticeStore();
const router = useRouter();
const goOn = useWayOn();
const panel = useTemplateRef('panel');
const { wrong, whole, busy, send } = useFormAnswer(panel);

const { item, categories } = useNewItem({ stocked: false });
const code = ref('');
const parts = shallowRef<PartRow[]>([]);
const typed = reactive({ code, parts });
const together = computed(() =>
  parts.value.every(({ price, quantity }) => price !== null && quantity > 0)
    ? parts.value.reduce((all, { price, quantity }) => all + lineAmount(price ?? 0, quantity), 0)
    : null,
);

async function addOwnCode(): Promise<void> {
  try {
    code.value = await store.ownCode();
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
const accept = () =>
  send(partMistakes(parts.value), async () => {
    const codes = code.value.trim() ? [code.value.trim()] : [];
    const record = { ...item, codes, number: item.number || code.value.trim() };
    const id = await store.addBundle(record, wantedParts(parts.value));
    notices.say(`${item.name} can be sold on every till.`);
    await goOn(`/goods/${id}`);
  });
</script>

<template>
  <div class="scroll page">
    <FormPanel
      ref="panel"
      class="form"
      title="A new bundle"
      done="Make it"
      :busy
      :wrong="whole"
      remembers="new bundle"
      :fields="[item, typed]"
      @accept="accept"
      @leave="router.push('/goods')"
    >
      <v-text-field v-model="item.name" label="Name" maxlength="120" :error-messages="wrong.name" />
      <div class="side-by-side">
        <v-text-field v-model="item.number" label="Number" maxlength="40" :error-messages="wrong.number" />
        <v-combobox
          v-model="item.category"
          label="Category"
          :items="categories"
          maxlength="60"
          :error-messages="wrong.category"
        />
      </div>
      <div class="code">
        <v-text-field
          v-model="code"
          label="Code, if it has one"
          maxlength="40"
          :error-messages="wrong.codes"
        />
        <WordButton @click="addOwnCode">One of our own</WordButton>
      </div>
      <PartRows v-model="parts" :wrong />
      <p v-if="parts.length > 0 && together !== null">
        Together <b class="num">{{ till.money(together) }}</b>. What is in it has its own price and tax; for
        less of it together, make an offer.
      </p>
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
.code {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: start;
}
</style>
