<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import type { Position, StepView } from '../api/client'

type Dot = Pick<StepView, 'key' | 'title' | 'where' | 'state'>

const props = defineProps<{ steps: Dot[] }>()

const WIDEST = 34
const TALL = 68
const ROOM = 1040
const LEVEL: Record<Position, number> = { hanging: 14, corner_carried: 34, on_wheels: 54 }

/** A long plan is drawn closer; on a narrow screen only the stretch around the next step. */
const narrow = useMediaQuery('(width <= 760px)')
const AROUND = 16
const from = computed(() => {
  if (!narrow.value || props.steps.length <= AROUND) return 0
  const next = nextOpen.value < 0 ? props.steps.length : nextOpen.value
  return Math.min(Math.max(0, next - 5), props.steps.length - AROUND)
})
const shown = computed(() =>
  props.steps.slice(from.value, narrow.value ? from.value + AROUND : undefined),
)
const gap = computed(() => Math.max(6, Math.min(WIDEST, ROOM / Math.max(1, shown.value.length))))
const radius = computed(() => Math.min(7, gap.value * 0.36))
const nextOpen = computed(() => props.steps.findIndex((step) => step.state === 'open'))

const dots = computed(() =>
  shown.value.map((step, place) => ({
    key: step.key,
    x: 14 + place * gap.value,
    y: LEVEL[step.where],
    state: step.state,
    next: place === nextPlace.value,
  })),
)
const nextPlace = computed(() => nextOpen.value - from.value)
const width = computed(() => 28 + Math.max(0, shown.value.length - 1) * gap.value)
const line = computed(() =>
  dots.value
    .map((dot, place) => {
      const before = dots.value[place - 1]
      if (!before) return `M${dot.x} ${dot.y}`
      const [middle, slope] = [dot.x - gap.value / 2, Math.min(5, gap.value / 6)]
      return `L${middle - slope} ${before.y}L${middle + slope} ${dot.y}L${dot.x} ${dot.y}`
    })
    .join(''),
)
/** Nothing is kept free above a car that never leaves its wheels. */
const top = computed(() => Math.min(...dots.value.map((dot) => dot.y), LEVEL.on_wheels) - 14)
const height = computed(() => TALL - top.value)
const summary = computed(() => {
  const finished = props.steps.filter((step) => step.state !== 'open').length
  const next = props.steps[nextOpen.value]
  return `${finished} of ${props.steps.length} steps done. ${next ? `Next: ${next.title}.` : ''}`
})
</script>

<template>
  <svg
    class="line flex-1 w-full min-w-0"
    :style="{ maxHeight: `${height * 1.1}px` }"
    :viewBox="`0 ${top} ${width} ${height}`"
    role="img"
    :aria-label="summary"
    preserveAspectRatio="xMidYMid meet"
  >
    <path :d="line" class="fill-none stroke-chalk-soft [stroke-width:3] [stroke-linejoin:round]" />
    <g v-for="dot in dots" :key="dot.key">
      <circle
        v-if="dot.next"
        :cx="dot.x"
        :cy="dot.y"
        :r="radius + 5"
        class="[stroke-width:2] fill-none stroke-brass"
      />
      <circle
        :cx="dot.x"
        :cy="dot.y"
        :r="radius"
        :class="[dot.state, { next: dot.next }]"
        class="stroke-chalk [stroke-width:2]"
      />
      <path
        v-if="dot.state === 'done' && radius > 5"
        :d="`M${dot.x - 3.5} ${dot.y}l2.6 2.8 4.6-5.6`"
        class="fill-none stroke-band [stroke-width:2.2]"
      />
      <path
        v-if="dot.state === 'skipped' && radius > 5"
        :d="`M${dot.x - 4} ${dot.y + 4}l8-8`"
        class="stroke-brass [stroke-width:2.2]"
      />
    </g>
  </svg>
</template>

<style scoped>
.open {
  fill: var(--band);
}

.done {
  fill: var(--chalk);
}

.skipped {
  fill: var(--band);
  stroke: var(--brass);
}

.next {
  fill: var(--brass);
  stroke: var(--brass);
}
</style>
