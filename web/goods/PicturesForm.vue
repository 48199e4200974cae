<script setup lang="ts">
import { useBase64 } from '@vueuse/core';
import { computed, ref } from 'vue';
import { MOST_PICTURES } from '../../contract/pictures.ts';
import FileField from '../look/FileField.vue';
import FormPanel from '../look/FormPanel.vue';
import { problemWords, wasChanged } from '../net/problem.ts';
import { useItemPageStore } from './itemPageStore.ts';
import { pictures as thread } from './pictureThread.ts';
import WordButton from '../look/WordButton.vue';

/** Pictures of an item: chosen, dropped, or taken with a camera; the first is the one that tills show. */
const emit = defineEmits<{ leave: [] }>();
const store = useItemPageStore();
const page = computed(() => store.page);
const wrong = ref('');
const busy = ref(false);

async function attempt(work: () => Promise<void>): Promise<void> {
  if (busy.value) return;
  [busy.value, wrong.value] = [true, ''];
  try {
    await work();
  } catch (error) {
    wrong.value = problemWords(error);
    // What another one has done is there to be looked at.
    if (wasChanged(error) && page.value) await store.load(page.value.id).catch(() => {});
  } finally {
    busy.value = false;
  }
}
async function send(file: Blob, turned: boolean, instead: number | null): Promise<boolean> {
  const picture = await thread.made(file, turned);
  if (!picture || !page.value) return false;
  const [, content = ''] = (await useBase64(picture).promise.value).split(',');
  await store.addPicture(page.value, content, instead);
  return true;
}
const add = (files: Iterable<File>) =>
  attempt(async () => {
    const none: string[] = [];
    for (const file of files) if (!(await send(file, false, null))) none.push(file.name);
    if (none.length > 0) wrong.value = `No picture that can be shown: ${none.join(', ')}.`;
  });
const turn = (id: number) =>
  attempt(async () => {
    const kept = await (await fetch(`/api/goods/pictures/${id}`)).blob();
    if (!(await send(kept, true, id))) wrong.value = 'This one cannot be turned.';
  });
const put = (pictures: number[]) =>
  attempt(async () => {
    if (page.value) await store.putPictures(page.value, pictures);
  });
const first = (id: number) => put([id, ...(page.value?.pictures ?? []).filter((one) => one !== id)]);
const drop = (id: number) => put((page.value?.pictures ?? []).filter((one) => one !== id));
</script>

<template>
  <FormPanel v-if="page" title="Pictures" leave="Done" :wrong @leave="emit('leave')">
    <ul v-if="page.pictures.length > 0" class="pictures">
      <li v-for="(id, at) in page.pictures" :key="id">
        <img :src="`/api/goods/pictures/${id}`" :alt="`Picture ${at + 1}`" />
        <div class="acts">
          <b v-if="at === 0">Shown first</b>
          <WordButton v-else :disabled="busy" @click="first(id)">Show it first</WordButton>
          <WordButton :disabled="busy" @click="turn(id)">Turn it</WordButton>
          <WordButton :disabled="busy" @click="drop(id)">Take away</WordButton>
        </div>
      </li>
    </ul>
    <FileField
      v-if="page.pictures.length < MOST_PICTURES"
      label="Choose pictures, or drop them here"
      accept="image/*"
      multiple
      :disabled="busy"
      @chosen="add"
    >
      <span class="soft">They are made smaller by themselves.</span>
    </FileField>
  </FormPanel>
</template>

<style scoped>
.pictures {
  display: grid;
  gap: 12px;
}
.pictures li {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 12px;
  align-items: center;
}
.pictures img {
  width: 160px;
  height: 120px;
  object-fit: contain;
  border: var(--hair);
}
.acts {
  display: grid;
  justify-items: start;
}
</style>
