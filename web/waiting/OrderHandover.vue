<script setup lang="ts">
import { computed, reactive, ref } from 'vue';
import type { CollectWanted, ShipWanted } from '../../contract/orders.ts';
import type { PromiseView } from '../../contract/promises.ts';
import { overProblem } from '../../core/promises/may.ts';
import { formatWeight } from '../../core/promises/shipping.ts';
import BigField from '../look/BigField.vue';
import DateField from '../look/DateField.vue';
import TimeField from '../look/TimeField.vue';
import TypedBefore from '../look/TypedBefore.vue';
import { useRememberedInTurn } from '../look/remembered.ts';
import { useAttempt } from '../notices/attempt.ts';
import { useTillStore } from '../shop/tillStore.ts';
import ShipFields from './ShipFields.vue';
import { NO_ADDRESS } from './orderDraft.ts';
import { useOrderStore } from './orderStore.ts';

/** Where and when an order is collected, where it is shipped, and its parcels. */
const { view } = defineProps<{ view: PromiseView }>();
const orders = useOrderStore();
const till = useTillStore();
const { wrong, attempt } = useAttempt();
const open = computed(() => overProblem(view) === null);
const handover = computed(() => view.handover ?? { version: 0, collect: null, ship: null, parcels: [] });
/** Of what was looked at when the change began. */
let version = 0;
const changing = ref(false);
const collect = reactive<CollectWanted>({ placeId: 0, day: '', time: '', collector: '' });
const ship = reactive<ShipWanted>({ ...NO_ADDRESS });
const { remembered, begin, end } = useRememberedInTurn();

function change(): void {
  const now = handover.value;
  if (now.collect) {
    const { placeId, day, time, collector } = now.collect;
    Object.assign(collect, { placeId, day, time, collector });
  }
  if (now.ship) {
    const { recipient, street, postcode, city, phone, wishes, gift } = now.ship;
    Object.assign(ship, { recipient, street, postcode, city, phone, wishes, gift });
  }
  version = now.version;
  begin(`handover of ${view.id} ${version}`, () => view.number, [collect, ship]);
  changing.value = true;
}
function leave(): void {
  end();
  changing.value = false;
}
async function keep(): Promise<void> {
  const wanted = {
    version,
    collect: handover.value.collect ? { ...collect } : null,
    ship: handover.value.ship ? { ...ship } : null,
  };
  if (!(await attempt(orders.changeHandover(view.id, wanted), 'Changed.'))) return;
  remembered.value?.kept();
  leave();
}
const label = (parcel: string): string => `/api/waiting/orders/${view.id}/parcels/${parcel}/label.pdf`;
</script>

<template>
  <form v-if="changing" class="form" @submit.prevent="keep">
    <TypedBefore v-if="remembered" :of="remembered" />
    <template v-if="handover.collect">
      <DateField v-model="collect.day" label="Day" :wrong="wrong['collect.day']" />
      <TimeField v-model="collect.time" label="Time" :wrong="wrong['collect.time']" />
      <BigField
        id="handover-collector"
        v-model="collect.collector"
        label="Who else may collect"
        maxlength="80"
      />
    </template>
    <ShipFields v-if="handover.ship" v-model="ship" :wrong />
    <div class="acts">
      <v-btn @click="leave">Cancel</v-btn>
      <v-btn class="go" type="submit">Keep it</v-btn>
    </div>
  </form>
  <div v-else class="handover">
    <dl v-if="handover.collect" class="facts">
      <dt>Collected at</dt>
      <dd>
        <b>{{ handover.collect.place }}</b>, {{ till.calendarDay(handover.collect.day) }},
        {{ till.timeOfDay(handover.collect.time) }}
      </dd>
      <template v-if="handover.collect.collector">
        <dt>Or by</dt>
        <dd>{{ handover.collect.collector }}</dd>
      </template>
    </dl>
    <dl v-if="handover.ship" class="facts">
      <dt>Shipped to</dt>
      <dd>
        <b>{{ handover.ship.recipient }}</b>, {{ handover.ship.street }},
        <span class="num">{{ handover.ship.postcode }}</span> {{ handover.ship.city }}
      </dd>
      <template v-if="handover.ship.phone">
        <dt>Telephone</dt>
        <dd class="num">{{ handover.ship.phone }}</dd>
      </template>
      <template v-if="handover.ship.wishes">
        <dt>Wishes</dt>
        <dd>{{ handover.ship.wishes }}</dd>
      </template>
      <dt>
        {{ [handover.ship.gift && 'A gift', handover.ship.zone].filter(Boolean).join(', ') || 'Weight' }}
      </dt>
      <dd class="num">{{ formatWeight(handover.ship.weight) }}</dd>
      <template v-for="parcel in handover.parcels" :key="parcel.id">
        <dt>Parcel</dt>
        <dd v-if="parcel.tracking">
          <span class="num">{{ parcel.tracking }}</span>
          <a class="word" :href="label(parcel.id)" target="_blank">Open the label</a>
        </dd>
        <dd v-else class="soft">{{ parcel.trouble || 'The carrier is being asked.' }}</dd>
      </template>
    </dl>
    <div v-if="open" class="acts">
      <v-btn @click="change">Change this</v-btn>
      <template v-if="handover.ship">
        <v-btn
          v-if="!handover.parcels.some(({ state }) => state === 'waiting')"
          @click="attempt(orders.askForLabel(view.id), 'The carrier is asked for a label.')"
          >{{ handover.parcels.length === 0 ? 'Make the label' : 'Another label' }}</v-btn
        >
        <v-btn @click="orders.print(view, 'packing-slip')">Packing slip</v-btn>
      </template>
      <v-btn @click="orders.print(view, 'pick-list')">Pick list</v-btn>
    </div>
  </div>
</template>

<style scoped>
.facts {
  grid-template-columns: auto 1fr;
}
.form,
.handover {
  display: grid;
  gap: 10px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
