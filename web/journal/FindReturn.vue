<script setup lang="ts">
import { counted } from '../../core/locale.ts';
import { computed, ref } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useBasketStore } from '../sale/basketStore.ts';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import ReturnReason from './ReturnReason.vue';
import { useReturnsOf } from './returnsOf.ts';
import { useReturnStore } from './returnStore.ts';
import RowButton from '../look/RowButton.vue';

const returns = useReturnStore();
const basket = useBasketStore();
const work = useBasketWorkStore();
const till = useTillStore();
const text = ref('');
const item = ref('');

const customer = computed(() => basket.basket.customer);
const { bought, earlier, trouble } = useReturnsOf(() => customer.value?.id ?? null, returns);
</script>

<template>
  <h2 id="return-title" class="title">Return</h2>
  <form data-looks @submit.prevent="returns.find(text)">
    <div class="ask">
      <BigField
        id="return-receipt"
        v-model="text"
        label="Scan the receipt, or type its number"
        kind="code"
        placeholder="1-0001"
      />
      <v-btn class="go" type="submit" :disabled="!text.trim()">Find</v-btn>
    </div>
  </form>
  <template v-if="customer">
    <h3 class="label">{{ customer.name }} bought</h3>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <ul v-if="bought && bought.length > 0" class="bought ruled">
      <li v-for="row in bought" :key="row.id">
        <RowButton @click="returns.open(row.id)">
          <span class="what"
            ><b class="num">{{ row.number }}</b
            ><span class="soft"
              >{{ till.time(row.finishedAt, 'full') }} · {{ row.firstLine
              }}{{ row.lines > 1 ? ` and ${row.lines - 1} more` : '' }}</span
            ></span
          >
          <span class="num">{{ till.money(row.total) }}</span>
        </RowButton>
      </li>
    </ul>
    <p v-else-if="bought" class="soft">Nothing is noted for this customer.</p>
  </template>
  <p v-else class="soft">
    With a customer on the sale, their purchases are listed here: <KeyHint of="counter.customer" />
  </p>
  <form class="without" data-looks @submit.prevent="returns.takeWithoutReceipt(item)">
    <h3 class="label">Without a receipt</h3>
    <p v-if="earlier && earlier.count >= earlier.warning" class="say">
      <b>{{ counted(earlier.count, 'return') }} without a receipt in {{ counted(earlier.days, 'day') }},</b>
      worth {{ till.money(earlier.amount) }}.
    </p>
    <p v-else-if="earlier && earlier.count > 0" class="soft">
      {{ counted(earlier.count, 'return') }} in {{ counted(earlier.days, 'day') }}, worth
      {{ till.money(earlier.amount) }}.
    </p>
    <p class="soft">At the lowest recent price, to store credit, with an approval.</p>
    <ReturnReason />
    <div class="ask">
      <BigField
        id="return-item"
        v-model="item"
        label="Scan the goods, or type their number or name"
        :disabled="!customer"
      />
      <v-btn class="go" type="submit" :disabled="!item.trim() || !customer">Take back</v-btn>
    </div>
    <p v-if="!customer" class="soft">
      Store credit needs a customer: <KeyHint of="returning.leave" />, then <KeyHint of="counter.customer" />.
    </p>
  </form>
  <div class="acts">
    <v-btn @click="work.leave()">Cancel <KeyHint of="returning.leave" /></v-btn>
  </div>
</template>

<style scoped>
.bought .list-row {
  padding-inline: 12px;
}
.say {
  background: var(--yellow-wash);
  border-left: 12px solid var(--yellow);
  padding: 10px 12px;
}
.ask {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 10px;
  align-items: center;
}
.ask :deep(label) {
  grid-column: 1 / -1;
}
.without {
  display: grid;
  gap: 8px;
  border-top: var(--group);
  padding-top: 12px;
}
</style>
