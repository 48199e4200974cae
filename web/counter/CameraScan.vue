<script setup lang="ts">
import { BrowserMultiFormatReader, type IScannerControls } from '@zxing/browser';
import { onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue';
import KeyHint from '../keys/KeyHint.vue';
import { useKeys } from '../keys/useKeys.ts';

const emit = defineEmits<{ code: [text: string]; close: [] }>();

/** The same code again counts as a new scan after so long. */
const AGAIN_MS = 2000;

const video = useTemplateRef('video');
useKeys('form', { leave: () => emit('close') }, { within: useTemplateRef('panel') });
const wrong = ref('');
const last = ref('');
let controls: IScannerControls | undefined;
let gone = false;
let lastAt = 0;

onMounted(async () => {
  try {
    const reader = new BrowserMultiFormatReader(undefined, { delayBetweenScanAttempts: 120 });
    const started = await reader.decodeFromVideoDevice(undefined, video.value ?? undefined, (result) => {
      if (!result) return;
      const text = result.getText();
      const now = performance.now();
      if (text === last.value && now - lastAt < AGAIN_MS) return;
      last.value = text;
      lastAt = now;
      emit('code', text);
    });
    if (gone) started.stop();
    else controls = started;
  } catch {
    wrong.value = 'The camera cannot be used: allow it for this page, and close other programs that use it.';
  }
});
onBeforeUnmount(() => {
  gone = true;
  controls?.stop();
});
</script>

<template>
  <section ref="panel" class="camera" aria-label="Scan with the camera">
    <video ref="video" muted playsinline />
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <p v-else role="status">{{ last ? `Read ${last}` : 'Hold a barcode in front of the camera.' }}</p>
    <v-btn @click="$emit('close')">Close <KeyHint of="form.leave" /></v-btn>
  </section>
</template>

<style scoped>
.camera {
  position: absolute;
  z-index: 12;
  right: 0;
  top: 60px;
  width: 320px;
  display: grid;
  gap: 10px;
  padding: 12px;
  background: var(--surface);
  border: var(--rule);
  border-top: 0;
}
video {
  width: 100%;
  aspect-ratio: 4 / 3;
  background: #15171c;
}
</style>
