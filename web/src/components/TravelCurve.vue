<script setup lang="ts">
import { computed } from 'vue'
import { sayNumber } from '../composables/useWords'

interface Line {
  travel: number[]
  value: number[]
}

const props = defineProps<{
  title: string
  unit: string
  today: Line
  tried?: Line
  /** Where the wheel would stand: travel and value. */
  at?: [number, number]
  /** What is wanted there, and how near is near enough. */
  wanted?: [number, number]
}>()
const WIDE = 300
const HIGH = 190
const LEFT = 44
const span = computed(() => {
  const all = [...props.today.value, ...(props.tried?.value ?? []), props.at?.[1] ?? 0]
  const low = Math.min(...all)
  const high = Math.max(...all)
  const room = Math.max((high - low) * 0.08, 0.05)
  return [low - room, high + room] as const
})
const x = (travel: number) => LEFT + ((travel + 80) / 160) * (WIDE - LEFT - 8)
const y = (value: number) =>
  HIGH - 26 - ((value - span.value[0]) / (span.value[1] - span.value[0])) * (HIGH - 38)
const path = (line: Line) =>
  line.travel
    .map((t, n) => `${n ? 'L' : 'M'}${x(t).toFixed(1)} ${y(line.value[n]!).toFixed(1)}`)
    .join('')
const marks = computed(() => {
  const [low, high] = span.value
  return [low, (low + high) / 2, high].map((value) => ({ value, at: y(value) }))
})
</script>

<template>
  <figure>
    <figcaption>
      {{ title }}
      <b v-if="at" class="figure">{{ sayNumber(at[1], 2) }}{{ unit }}</b>
    </figcaption>
    <svg :viewBox="`0 0 ${WIDE} ${HIGH}`" role="img" :aria-label="`${title} through the travel`">
      <line class="grid" :x1="x(0)" :x2="x(0)" y1="8" :y2="HIGH - 24" />
      <g v-for="mark in marks" :key="mark.at">
        <line class="grid" :x1="LEFT" :x2="WIDE - 6" :y1="mark.at" :y2="mark.at" />
        <text :x="LEFT - 6" :y="mark.at + 5" text-anchor="end">{{ sayNumber(mark.value, 1) }}</text>
      </g>
      <text
        v-for="t in [-80, 0, 80]"
        :key="t"
        :x="x(t)"
        :y="HIGH - 8"
        :text-anchor="t > 0 ? 'end' : t < 0 ? 'start' : 'middle'"
      >
        {{ t === 0 ? 'ride height' : t > 0 ? '80 up' : '80 down' }}
      </text>
      <rect
        v-if="wanted && at"
        class="wanted"
        :x="x(at[0]) - 9"
        :width="18"
        :y="y(wanted[0] + wanted[1])"
        :height="Math.max(y(wanted[0] - wanted[1]) - y(wanted[0] + wanted[1]), 2)"
      />
      <path class="today" :d="path(today)" />
      <path v-if="tried" class="tried" :d="path(tried)" />
      <circle v-if="at" class="at" :cx="x(at[0])" :cy="y(at[1])" r="5" />
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

figcaption {
  display: flex;
  gap: 10px;
  justify-content: space-between;
  font-weight: 600;
}

figcaption .figure {
  font-size: 22px;
}

svg {
  width: 100%;
}

text {
  font: 500 14px var(--figures);
  fill: var(--soft);
}

.grid {
  stroke: var(--line);
}

path {
  fill: none;
  stroke-width: 2.5;
}

.today {
  stroke: var(--soft);
  stroke-dasharray: 5 4;
}

.tried {
  stroke: var(--go);
}

.at {
  fill: var(--brass);
  stroke: var(--ink);
  stroke-width: 2;
}

.wanted {
  fill: var(--go-wash);
  stroke: var(--go);
}
</style>
