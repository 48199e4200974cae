<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import type { CustomerPage } from '../../contract/people.ts';
import { formWords, problemWords } from '../net/problem.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useScans } from '../sale/scanner.ts';
import { useTillStore } from '../shop/tillStore.ts';
import BigField from '../look/BigField.vue';
import { useCustomerPageStore } from './customerPageStore.ts';
import ChipButton from '../look/ChipButton.vue';
import WaitButton from '../look/WaitButton.vue';

/** The cards of a customer: a new one is scanned in, a lost one stops at once. */
const { page } = defineProps<{ page: CustomerPage; mayChange: boolean }>();

const store = useCustomerPageStore();
const till = useTillStore();
const notices = useNoticeStore();
const field = useTemplateRef<InstanceType<typeof BigField>>('field');
const giving = ref(false);
const code = ref('');
const wrong = ref('');
const busy = ref(false);
const active = computed(() =>
  page.cards.filter(({ stoppedAt, forPhone }) => stoppedAt === null && !forPhone),
);

async function begin(): Promise<void> {
  [giving.value, code.value, wrong.value] = [true, '', ''];
  await nextTick();
  field.value?.focus();
}

/** Those that they had are taken for lost: a card that is found again is given out anew under another code. */
async function give(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  const lost = active.value.length;
  try {
    await store.giveCard(page, code.value, lost > 0);
    giving.value = false;
    notices.say(
      lost > 0 ? 'The new card counts. The old one has stopped on every till.' : 'The card counts.',
    );
  } catch (error) {
    wrong.value = formWords(error);
    field.value?.select();
  } finally {
    busy.value = false;
  }
}

/** Who has no card shows the code on their telephone. */
async function mailCode(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  try {
    notices.say(`The code goes to ${await store.mailCode(page)}.`);
  } catch (error) {
    notices.failed(problemWords(error));
  } finally {
    busy.value = false;
  }
}

useScans(
  (scanned) => {
    code.value = scanned;
    void give();
  },
  () => giving.value,
);

async function stop(stopped: string): Promise<void> {
  try {
    await store.stopCard(page, stopped);
    notices.say(`The card ${stopped} has stopped on every till.`);
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
</script>

<template>
  <section aria-labelledby="cards-title" class="cards">
    <h2 id="cards-title" class="label">Cards</h2>
    <ul v-if="page.cards.length > 0">
      <li v-for="card in page.cards" :key="card.code">
        <span
          ><b class="num" :class="{ was: card.stoppedAt }">{{ card.code }}</b
          ><span v-if="card.forPhone" class="soft"> on the telephone</span
          ><span v-if="card.stoppedAt" class="soft">
            stopped {{ till.time(card.stoppedAt, 'full') }}</span
          ></span
        >
        <ChipButton v-if="!card.stoppedAt && mayChange" class="stop" @click="stop(card.code)">
          Lost: stop it
        </ChipButton>
      </li>
    </ul>
    <p v-else class="soft">No card.</p>
    <form v-if="giving" class="give" @submit.prevent="give">
      <BigField
        id="new-card"
        ref="field"
        v-model="code"
        label="Scan the new card"
        class="code"
        kind="code"
        maxlength="40"
        :wrong
        @keydown.esc.stop="giving = false"
      />
      <p v-if="active.length > 0" class="soft">The card that they had stops at once.</p>
      <div class="acts">
        <v-btn @click="giving = false">Cancel</v-btn>
        <WaitButton class="go" type="submit" :loading="busy" :disabled="code.trim() === ''"
          >Give it</WaitButton
        >
      </div>
    </form>
    <div v-else class="acts">
      <v-btn v-if="mayChange" @click="begin">{{
        active.length > 0 ? 'Replace the card' : 'Give a card'
      }}</v-btn>
      <WaitButton v-if="page.panel.mail" :loading="busy" @click="mailCode"
        >Mail the code for their phone</WaitButton
      >
    </div>
  </section>
</template>

<style scoped>
.cards,
.give {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.give {
  width: 100%;
  justify-items: stretch;
}
ul {
  width: 100%;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: center;
  padding: 4px 0;
  border-bottom: var(--hair);
}
.give :deep(.big-field) {
  font-size: 22px;
  text-align: left;
}
</style>
