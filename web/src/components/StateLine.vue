<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import type { Position, StepView } from '../api/client'

type Dot = Pick<StepView, 'title' | 'where' | 'state'>

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

interface Place {
  x: number
  y: number
  state: StepView['state']
  next: boolean
}

const dots = computed<Place[]>(() =>
  shown.value.map((step, place) => ({
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
const ring =
  (r: number) =>
  ({ x, y }: Place) =>
    `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`
const drawn = (which: (dot: Place) => boolean, shape: (dot: Place) => string) =>
  dots.value.filter(which).map(shape).join('')
/** One path for all dots of a state: a board of long plans is few elements. */
const rings = computed(() => {
  const path = (state: string) =>
    drawn((dot) => (dot.next ? 'next' : dot.state) === state, ring(radius.value))
  return { open: path('open'), done: path('done'), skipped: path('skipped'), next: path('next') }
})
const ticks = computed(() => ({
  done: drawn(
    (dot) => dot.state === 'done',
    ({ x, y }) => `M${x - 3.5} ${y}l2.6 2.8 4.6-5.6`,
  ),
  skipped: drawn(
    (dot) => dot.state === 'skipped',
    ({ x, y }) => `M${x - 4} ${y + 4}l8-8`,
  ),
}))
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
    <path
      v-for="(path, state) in rings"
      :key="state"
      :d="path"
      :class="state"
      class="stroke-chalk [stroke-width:2]"
    />
    <template v-if="radius > 5">
      <path :d="ticks.done" class="fill-none stroke-band [stroke-width:2.2]" />
      <path :d="ticks.skipped" class="stroke-brass [stroke-width:2.2]" />
    </template>
    <path
      :d="drawn((dot) => dot.next, ring(radius + 5))"
      class="[stroke-width:2] fill-none stroke-brass"
    />
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
