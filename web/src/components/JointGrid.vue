<script setup lang="ts">
import { ref, watch } from 'vue'
import { useLatest } from '../composables/useLatest'
import { readTyped, type TypedFormView } from '../composables/useTyped'

/** Rows of places, x; y; thread; torque; note, in mm from the middle. */
const rows = defineModel<string>({ required: true })
const STEP = 10
const places = ref<TypedFormView['rows']>([])
// A row that is half typed leaves the drawing as it was.
const draw = useLatest(async () => {
  const read = await readTyped({ rows: rows.value }).catch(() => null)
  if (read) places.value = read.rows
}, 150)
watch(rows, draw, { immediate: true })

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
    class="w-full max-w-600px [cursor:crosshair] bg-paper rounded"
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
      <circle
        :cx="place.x_mm"
        :cy="-place.y_mm"
        r="16"
        class="fill-card stroke-ink [stroke-width:2]"
      />
      <text
        :x="place.x_mm"
        :y="-place.y_mm"
        dy="7"
        class="[font:600_20px_var(--figures)] [text-anchor:middle]"
      >
        {{ n + 1 }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
.line {
  stroke: var(--line);
}

.middle {
  stroke: var(--soft);
}
</style>
