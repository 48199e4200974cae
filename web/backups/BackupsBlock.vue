<script setup lang="ts">
import { onMounted } from 'vue';
import { sizeInWords } from '../../core/backups/due.ts';
import { useLook } from '../notices/look.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { problemWords } from '../net/problem.ts';
import { useTillStore } from '../shop/tillStore.ts';
import { useBackupsStore } from './backupsStore.ts';
import WaitButton from '../look/WaitButton.vue';

const backups = useBackupsStore();
const till = useTillStore();
const notices = useNoticeStore();

onMounted(useLook(backups.load));

async function make(): Promise<void> {
  try {
    const { bytes } = await backups.make();
    notices.say(
      `The backup is there (${sizeInWords(bytes)}). It was read back, and every figure in it ties out.`,
    );
  } catch (error) {
    notices.failed(problemWords(error));
  }
}
</script>

<template>
  <section class="block" aria-labelledby="backups-title">
    <h2 id="backups-title" class="title">Backups</h2>
    <template v-if="backups.facts">
      <p v-for="trouble in backups.troubles" :key="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <dl class="facts">
        <div>
          <dt>Last good one</dt>
          <dd class="num">
            {{ backups.facts.files[0] ? till.time(backups.facts.files[0].at, 'full') : 'none yet' }}
          </dd>
        </div>
        <div>
          <dt>Room on the disk</dt>
          <dd class="num">{{ sizeInWords(backups.facts.disk.free) }}</dd>
        </div>
        <div>
          <dt>By itself</dt>
          <dd>{{ backups.facts.kept > 0 ? 'every day, and when the last drawer is closed' : 'never' }}</dd>
        </div>
      </dl>
      <div class="acts">
        <WaitButton class="go" :loading="backups.making" @click="make">Make a backup now</WaitButton>
      </div>
      <table class="listed" v-if="backups.facts.files.length > 0">
        <thead>
          <tr>
            <th scope="col">Made</th>
            <th scope="col">File</th>
            <th scope="col" class="right">Size</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="file in backups.facts.files" :key="file.name">
            <td>{{ till.time(file.at, 'full') }}</td>
            <td>{{ file.name }}</td>
            <td class="right num">{{ sizeInWords(file.bytes) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="soft">
        In <b>{{ backups.facts.folder }}</b><template v-if="backups.facts.kept > 0"
          >, the newest {{ backups.facts.kept }}</template
        >. Each was read back and recomputed before it was listed. Keep copies on another disk as well: a
        backup beside the shop's data is lost with them.
      </p>
    </template>
  </section>
</template>

<style scoped>
.trouble {
  border: var(--group);
  border-color: var(--red);
  color: var(--red);
  padding: 12px 14px;
  font-weight: 600;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 36px;
}
.facts dt {
  font-size: 14px;
}
.facts dd {
  font-weight: 700;
  text-align: left;
}
</style>
