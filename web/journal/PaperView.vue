<script setup lang="ts">
import type { Paper } from '../../core/journal/paper.ts';
import BarcodeImage from './BarcodeImage.vue';

defineProps<{ paper: Paper }>();
</script>

<template>
  <article class="paper num" :aria-label="paper.title">
    <template v-for="(row, at) in paper.rows" :key="at">
      <img v-if="row.kind === 'logo'" class="logo" :src="row.source" :alt="row.alt" />
      <p v-else-if="row.kind === 'title'" class="strong centre">{{ row.text }}</p>
      <p v-else-if="row.kind === 'centre'" class="centre">{{ row.text }}</p>
      <p v-else-if="row.kind === 'text'">{{ row.text }}</p>
      <p v-else-if="row.kind === 'pair'" class="pair" :class="{ strong: row.strong, indent: row.indent }">
        <span>{{ row.left }}</span><span>{{ row.right }}</span>
      </p>
      <hr v-else-if="row.kind === 'rule'" />
      <div v-else-if="row.kind === 'gap'" class="gap" />
      <BarcodeImage v-else-if="row.kind === 'barcode'" :text="row.text" />
      <div v-else-if="row.kind === 'signature'" class="signature">
        <svg v-if="row.path" viewBox="0 0 400 120" role="img" aria-label="Signature">
          <path :d="row.path" fill="none" stroke="currentColor" stroke-width="2" />
        </svg>
        <hr />
        <p>{{ row.label }}</p>
      </div>
    </template>
  </article>
</template>

<style scoped>
.paper {
  background: #fff;
  color: #15171c;
  padding: 18px 16px 22px;
  font-size: 13px;
  line-height: 1.4;
  width: 100%;
  max-width: 360px;
  margin: 0 auto;
  border: 1px solid var(--hairline);
  border-bottom: 2px dashed var(--soft);
}
.logo {
  display: block;
  max-width: 60%;
  margin: 0 auto 6px;
}
.strong {
  font-weight: 700;
  font-size: 15px;
}
.centre {
  text-align: center;
}
.pair {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.pair span {
  overflow-wrap: anywhere;
}
.pair span:last-child {
  white-space: nowrap;
  text-align: right;
}
.indent {
  padding-left: 14px;
}
hr {
  border: 0;
  border-top: 1px dashed #15171c;
  margin: 6px 0;
}
.gap {
  height: 10px;
}
.signature {
  margin-top: 10px;
}
</style>
