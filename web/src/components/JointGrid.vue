<script setup lang="ts">
import { computed } from 'vue'

/** Rows of places, x; y; thread; torque; note, in mm from the middle. */
const rows = defineModel<string>({ required: true })
const STEP = 10
const places = computed(() =>
  rows.value
    .split('\n')
    .map((row) => row.split(/[;\t]/).map((cell) => Number(cell.trim().replace(',', '.'))))
    .filter((row) => row.length >= 2 && Number.isFinite(row[0]) && Number.isFinite(row[1])),
)

function add(event: MouseEvent): void {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  const at = (share: number, size: number) => Math.round((share * size - size / 2) / STEP) * STEP
  const x = at((event.clientX - box.left) / box.width, 600)
  const y = -at((event.clientY - box.top) / box.height, 400)
  rows.value = `${rows.value.trimEnd()}${rows.value.trim() ? '\n' : ''}${x}; ${y}`
}
</script>

<template>
  <svg
    viewBox="-300 -200 600 400"
    role="img"
    aria-label="Grid: click to place, 600 by 400 mm"
    @click="add"
  >
    <path
      v-for="n in 29"
      :key="`v${n}`"
      :d="`M${n * 20 - 300} -200v400`"
      :class="n === 15 ? 'middle' : 'line'"
    />
    <path
      v-for="n in 19"
      :key="`h${n}`"
      :d="`M-300 ${n * 20 - 200}h600`"
      :class="n === 10 ? 'middle' : 'line'"
    />
    <g v-for="(place, n) in places" :key="n">
      <circle :cx="place[0]" :cy="-place[1]!" r="16" />
      <text :x="place[0]" :y="-place[1]! + 7">{{ n + 1 }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 600px;
  cursor: crosshair;
  background: var(--paper);
  border-radius: var(--radius);
}

.line {
  stroke: var(--line);
}

.middle {
  stroke: var(--soft);
}

circle {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 2;
}

text {
  font: 600 20px var(--figures);
  text-anchor: middle;
}
</style>
