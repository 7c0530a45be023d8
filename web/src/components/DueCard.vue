<script setup lang="ts">
import type { BoardView, DueView } from '../api/client'
import { sayDay } from '../composables/useWords'

/** What has a day: checks after the drive, gauges to be calibrated, the rack to be booked. */
const props = defineProps<{ board: BoardView }>()
const KINDS: { title: string; of: () => DueView[]; page: string }[] = [
  { title: 'Check again', of: () => props.board.rechecks, page: 'record' },
  { title: 'To be booked', of: () => props.board.booked, page: 'order' },
  { title: 'Gauges', of: () => props.board.gauges, page: '' },
]
</script>

<template>
  <section v-if="KINDS.some((kind) => kind.of().length)" class="card stack" aria-label="Due">
    <h3>Due</h3>
    <template v-for="kind in KINDS" :key="kind.title">
      <div v-if="kind.of().length">
        <h4 class="m-0 text-16px">{{ kind.title }}</h4>
        <ul class="grid gap-4px bare-list">
          <li v-for="one in kind.of()" :key="`${one.job_id}${one.what}`" class="grid">
            <b v-if="one.car">{{ one.car }}</b>
            <router-link
              :to="
                kind.page ? { name: kind.page, params: { jobId: one.job_id } } : { name: 'gauges' }
              "
            >
              {{ one.what }}
            </router-link>
            <span v-if="one.day" :class="one.overdue ? 'late' : 'soft'">
              {{ one.overdue ? `✕ overdue since ${sayDay(one.day)}` : `by ${sayDay(one.day)}` }}
            </span>
          </li>
        </ul>
      </div>
    </template>
  </section>
</template>

<style scoped>
a {
  align-content: center;
  min-height: 44px;
}

.late {
  font-weight: 600;
  color: var(--stop);
}
</style>
