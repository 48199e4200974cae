<script setup lang="ts">
import { useAnswer } from '../notices/answer.ts';

const { text } = defineProps<{ text: string }>();

// Loaded when a barcode is drawn: the Counter works without it.
const image = useAnswer(async () => {
  const { code128, drawingSVG } = await import('bwip-js/browser');
  const svg = code128(
    { bcid: 'code128', text, height: 10, includetext: true, textxalign: 'center' },
    drawingSVG(),
  );
  return `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
}, '');
</script>

<template>
  <p class="barcode"><img v-if="image" :src="image" :alt="`Barcode ${text}`" /></p>
</template>

<style scoped>
.barcode {
  text-align: center;
  min-height: 62px;
  margin: 6px 0;
}
img {
  height: 58px;
  max-width: 90%;
  background: #fff;
}
</style>
