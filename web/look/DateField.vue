<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import { firstDayOfWeek, typedDayFormat } from '../../core/locale.ts';

/** A day, typed as it is written where the shop is or chosen from a calendar: `2026-03-02`, or nothing. */
defineProps<{ label: string; wrong?: string | undefined }>();
const day = defineModel<string>({ required: true });
const field = useTemplateRef<{ $el: HTMLElement }>('field');
defineExpose({ focus: () => field.value?.$el.querySelector('input')?.focus() });

/** What tells of the calendar stands on the input: the frame around it has no role that could. */
const ON_FIELD = {
  'aria-haspopup': undefined,
  'aria-expanded': undefined,
  'aria-controls': undefined,
  'aria-owns': undefined,
};

const two = (figure: number) => String(figure).padStart(2, '0');
const chosen = computed({
  get: () => day.value || null,
  // The calendar's days are those of this computer.
  set: (next: Date | string | null) => {
    const at = next ? new Date(next) : null;
    day.value = at ? `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}` : '';
  },
});
</script>

<template>
  <v-date-input
    ref="field"
    v-model="chosen"
    :label
    :error-messages="wrong"
    :input-format="typedDayFormat()"
    :first-day-of-week="firstDayOfWeek()"
    prepend-icon=""
    append-inner-icon="$calendar"
    aria-haspopup="dialog"
    :menu-props="{ activatorProps: ON_FIELD }"
    :picker-props="{ width: 364, border: true, color: 'primary' }"
    clearable
  />
</template>
