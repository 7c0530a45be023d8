<script setup lang="ts">
import type { JobLine } from '../api/client'
import { sayMoment } from '../composables/useWords'

defineProps<{ jobs: JobLine[] }>()

function page(job: JobLine): string {
  return job.signed ? 'record' : job.planned ? 'floor' : 'order'
}
</script>

<template>
  <ul>
    <li v-for="job in jobs" :key="job.id">
      <router-link
        :class="{ closed: job.signed }"
        :to="{ name: page(job), params: { jobId: job.id } }"
      >
        <span class="figure car">{{ job.car }}</span>
        <span>{{ job.title }}</span>
        <span class="soft last">
          {{ job.entries }} entries, last {{ sayMoment(job.last_at) }}
        </span>
        <span class="state" :class="{ signed: job.signed }">
          {{ job.signed ? '✓ Signed' : 'Open' }}
        </span>
      </router-link>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}

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

.car {
  font-size: 24px;
}

.last,
.state {
  grid-column: 2;
  text-align: right;
}

.state {
  grid-row: 1;
  align-self: center;
  font-weight: 600;
  color: var(--wait);
}

@media (width <= 760px) {
  .last {
    grid-column: 1 / -1;
    text-align: left;
  }
}

.state.signed {
  color: var(--go);
}
</style>
