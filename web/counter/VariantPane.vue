<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';
import { kindOf, type Item } from '../../core/goods/item.ts';
import { variantMatrix } from '../../core/goods/variants.ts';
import { formatQuantity } from '../../core/quantity.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { catalogue } from '../sale/catalogue/thread.ts';
import { useQuestionStore } from '../sale/questionStore.ts';
import { useAnswer } from '../notices/answer.ts';

const { family } = defineProps<{ family: Item }>();

const questions = useQuestionStore();
const till = useTillStore();
const grid = useTemplateRef<HTMLTableElement>('grid');
const panel = useTemplateRef('panel');
const row = ref(0);
const column = ref(0);

const variants = useAnswer(() => catalogue.variants(family.id), []);
const matrix = computed(() =>
  variantMatrix(
    family.more?.axes ?? [],
    variants.value.filter((one) => kindOf(one) === 'goods'),
  ),
);
const prices = computed(() => new Set(variants.value.map(({ price }) => price)));
const onePrice = computed(() => (prices.value.size === 1 ? variants.value[0]?.price : null));

async function focusCell(): Promise<void> {
  await nextTick();
  grid.value?.querySelector<HTMLElement>(`[data-cell="${row.value}-${column.value}"]`)?.focus();
}

/** Starts at the first variant that is in stock here. */
watch(matrix, ({ rows }) => {
  const at = rows.findIndex(({ cells }) => cells.some((cell) => (cell?.stock ?? 0) > 0));
  row.value = Math.max(0, at);
  const cells = rows[row.value]?.cells ?? [];
  const stocked = cells.findIndex((cell) => (cell?.stock ?? 0) > 0);
  column.value = stocked >= 0 ? stocked : Math.max(0, cells.findIndex(Boolean));
  void focusCell();
});

/** The next cell that way that has a variant in it; at the edge it stays. */
function move(down: number, across: number): void {
  let [toRow, toColumn] = [row.value + down, column.value + across];
  const { rows } = matrix.value;
  while (rows[toRow] && toColumn >= 0 && toColumn < matrix.value.columns.length) {
    if (rows[toRow]?.cells[toColumn]) {
      [row.value, column.value] = [toRow, toColumn];
      return void focusCell();
    }
    toRow += down;
    toColumn += across;
  }
}

const MOVES = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
] as const;
useKeys(
  'variants',
  {
    move: (_event, nth) => {
      const [down, across] = MOVES[nth] ?? [0, 0];
      move(down, across);
    },
    leave: () => questions.leave(),
  },
  { within: panel },
);

const stockWords = ({ stock, unit }: Item) =>
  stock === null ? '' : `${formatQuantity(stock)}${unit === 'each' ? '' : ` ${unit}`}`;
const cellLabel = (item: Item) =>
  `${item.name}, ${item.stock === null ? 'not kept in stock' : `${stockWords(item)} here`}${item.price === null ? '' : `, ${till.money(item.price)}`}`;
</script>

<template>
  <section ref="panel" class="panel" aria-labelledby="variant-title">
    <h2 id="variant-title" class="title">{{ family.name }}</h2>
    <p>
      Which {{ (family.more?.axes ?? []).join(' and ').toLowerCase() }}?
      <span v-if="onePrice != null" class="num price">{{ till.money(onePrice) }}</span>
    </p>
    <div class="scroll across">
      <table ref="grid" role="grid" aria-labelledby="variant-title">
        <thead v-if="matrix.across">
          <tr>
            <th scope="col" class="soft">{{ matrix.down }}</th>
            <th v-for="name in matrix.columns" :key="name" scope="col">{{ name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(line, at) in matrix.rows" :key="line.name">
            <th scope="row">{{ line.name }}</th>
            <td v-for="(item, place) in line.cells" :key="place">
              <button
                v-if="item"
                type="button"
                class="cell"
                :class="{ none: item.stock !== null && item.stock <= 0 }"
                :data-cell="`${at}-${place}`"
                :tabindex="at === row && place === column ? 0 : -1"
                :aria-label="cellLabel(item)"
                @focus="
                  row = at;
                  column = place;
                "
                @click="questions.answer('variant', item)"
              >
                <span class="num stock">{{ stockWords(item) || '·' }}</span>
                <small v-if="onePrice == null && item.price !== null" class="num">{{
                  till.money(item.price)
                }}</small>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="soft">The figure is what is in stock here; <b class="none">0</b> can be sold all the same.</p>
    <div class="acts">
      <v-btn @click="questions.leave()">Cancel <KeyHint of="variants.leave" /></v-btn>
      <span class="soft"><kbd>← → ↑ ↓</kbd> choose, <kbd>Enter</kbd> adds</span>
    </div>
  </section>
</template>

<style scoped>
.across {
  overflow-x: auto;
}
.price {
  font-weight: 600;
}
th {
  font-weight: 650;
  border: 0;
  vertical-align: middle;
}
thead th:not(:first-child) {
  text-align: center;
  padding: 4px 2px;
}
td {
  border: 1.5px solid var(--ink);
  padding: 0;
  height: 52px;
  min-width: 52px;
}
.cell {
  width: 100%;
  height: 52px;
  display: grid;
  place-items: center;
  align-content: center;
  text-align: center;
}
.cell:focus {
  background: var(--blue);
  color: var(--on-blue);
  outline-offset: -4px;
}
.stock {
  font-size: 19px;
  font-weight: 600;
}
.none,
.cell.none .stock {
  color: var(--red);
}
.cell.none:focus .stock {
  color: var(--on-blue);
}
small {
  font-size: 12.5px;
}
</style>
