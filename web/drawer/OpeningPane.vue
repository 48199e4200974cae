<script setup lang="ts">
import { v4 as newId } from 'uuid';
import { ref } from 'vue';
import { openingStep } from '../../core/drawer/openingSlip.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import UsualWords from '../look/UsualWords.vue';
import { useBasketWorkStore } from '../sale/basketWorkStore.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useCountersignStore } from '../staff/countersignStore.ts';
import { useDrawerStore } from './drawerStore.ts';

const REASONS = ['Change for a customer', 'A note was checked', 'A receipt was put in'];

const drawer = useDrawerStore();
const work = useBasketWorkStore();
const countersigns = useCountersignStore();
const notices = useNoticeStore();
const reason = ref('');
const wrong = ref('');
const busy = ref(false);
/** One opening, however often it is pressed. */
const id = newId();

async function open(): Promise<void> {
  const why = reason.value.trim();
  wrong.value = why ? '' : 'Say why: it is recorded and printed.';
  if (!why || busy.value) return;
  busy.value = true;
  try {
    const approval = await countersigns.need('drawer.no-sale', id, why, [openingStep(why)]);
    if (!approval) return;
    await drawer.openWithoutSale(id, why, approval.id);
    notices.say('The drawer is open.');
    work.leave();
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormPanel
    title="Open the drawer without a sale"
    done="Open the drawer"
    :busy
    @accept="open"
    @leave="work.leave()"
  >
    <BigField id="opening-reason" v-model="reason" label="Why" maxlength="120" :wrong />
    <UsualWords v-model="reason" :words="REASONS" />
  </FormPanel>
</template>
