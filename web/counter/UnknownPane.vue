<script setup lang="ts">
import { computed, nextTick, onMounted, reactive, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { kindOf, type Item } from '../../core/goods/item.ts';
import { parseMoney } from '../../core/money.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useItemStore } from '../goods/itemStore.ts';
import { formWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useRingUpStore } from '../sale/ringUpStore.ts';
import { useQuestionStore } from '../sale/questionStore.ts';
import { ENTRY } from '../keys/entry.ts';
import BigField from '../look/BigField.vue';
import LookUp from '../look/LookUp.vue';
import WaitButton from '../look/WaitButton.vue';

const { code } = defineProps<{ code: string }>();

const questions = useQuestionStore();
const ringUp = useRingUpStore();
const items = useItemStore();
const session = useSessionStore();
const till = useTillStore();
const notices = useNoticeStore();
const panel = useTemplateRef('panel');
/** What is being done about the code. */
const way = ref<'choose' | 'tie' | 'new'>('choose');
const fresh = reactive({ name: '', price: '', category: '', taxCategoryId: 0 });
const wrong = ref('');
const busy = ref(false);

const mayEdit = computed(() => session.may('goods.edit'));
const openItemId = computed(() => till.facts?.shop.openItemId ?? null);
const taxes = computed(() => till.facts?.taxCategories ?? []);

const find = async (words: string) =>
  (await catalogue.search(words, 8)).filter((item) => kindOf(item) !== 'family');
const of = ({ id, name, number }: Item) => ({ key: id, name, beneath: number });

async function focusFirst(): Promise<void> {
  await nextTick();
  panel.value?.querySelector<HTMLElement>('input, button')?.focus();
}
onMounted(focusFirst);

function go(to: 'tie' | 'new'): void {
  way.value = to;
  fresh.taxCategoryId = taxes.value[0]?.id ?? 0;
  void focusFirst();
}

/** Back to the entry field, to search by name. */
function search(): void {
  questions.answer('unknown', 'done');
  document.querySelector<HTMLInputElement>(`input[name="${ENTRY}"]`)?.focus();
}

async function sellOpen(): Promise<void> {
  const [item] = await catalogue.find(openItemId.value === null ? [] : [openItemId.value]);
  if (item) questions.answer('unknown', item);
}

/** Does something on the server, then rings the item up. */
async function then(work: () => Promise<number>, done: string): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    const itemId = await work();
    await catalogue.refresh();
    const [item] = await catalogue.find([itemId]);
    if (item) questions.answer('unknown', item);
    await ringUp.caughtUp();
    notices.say(done);
  } catch (error) {
    wrong.value = formWords(error);
  } finally {
    busy.value = false;
  }
}

const tie = (item: Item) =>
  then(async () => {
    await items.tieCode(item.id, code);
    return item.id;
  }, `${code} means ${item.name} from now on.`);

function addNew(): Promise<void> | void {
  const price = parseMoney(fresh.price, till.digits);
  if (price === null || price < 0) {
    wrong.value = `Type the price of one, for example ${till.example(12.5)}.`;
    return;
  }
  const { name, category, taxCategoryId } = fresh;
  return then(
    async () => (await items.addItem({ code, name, price, category, taxCategoryId })).id,
    `${name} is among the goods from now on.`,
  );
}
useKeys('form', { leave: () => questions.leave() }, { within: panel });
</script>

<template>
  <section ref="panel" class="panel" aria-labelledby="unknown-title">
    <h2 id="unknown-title" class="title">Unknown code</h2>
    <p class="num code">{{ code }}</p>
    <div v-if="way === 'choose'" class="ways">
      <v-btn block height="56" @click="search">Search by name</v-btn>
      <v-btn v-if="openItemId !== null" block height="56" @click="sellOpen">Sell it at an open price</v-btn>
      <template v-if="mayEdit">
        <v-btn block height="56" @click="go('tie')">Tie the code to an item</v-btn>
        <v-btn block height="56" @click="go('new')">Add it as a new item</v-btn>
      </template>
      <p v-else class="soft">Somebody with more rights can tie the code to an item.</p>
    </div>
    <template v-else-if="way === 'tie'">
      <LookUp id="tie" label="Which item has this code?" :search="find" :of :wait="0" keeps @take="tie" />
    </template>
    <form v-else class="ways" @submit.prevent="addNew">
      <BigField id="new-name" v-model="fresh.name" label="What is it called?" maxlength="120" />
      <BigField id="new-price" v-model="fresh.price" label="Price of one" kind="figure" />
      <BigField id="new-category" v-model="fresh.category" label="Category" maxlength="60" />
      <v-select v-model="fresh.taxCategoryId" :items="taxes" item-title="name" item-value="id" label="Tax" />
      <WaitButton class="go" type="submit" :loading="busy">Add <KeyHint of="form.accept" /></WaitButton>
    </form>
    <p class="bad" role="alert">{{ wrong }}</p>
    <v-btn @click="questions.leave()">Cancel <KeyHint of="form.leave" /></v-btn>
  </section>
</template>

<style scoped>
.code {
  font-size: 22px;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.ways {
  display: grid;
  gap: 10px;
}
</style>
