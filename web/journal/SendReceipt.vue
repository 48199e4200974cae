<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { JournalSale } from '../../contract/journal.ts';
import type { SendReceipt } from '../../contract/payment.ts';
import BigField from '../look/BigField.vue';
import CheckField from '../look/CheckField.vue';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { ApiProblem, problemWords } from '../net/problem.ts';
import { useJournalStore } from './journalStore.ts';

/** @param print whether printing is offered here, too */
const { sale, print = true } = defineProps<{ sale: JournalSale; print?: boolean }>();
const journal = useJournalStore();
const emit = defineEmits<{ sent: [] }>();

const notices = useNoticeStore();
const by = ref<'mail' | 'text' | null>(null);
const to = ref('');
const remember = ref(false);
const wrong = ref('');
const busy = ref(false);

watch(
  () => sale.id,
  () => {
    by.value = null;
  },
);

function ask(how: 'mail' | 'text'): void {
  by.value = by.value === how ? null : how;
  to.value = (how === 'mail' ? sale.receiptCustomer?.mail : sale.receiptCustomer?.phone) ?? '';
  wrong.value = '';
}

/** The address of the customer, unless it went there already. */
const known = computed(() => {
  const { mail = '' } = sale.receiptCustomer ?? {};
  return sale.sent.some(({ recipient }) => recipient === mail) ? '' : mail;
});

async function sendTo(mail: string): Promise<void> {
  to.value = mail;
  remember.value = false;
  await send('mail');
}

function doneWords(how: SendReceipt['by']): string {
  if (how === 'none')
    return `${sale.receiptCustomer?.name ?? ''} gets no receipts from now on, unless asked for.`;
  const goes = how === 'print' || how === 'gift' ? 'goes to the printer' : `goes to ${to.value}`;
  return `The ${how === 'gift' ? 'gift receipt' : 'receipt'} ${goes}.`;
}

async function send(how: SendReceipt['by']): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  wrong.value = '';
  try {
    const asked: SendReceipt = {
      by: how,
      to: to.value,
      remember: remember.value && sale.receiptCustomer !== null,
    };
    await journal.send(sale.id, asked);
    notices.say(doneWords(how));
    by.value = null;
    emit('sent');
  } catch (error) {
    wrong.value = error instanceof ApiProblem ? (error.field('to') ?? error.words) : problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="send">
    <div class="ways">
      <button v-if="print" type="button" :disabled="busy" @click="send('print')">Print</button>
      <button type="button" :aria-pressed="by === 'mail'" @click="ask('mail')">E-mail</button>
      <button type="button" :aria-pressed="by === 'text'" @click="ask('text')">Text message</button>
      <button type="button" :disabled="busy" @click="send('gift')">Gift receipt</button>
      <button
        v-if="sale.receiptCustomer"
        type="button"
        :disabled="busy"
        :aria-pressed="sale.receiptCustomer.by === 'none'"
        :title="`No receipts for ${sale.receiptCustomer.name} from now on`"
        @click="send('none')"
      >
        None
      </button>
    </div>
    <button
      v-if="known && by === null"
      type="button"
      class="known"
      :disabled="busy"
      :title="`Mail it to ${known}`"
      @click="sendTo(known)"
    >
      Mail it to <b>{{ known }}</b>
    </button>
    <form v-if="by" novalidate @submit.prevent="send(by)">
      <BigField
        v-model="to"
        :label="by === 'mail' ? 'Mail address' : 'Telephone number'"
        :type="by === 'mail' ? 'email' : 'tel'"
        :wrong
      />
      <CheckField
        v-if="sale.receiptCustomer"
        v-model="remember"
        :label="`Always for ${sale.receiptCustomer.name}`"
      />
      <v-btn class="go" type="submit" :loading="busy">Send it</v-btn>
    </form>
    <p v-else-if="wrong" class="bad" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.known {
  width: 100%;
  min-height: 46px;
  padding: 0 14px;
  border-top: var(--hair);
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.send {
  background: var(--surface);
  border-bottom: var(--group);
}
.ways {
  display: flex;
}
.ways button {
  flex: 1 1 auto;
  padding: 0 8px;
  min-height: 48px;
  text-align: center;
  font-weight: 650;
  border-right: 1px solid var(--ink);
}
.ways button:last-child {
  border-right: 0;
}
.ways button[aria-pressed='true'] {
  background: var(--blue);
  color: var(--on-blue);
}
form {
  display: grid;
  gap: 10px;
  padding: 12px 18px;
  border-top: 1px solid var(--ink);
}
</style>
