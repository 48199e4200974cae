<script setup lang="ts">
import { quantityWords } from '../../core/goods/itemRecord.ts';
import { multiplyDivide } from '../../core/money.ts';
import { ONE } from '../../core/quantity.ts';
import { deliveryNumber } from '../../core/supply/purchaseOrder.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import type { ItemSupply, LayerView } from '../../contract/supply.ts';
import WordButton from '../look/WordButton.vue';

/** From whom an item comes, when it is ordered again, and what lies there cost. */
const { supply, unit } = defineProps<{ supply: ItemSupply; unit: string }>();
const emit = defineEmits<{
  source: [source: ItemSupply['suppliers'][number] | undefined];
  reorder: [at: ItemSupply['reorder'][number]];
  correct: [layer: LayerView];
}>();

const till = useTillStore();
const session = useSessionStore();
const each = ({ cost, quantity }: LayerView) => till.money(multiplyDivide(cost, ONE, quantity));
</script>

<template>
  <section v-if="supply.layers.length > 0">
    <h2 class="label">
      What it cost<template v-if="supply.worth !== null">: {{ till.money(supply.worth) }} lie there</template>
    </h2>
    <ul>
      <li v-for="layer in supply.layers" :key="layer.id">
        <span
          ><b class="num">{{ quantityWords(layer.quantity, unit) }}</b> for
          <b class="num">{{ till.money(layer.cost) }}</b>, each <span class="num">{{ each(layer) }}</span>
          <span v-if="!layer.known" class="why">cost not known</span>
          <span class="soft beneath"
            ><router-link
              v-if="layer.delivery"
              class="word num"
              :to="`/goods/deliveries/${layer.delivery.id}`"
              >{{ deliveryNumber(layer.delivery.number) }}</router-link
            >
            {{ till.time(layer.at, 'full') }}, {{ layer.place }};
            {{ layer.left > 0 ? `${quantityWords(layer.left, unit)} left` : 'all gone' }}</span
          ></span
        >
        <WordButton @click="emit('correct', layer)">Correct the cost</WordButton>
      </li>
    </ul>
  </section>
  <section>
    <h2 class="label">From whom it comes</h2>
    <ul>
      <li v-for="source in supply.suppliers" :key="source.supplierId">
        <span
          ><router-link class="word" :to="`/goods/suppliers/${source.supplierId}`">{{
            source.supplier
          }}</router-link>
          <span v-if="source.first && supply.suppliers.length > 1" class="why">first</span>
          <span class="soft beneath"
            >{{ source.theirNumber
            }}<template v-if="source.pack !== ONE">
              · packs of {{ quantityWords(source.pack, unit) }}</template
            ><template v-if="source.least > 0">
              · no less than {{ quantityWords(source.least, unit) }}</template
            ></span
          ></span
        >
        <span class="right"
          ><span class="num">{{ source.cost === null ? '' : till.money(source.cost) }}</span
          ><WordButton v-if="session.may('goods.order')" @click="emit('source', source)">
            Change
          </WordButton></span
        >
      </li>
      <li v-if="session.may('goods.order')">
        <WordButton v-if="supply.known.length > 0" @click="emit('source', undefined)">
          Add a supplier
        </WordButton>
        <router-link v-else class="word" to="/goods/suppliers">Add the first supplier</router-link>
      </li>
    </ul>
  </section>
  <section>
    <h2 class="label">Ordered again</h2>
    <ul>
      <li v-for="at in supply.reorder" :key="at.placeId">
        <span
          >{{ at.place
          }}<span v-if="at.onOrder > 0" class="soft beneath"
            >{{ quantityWords(at.onOrder, unit) }} on order</span
          ></span
        >
        <span class="right"
          ><span v-if="at.point !== null && at.target !== null"
            >below <b class="num">{{ quantityWords(at.point, unit) }}</b>, up to
            <b class="num">{{ quantityWords(at.target, unit) }}</b></span
          ><WordButton v-if="session.may('goods.order')" @click="emit('reorder', at)">
            {{ at.point === null ? 'Set' : 'Change' }}
          </WordButton></span
        >
      </li>
    </ul>
  </section>
</template>
