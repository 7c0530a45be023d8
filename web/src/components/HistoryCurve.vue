<script setup lang="ts">
import { computed } from 'vue'
import type { HistoryView } from '../api/client'

const props = defineProps<{ title: string; ending: string; moments: HistoryView['moments'] }>()
const [WIDTH, HEIGHT, EDGE] = [520, 190, 30]
const CORNERS = [
  { key: 'front.left', label: 'front left', dash: '' },
  { key: 'front.right', label: 'front right', dash: '8 4' },
  { key: 'rear.left', label: 'rear left', dash: '2 4' },
  { key: 'rear.right', label: 'rear right', dash: '10 3 2 3' },
]
const points = computed(() =>
  CORNERS.map((corner) => ({
    ...corner,
    at: props.moments.flatMap((one, place) => {
      const value = one.values[corner.key + props.ending]?.value
      return value == null ? [] : [{ place, value }]
    }),
  })).filter((one) => one.at.length),
)
const values = computed(() => points.value.flatMap((one) => one.at.map((point) => point.value)))
const low = computed(() => Math.min(...values.value))
const high = computed(() => Math.max(...values.value))
const x = (place: number) =>
  EDGE + (place / Math.max(1, props.moments.length - 1)) * (WIDTH - 2 * EDGE - 70)
const y = (value: number) =>
  HEIGHT - EDGE - ((value - low.value) / (high.value - low.value || 1)) * (HEIGHT - 2 * EDGE)
const line = (at: { place: number; value: number }[]) =>
  at.map((point) => `${x(point.place)},${y(point.value)}`).join(' ')
</script>

<template>
  <figure v-if="points.length" class="card">
    <figcaption>{{ title }}</figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="title">
      <text :x="2" :y="y(high) + 4">{{ high.toFixed(0) }}</text>
      <text :x="2" :y="y(low) + 4">{{ low.toFixed(0) }}</text>
      <g v-for="one in points" :key="one.key">
        <polyline :points="line(one.at)" :stroke-dasharray="one.dash" />
        <circle
          v-for="point in one.at"
          :key="point.place"
          :cx="x(point.place)"
          :cy="y(point.value)"
          r="3.5"
        />
      </g>
    </svg>
    <p class="soft keys">
      <span v-for="one in points" :key="one.key">
        <svg width="34" height="8" aria-hidden="true">
          <line x1="0" y1="4" x2="34" y2="4" :stroke-dasharray="one.dash" />
        </svg>
        {{ one.label }}
      </span>
    </p>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

figcaption {
  font: 600 20px var(--figures);
}

svg {
  width: 100%;
}

.keys svg {
  width: 34px;
}

.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}

polyline,
line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

circle {
  fill: var(--go);
}

text {
  font: 600 14px var(--figures);
  fill: var(--soft);
}
</style>
