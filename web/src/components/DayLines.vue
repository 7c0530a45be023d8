<script setup lang="ts">
import { computed } from 'vue'
import type { DayView } from '../api/client'
import { sayClock, sayDay } from '../composables/useWords'

/** The day drawn: a line for each car, raised where the car is up. */
const props = defineProps<{ day: DayView }>()
const HOUR_MS = 3_600_000
const days = computed(() => {
  const found = new Set(props.day.jobs.flatMap((job) => job.slots.map((slot) => dayOf(slot.begin))))
  return [...found].sort()
})
const HOURS = Array.from({ length: 10 }, (_, hour) => hour)
const dayOf = (at: string) => at.slice(0, 10)
const first = (day: string) => Date.parse(`${day}${props.day.begin.slice(10)}`)
const place = (at: string, day: string) =>
  Math.min(100, Math.max(0, ((Date.parse(at) - first(day)) / HOUR_MS / 9) * 100))
const hour = (day: string, n: number) => sayClock(new Date(first(day) + n * HOUR_MS).toISOString())
</script>

<template>
  <section
    v-for="one in days"
    :key="one"
    class="grid gap-6px min-w-620px"
    :aria-label="sayDay(one)"
  >
    <h3>{{ sayDay(one) }}</h3>
    <div class="hours relative h-22px [font:600_14px_var(--figures)] c-soft" aria-hidden="true">
      <span
        v-for="n in HOURS"
        :key="n"
        :style="{ left: `${(n / 9) * 100}%` }"
        class="absolute [transform:translateX(-50%)]"
        >{{ hour(one, n) }}</span
      >
    </div>
    <template v-for="job in day.jobs" :key="job.id">
      <div v-if="job.slots.some((slot) => dayOf(slot.begin) === one)">
        <router-link :to="{ name: 'floor', params: { jobId: job.id } }">
          <b>{{ job.car }}</b> {{ job.title }}
        </router-link>
        <div class="relative h-34px b-b-2px b-b-solid b-b-soft">
          <span
            v-for="slot in job.slots.filter((slot) => dayOf(slot.begin) === one)"
            :key="slot.begin"
            class="slot"
            :class="slot.where"
            :style="{
              left: `${place(slot.begin, one)}%`,
              width: `${Math.max(0.6, place(slot.end, one) - place(slot.begin, one))}%`,
            }"
            :title="`${sayClock(slot.begin)} to ${sayClock(slot.end)}${slot.hands > 1 ? ', two people' : ''}`"
          />
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.hours span:first-child {
  transform: none;
}

.hours span:last-child {
  transform: translateX(-100%);
}

.slot {
  position: absolute;
  bottom: 0;
  height: 12px;
  background: var(--go);
  border-right: 1px solid var(--card);
}

.slot.hanging {
  height: 30px;
  background: var(--band);
}

.slot.corner_carried {
  height: 22px;
  background: var(--brass);
}
</style>
