<script setup lang="ts">
import SignaturePad, { type PointGroup } from 'signature_pad';
import { onMounted, onUnmounted, useTemplateRef } from 'vue';

/** SVG path data of what was drawn, on a field of 400 × 120. */
const path = defineModel<string>({ required: true });
const { label = 'Signature (draw it; the name alone signs too)' } = defineProps<{ label?: string }>();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
let pad: SignaturePad | undefined;

const WIDTH = 400;
const HEIGHT = 120;

function toPath(groups: PointGroup[], scale: number): string {
  const round = (value: number) => Math.round(value * scale);
  return groups
    .map(({ points }) =>
      points.map(({ x, y }, at) => `${at === 0 ? 'M' : 'L'}${round(x)} ${round(y)}`).join(''),
    )
    .join('');
}

function redraw(): void {
  const context = canvas.value?.getContext('2d');
  if (!context || !path.value) return;
  context.lineWidth = 2;
  context.stroke(new Path2D(path.value));
}

onMounted(() => {
  const field = canvas.value;
  if (!field) return;
  field.width = WIDTH;
  field.height = HEIGHT;
  pad = new SignaturePad(field, { penColor: '#15171c', minWidth: 1, maxWidth: 2 });
  redraw();
  pad.addEventListener('endStroke', () => {
    path.value += toPath(pad?.toData().slice(-1) ?? [], 1);
  });
});
onUnmounted(() => pad?.off());

function clear(): void {
  pad?.clear();
  path.value = '';
}
</script>

<template>
  <div class="signature">
    <span class="label">{{ label }}</span>
    <canvas ref="canvas" role="img" :aria-label="`${label}: field to draw in`" />
    <v-btn @click="clear">Clear the signature</v-btn>
  </div>
</template>

<style scoped>
.signature {
  display: grid;
  gap: 8px;
  justify-items: start;
}
canvas {
  border: var(--group);
  background: #fff;
  width: 400px;
  height: 120px;
  touch-action: none;
}
</style>
