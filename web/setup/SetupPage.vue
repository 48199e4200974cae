<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue';
import type { ShopSettings, StaffMember } from '../../contract/setup.ts';
import { formatMoney, parseMoney } from '../../core/money.ts';
import { RIGHTS, ROLES, type Right, type Role } from '../../core/staff/rights.ts';
import { useNoticeStore } from '../frame/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/api.ts';
import { useSetupStore } from './setupStore.ts';
import { useTillStore } from './tillStore.ts';

const setup = useSetupStore();
const till = useTillStore();
const notices = useNoticeStore();
const wrong = ref<Record<string, string>>({});

const plain = (amount: number) => formatMoney(amount, till.digits).replaceAll(',', '');
const shop = reactive({
  name: '',
  openingFloat: '',
  openPriceLimit: '',
  lockMinutes: '',
  receiptWords: '',
  receiptThanks: '',
});
const person = reactive({ name: '', role: 'cashier' as Role, pin: '' });
const place = reactive({ name: '', kind: 'shop' as 'shop' | 'stock' });
const newTill = reactive({ number: '', placeId: null as number | null });
const pins = reactive<Record<number, string>>({});

const sellingPlaces = computed(() =>
  (setup.facts?.places ?? [])
    .filter(({ kind }) => kind === 'shop')
    .map(({ id, name }) => ({ value: id, title: name })),
);
const roles = ROLES.map((role) => ({ value: role, title: role }));

watch(
  () => setup.facts?.shop,
  (now) => {
    if (!now) return;
    Object.assign(shop, {
      ...now,
      openingFloat: plain(now.openingFloat),
      openPriceLimit: plain(now.openPriceLimit),
      lockMinutes: String(now.lockMinutes),
      receiptWords: now.receiptWords.join('\n'),
    });
  },
);
onMounted(() => void attempt('load', setup.load(), ''));

/** Does something and says that it is done, or what is wrong next to its field. */
async function attempt(form: string, work: Promise<unknown>, done: string): Promise<boolean> {
  wrong.value = {};
  try {
    await work;
    if (done) notices.say(done);
    return true;
  } catch (error) {
    const fields = error instanceof ApiProblem ? (error.details.fields ?? []) : [];
    wrong.value = Object.fromEntries(fields.map(({ field, message }) => [`${form}.${field}`, message]));
    notices.failed(problemWords(error));
    if (form === 'rights') await setup.load();
    return false;
  }
}

async function saveShop(): Promise<void> {
  const openingFloat = parseMoney(shop.openingFloat, till.digits);
  const openPriceLimit = parseMoney(shop.openPriceLimit, till.digits);
  if (openingFloat === null || openPriceLimit === null) {
    const message = 'Type an amount, for example 200.00.';
    wrong.value = {
      ...(openingFloat === null ? { 'shop.openingFloat': message } : {}),
      ...(openPriceLimit === null ? { 'shop.openPriceLimit': message } : {}),
    };
    return;
  }
  const next: ShopSettings = {
    name: shop.name,
    openingFloat,
    openPriceLimit,
    lockMinutes: Number(shop.lockMinutes),
    receiptWords: shop.receiptWords.split('\n').filter((line) => line.trim()),
    receiptThanks: shop.receiptThanks,
  };
  await attempt('shop', setup.saveShop(next), 'The shop is changed.');
}

async function addPerson(): Promise<void> {
  if (await attempt('person', setup.addStaff({ ...person }), `${person.name} can sign in.`))
    Object.assign(person, { name: '', pin: '' });
}

async function change(member: StaffMember, words: string): Promise<void> {
  const pin = pins[member.id];
  if (await attempt(`staff-${member.id}`, setup.changeStaff({ ...member, ...(pin ? { pin } : {}) }), words))
    pins[member.id] = '';
}

async function addPlace(): Promise<void> {
  if (await attempt('place', setup.addPlace({ ...place }), `${place.name} is added.`)) place.name = '';
}

async function addTill(): Promise<void> {
  const wanted = { number: Number(newTill.number), placeId: newTill.placeId ?? 0 };
  if (await attempt('till', setup.addTill(wanted), `Till ${newTill.number} is added.`)) newTill.number = '';
}

const has = (role: Role, right: string) => setup.facts?.rights[role].includes(right as Right) ?? false;
</script>

<template>
  <div class="setup scroll">
    <h1 class="hidden-text">Setup</h1>
    <template v-if="setup.facts">
      <form class="block" novalidate aria-labelledby="shop-title" @submit.prevent="saveShop">
        <h2 id="shop-title" class="title">Shop</h2>
        <div class="fields">
          <v-text-field v-model="shop.name" label="Name" :error-messages="wrong['shop.name']" />
          <v-text-field
            v-model="shop.openingFloat"
            label="Usual float"
            inputmode="decimal"
            :error-messages="wrong['shop.openingFloat']"
          />
          <v-text-field
            v-model="shop.openPriceLimit"
            label="Open prices up to, without approval"
            inputmode="decimal"
            :error-messages="wrong['shop.openPriceLimit']"
          />
          <v-text-field
            v-model="shop.lockMinutes"
            label="Lock a till after so many minutes (0: never)"
            inputmode="numeric"
            :error-messages="wrong['shop.lockMinutes']"
          />
          <v-textarea
            v-model="shop.receiptWords"
            label="At the top of receipts, one line each"
            rows="2"
            auto-grow
            :error-messages="wrong['shop.receiptWords']"
          />
          <v-text-field
            v-model="shop.receiptThanks"
            label="At the end of receipts"
            :error-messages="wrong['shop.receiptThanks']"
          />
        </div>
        <div class="acts"><v-btn class="go" type="submit">Keep the changes</v-btn></div>
      </form>

      <section class="block" aria-labelledby="staff-title">
        <h2 id="staff-title" class="title">Staff</h2>
        <ul class="people">
          <li v-for="member in setup.facts.staff" :key="member.id" :class="{ soft: !member.active }">
            <b>{{ member.name }}</b>
            <v-select
              :model-value="member.role"
              :items="roles"
              :label="`Role of ${member.name}`"
              :disabled="!member.active"
              @update:model-value="change({ ...member, role: $event }, `${member.name} is ${$event} now.`)"
            />
            <v-text-field
              v-model="pins[member.id]"
              :label="`New PIN for ${member.name}`"
              type="password"
              inputmode="numeric"
              autocomplete="new-password"
              :disabled="!member.active"
              :error-messages="wrong[`staff-${member.id}.pin`]"
              @keydown.enter="change(member, `${member.name} has a new PIN.`)"
            />
            <v-btn
              :class="{ stop: member.active }"
              @click="
                change(
                  { ...member, active: !member.active },
                  member.active
                    ? `${member.name} can no longer sign in.`
                    : `${member.name} can sign in again.`,
                )
              "
            >
              {{ member.active ? 'Works here no more' : 'Works here again' }}
            </v-btn>
          </li>
        </ul>
        <form class="adding" novalidate @submit.prevent="addPerson">
          <v-text-field
            v-model="person.name"
            label="Name of a new person"
            :error-messages="wrong['person.name']"
          />
          <v-select v-model="person.role" :items="roles" label="Role" />
          <v-text-field
            v-model="person.pin"
            label="PIN"
            type="password"
            inputmode="numeric"
            autocomplete="new-password"
            :error-messages="wrong['person.pin']"
          />
          <v-btn class="go" type="submit">Add</v-btn>
        </form>
      </section>

      <section class="block" aria-labelledby="rights-title">
        <h2 id="rights-title" class="title">Rights</h2>
        <p class="soft">Who lacks a right can have a step approved in place by somebody who has it.</p>
        <table>
          <thead>
            <tr>
              <th scope="col">May</th>
              <th v-for="role in ROLES" :key="role" scope="col">{{ role }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(words, right) in RIGHTS" :key="right">
              <th scope="row">{{ words }}</th>
              <td v-for="role in ROLES" :key="role">
                <label>
                  <input
                    type="checkbox"
                    :checked="has(role, right)"
                    :aria-label="`${role}: ${words}`"
                    @change="
                      attempt(
                        'rights',
                        setup.setRight(role, right, ($event.target as HTMLInputElement).checked),
                        '',
                      )
                    "
                  />
                </label>
              </td>
            </tr>
          </tbody>
        </table>
      </section>

      <section class="block" aria-labelledby="places-title">
        <h2 id="places-title" class="title">Places and tills</h2>
        <ul class="list">
          <li v-for="one in setup.facts.places" :key="one.id">
            <b>{{ one.name }}</b> <span class="soft">{{ one.kind === 'shop' ? 'sells' : 'stock only' }}</span>
            <span>{{
              setup.facts.tills
                .filter(({ place: at }) => at === one.name)
                .map(({ number }) => `Till ${number}`)
                .join(', ')
            }}</span>
          </li>
        </ul>
        <form class="adding" novalidate @submit.prevent="addPlace">
          <v-text-field
            v-model="place.name"
            label="Name of a new place"
            :error-messages="wrong['place.name']"
          />
          <v-select
            v-model="place.kind"
            :items="[
              { value: 'shop', title: 'sells' },
              { value: 'stock', title: 'stock only' },
            ]"
            label="Kind"
          />
          <v-btn class="go" type="submit">Add place</v-btn>
        </form>
        <form class="adding" novalidate @submit.prevent="addTill">
          <v-text-field
            v-model="newTill.number"
            label="Number of a new till"
            inputmode="numeric"
            :error-messages="wrong['till.number']"
          />
          <v-select
            v-model="newTill.placeId"
            :items="sellingPlaces"
            label="Place"
            :error-messages="wrong['till.placeId']"
          />
          <v-btn class="go" type="submit">Add till</v-btn>
        </form>
      </section>
    </template>
  </div>
</template>

<style scoped>
.setup {
  padding: 22px;
  display: grid;
  gap: 22px;
  align-content: start;
}
.block {
  background: var(--surface);
  border: var(--group);
  padding: 18px;
  display: grid;
  gap: 14px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
}
.people,
.list {
  list-style: none;
}
.people li {
  display: grid;
  grid-template-columns: 160px 1fr 1fr auto;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
  border-top: var(--hair);
}
.list li {
  display: flex;
  gap: 14px;
  padding: 9px 0;
  border-top: var(--hair);
}
.adding {
  display: flex;
  gap: 12px;
  align-items: start;
  border-top: var(--group);
  padding-top: 14px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  padding: 4px 0;
  border-bottom: var(--hair);
  font-weight: 400;
}
thead th {
  font-weight: 700;
  font-size: 14px;
}
thead th:not(:first-child),
td {
  text-align: center;
  width: 130px;
}
td {
  border-bottom: var(--hair);
}
td label {
  display: grid;
  place-items: center;
  min-height: 44px;
  cursor: pointer;
}
input[type='checkbox'] {
  width: 22px;
  height: 22px;
  accent-color: var(--blue);
}
@media (max-width: 900px) {
  .fields {
    grid-template-columns: 1fr;
  }
  .people li {
    grid-template-columns: 1fr 1fr;
  }
  .adding {
    flex-wrap: wrap;
  }
}
</style>
