<script setup lang="ts">
import { computed } from 'vue'
import type { Position, StepView } from '../api/client'

const props = defineProps<{ steps: StepView[]; position: Position }>()

const STEP = 34
const LEVEL: Record<Position, number> = { hanging: 14, corner_carried: 34, on_wheels: 54 }

const dots = computed(() =>
  props.steps.map((step, place) => ({
    key: step.key,
    x: 14 + place * STEP,
    y: LEVEL[step.where],
    state: step.state,
    next: place === nextPlace.value,
  })),
)
const nextPlace = computed(() => props.steps.findIndex((step) => step.state === 'open'))
const width = computed(() => 28 + (props.steps.length - 1) * STEP)
const line = computed(() =>
  dots.value
    .map((dot, place) => {
      const before = dots.value[place - 1]
      if (!before) return `M${dot.x} ${dot.y}`
      const middle = dot.x - STEP / 2
      return `L${middle - 5} ${before.y}L${middle + 5} ${dot.y}L${dot.x} ${dot.y}`
    })
    .join(''),
)
const summary = computed(() => {
  const finished = props.steps.filter((step) => step.state !== 'open').length
  const next = props.steps[nextPlace.value]
  return `${finished} of ${props.steps.length} steps done. ${next ? `Next: ${next.title}.` : ''}`
})
</script>

<template>
  <svg
    class="line"
    :viewBox="`0 0 ${width} 68`"
    role="img"
    :aria-label="summary"
    preserveAspectRatio="xMidYMid meet"
  >
    <path :d="line" class="spine" />
    <g v-for="dot in dots" :key="dot.key">
      <circle v-if="dot.next" :cx="dot.x" :cy="dot.y" r="12" class="ring" />
      <circle :cx="dot.x" :cy="dot.y" r="7" :class="[dot.state, { next: dot.next }]" />
      <path
        v-if="dot.state === 'done'"
        :d="`M${dot.x - 3.5} ${dot.y}l2.6 2.8 4.6-5.6`"
        class="tick"
      />
      <path v-if="dot.state === 'skipped'" :d="`M${dot.x - 4} ${dot.y + 4}l8-8`" class="slash" />
    </g>
  </svg>
</template>

<style scoped>
.line {
  flex: 1;
  width: 100%;
  min-width: 0;
  max-height: 76px;
}

.spine {
  fill: none;
  stroke: var(--chalk-soft);
  stroke-width: 3;
  stroke-linejoin: round;
}

circle {
  stroke: var(--chalk);
  stroke-width: 2;
}

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

.ring {
  fill: none;
  stroke: var(--brass);
}

.tick {
  fill: none;
  stroke: var(--band);
  stroke-width: 2.2;
}

.slash {
  stroke: var(--brass);
  stroke-width: 2.2;
}
</style>
