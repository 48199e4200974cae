<script setup lang="ts">
import { onUnmounted, ref, useTemplateRef } from 'vue';
import { useKeys } from '../keys/useKeys.ts';
import BigField from '../look/BigField.vue';
import FormPanel from '../look/FormPanel.vue';
import { RIGHTS } from '../../core/staff/rights.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useCountersignStore } from './countersignStore.ts';
import { useSessionStore } from './sessionStore.ts';

const countersigns = useCountersignStore();
const session = useSessionStore();
const notices = useNoticeStore();
const pin = ref('');
const wrong = ref('');
const busy = ref(false);
const panel = useTemplateRef('panel');
// The page, or the step that asked, is left: nobody waits for an answer any more.
onUnmounted(() => countersigns.leave());
useKeys('countersign', { leave: () => countersigns.leave() });

async function approve(): Promise<void> {
  if (busy.value || pin.value.length < 4) return;
  busy.value = true;
  wrong.value = '';
  try {
    const given = await countersigns.approve(pin.value);
    if (given) notices.say(`${given.by} approved it.`);
  } catch (error) {
    wrong.value = problemWords(error);
  } finally {
    pin.value = '';
    busy.value = false;
    void panel.value?.focusFirst();
  }
}
</script>

<template>
  <FormPanel
    ref="panel"
    title="Countersign"
    done="Approve"
    :busy
    :disabled="pin.length < 4"
    @accept="approve"
    @leave="countersigns.leave()"
  >
    <p v-if="countersigns.asking">
      <b>{{ RIGHTS[countersigns.asking.right] }}:</b> {{ countersigns.asking.about }}
    </p>
    <BigField
      id="second-pin"
      v-model="pin"
      :label="`${session.person?.name} may not do this alone. PIN of somebody who may:`"
      kind="code"
      type="password"
      inputmode="numeric"
      maxlength="8"
      :wrong
    />
  </FormPanel>
</template>
