<script setup lang="ts">
import type { JobLine } from '../api/client'
import { sayMoment } from '../composables/useWords'

defineProps<{ jobs: JobLine[] }>()

function page(job: JobLine): string {
  return job.signed ? 'record' : job.planned ? 'floor' : 'order'
}
</script>

<template>
  <ul class="grid gap-10px bare-list">
    <li v-for="job in jobs" :key="job.id">
      <router-link
        :class="{ closed: job.signed }"
        :to="{ name: page(job), params: { jobId: job.id } }"
      >
        <span class="figure text-24px">{{ job.car }}</span>
        <span>{{ job.title }}</span>
        <span class="soft [grid-column:2] text-right lt-phone:col-span-full lt-phone:text-left">
          {{ job.entries }} entries, last {{ sayMoment(job.last_at) }}
        </span>
        <span
          class="state [grid-column:2] text-right [grid-row:1] self-center font-600 c-wait"
          :class="{ signed: job.signed }"
        >
          {{ job.signed ? '✓ Signed' : 'Open' }}
        </span>
      </router-link>
    </li>
  </ul>
</template>

<style scoped>
a {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 16px;
  padding: 14px 18px;
  color: var(--ink);
  text-decoration: none;
  background: var(--card);
  border: 1px solid var(--line);
  border-left: 6px solid var(--brass);
  border-radius: var(--radius);
}

a.closed {
  border-left-color: var(--go);
}

a:hover {
  border-color: var(--go);
}

.state.signed {
  color: var(--go);
}
</style>
