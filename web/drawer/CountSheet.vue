<script setup lang="ts">
import { computed, ref } from 'vue';
import { parseMoney } from '../../core/money.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useDrawerStore } from './drawerStore.ts';
import StepperField from '../look/StepperField.vue';

const { title, closing = false } = defineProps<{ title: string; locked?: boolean; closing?: boolean }>();
const emit = defineEmits<{ done: [] }>();

const drawer = useDrawerStore();
const till = useTillStore();
const kinds = computed(() => till.facts?.currency.pieces ?? []);
/** One total may be typed where the shop allows it, as long as no pieces are counted: nothing counted is lost by it. */
const asTotal = computed(
  () => closing && (till.facts?.shop.countAsTotal ?? false) && Object.keys(drawer.pieces).length === 0,
);
/** What stands in a field while it is not a count. */
const odd = ref(new Map<number, string>());

const countOf = (value: number) => drawer.pieces[value] ?? 0;

/** Takes pieces (`12`) or, with a decimal point, an amount (`3.00`) that the piece divides. */
function type(value: number, text: string): void {
  const plain = text.trim();
  const amount = /[.,]/.test(plain) ? parseMoney(plain, till.digits) : null;
  const pieces = amount === null ? Number(plain || '0') : amount / value;
  if (Number.isInteger(pieces) && pieces >= 0 && pieces <= 100_000) {
    odd.value.delete(value);
    drawer.count(value, pieces);
  } else {
    odd.value.set(value, text);
  }
}

function move(event: KeyboardEvent, by: 1 | -1): void {
  event.preventDefault();
  const fields = [...document.querySelectorAll<HTMLInputElement>('.sheet ol input')];
  const next = fields[fields.indexOf(event.target as HTMLInputElement) + by];
  if (next) {
    next.focus();
    next.select();
  } else if (by === 1 && event.key === 'Enter') {
    emit('done');
  }
}
</script>

<template>
  <section class="zone sheet" aria-labelledby="sheet-title">
    <header class="head">
      <h1 id="sheet-title" class="title">{{ title }}</h1>
      <span class="soft">pieces, or an amount like {{ till.example(3) }}</span>
    </header>
    <ol class="scroll">
      <li v-for="{ value } in kinds" :key="value" class="row">
        <label class="num d" :for="`pieces-${value}`">{{ till.money(value) }}</label>
        <StepperField
          typed
          :less="`One ${till.money(value)} less`"
          :more="`One ${till.money(value)} more`"
          :no-less="locked || drawer.typedTotal !== ''"
          :no-more="locked || drawer.typedTotal !== ''"
          @step="(by) => drawer.count(value, Math.max(0, countOf(value) + by))"
        >
          <input
            :id="`pieces-${value}`"
            class="num"
            inputmode="decimal"
            autocomplete="off"
            :disabled="locked || drawer.typedTotal !== ''"
            :value="odd.get(value) ?? (countOf(value) || '')"
            placeholder="0"
            :aria-invalid="odd.has(value)"
            @input="type(value, ($event.target as HTMLInputElement).value)"
            @focus="($event.target as HTMLInputElement).select()"
            @keydown.enter="move($event, 1)"
            @keydown.down="move($event, 1)"
            @keydown.up="move($event, -1)"
          />
        </StepperField>
        <span v-if="odd.has(value)" class="bad amt" role="alert">whole pieces, please</span>
        <span v-else class="num amt">{{ till.money(countOf(value) * value) }}</span>
      </li>
    </ol>
    <footer class="sum">
      <label v-if="asTotal" for="count-total"><b>Counted in all</b></label>
      <b v-else>Counted</b>
      <input
        v-if="asTotal"
        id="count-total"
        class="num big-field"
        inputmode="decimal"
        autocomplete="off"
        :disabled="locked"
        :placeholder="till.money(drawer.counted)"
        :value="drawer.typedTotal"
        :aria-invalid="drawer.totalWrong"
        @input="drawer.countTotal(($event.target as HTMLInputElement).value)"
        @keydown.enter.prevent="emit('done')"
      />
      <span class="num big" data-test="counted">{{ till.money(drawer.counted) }}</span>
    </footer>
  </section>
</template>

<style scoped>
ol {
  flex: 1;
}
.row {
  display: grid;
  grid-template-columns: minmax(72px, 96px) 1fr minmax(84px, 120px);
  align-items: center;
  min-height: 48px;
  border-bottom: var(--hair);
  padding: 0 18px;
}
.row:focus-within {
  background: var(--blue-wash);
  box-shadow: inset 6px 0 0 var(--blue);
}
.d,
.amt {
  font-weight: 600;
  font-size: 17px;
}
.amt {
  text-align: right;
}
.amt.bad {
  font-size: 13px;
}
.sum {
  display: flex;
  justify-content: space-between;
  align-items: flex-end;
  padding: 14px 18px;
  border-top: var(--rule);
}
.big {
  font-size: 40px;
  line-height: 1;
  font-weight: 600;
}
.row input::placeholder {
  color: var(--soft);
  opacity: 1;
}
</style>
