<script setup lang="ts">
import { computed } from 'vue'
import type { BoltView, JointView } from '../api/client'
import { useChoices } from '../stores/choices'

const props = defineProps<{ joint: JointView; picked: number[] }>()
const emit = defineEmits<{ pick: [number: number] }>()
const R = 26
const places = computed(() => {
  const bolts = props.joint.bolts
  const xs = bolts.map((one) => one.x_mm)
  const ys = bolts.map((one) => one.y_mm)
  const [left, right, low, high] = [
    Math.min(...xs),
    Math.max(...xs),
    Math.min(...ys),
    Math.max(...ys),
  ]
  const flat = bolts.every((one) => one.x_mm === 0 && one.y_mm === 0)
  const scale = Math.min(500 / Math.max(right - left, 1), 300 / Math.max(high - low, 1))
  return bolts.map((bolt, place) => ({
    bolt,
    x: flat
      ? 60 + (480 * (place + 0.5)) / bolts.length
      : 300 + (bolt.x_mm - (left + right) / 2) * scale,
    y: flat ? 200 : 200 - (bolt.y_mm - (low + high) / 2) * scale,
    rank: props.joint.order.indexOf(bolt.number) + 1,
  }))
})
const way = computed(() =>
  props.joint.order
    .map((number) => places.value.find((one) => one.bolt.number === number)!)
    .map((one, place) => `${place ? 'L' : 'M'}${one.x} ${one.y}`)
    .join(' '),
)
const mark = (bolt: BoltView) => (bolt.final ? '✓' : (useChoices().stage(bolt.stage)?.mark ?? ''))
</script>

<template>
  <svg
    viewBox="0 0 600 420"
    role="group"
    :aria-label="`Map of ${joint.label}`"
    class="w-full bg-paper rounded"
  >
    <path :d="way" class="fill-none stroke-line [stroke-width:2] [stroke-dasharray:6_5]" />
    <g
      v-for="one in places"
      :key="one.bolt.number"
      class="cursor-pointer"
      :class="{
        next: one.bolt.number === joint.next.number,
        final: one.bolt.final,
        picked: picked.includes(one.bolt.number),
        loose: one.bolt.stage === 'loose',
      }"
      role="button"
      tabindex="0"
      :aria-label="`Place ${one.bolt.number}: ${one.bolt.said}`"
      :aria-pressed="picked.includes(one.bolt.number)"
      @click="emit('pick', one.bolt.number)"
      @keydown.enter="emit('pick', one.bolt.number)"
    >
      <circle
        :cx="one.x"
        :cy="one.y"
        :r="one.bolt.number === joint.next.number ? R + 8 : R"
        class="fill-card stroke-ink [stroke-width:2]"
      />
      <text
        :x="one.x"
        :y="one.y + 9"
        class="number [font:600_24px_var(--figures)] [text-anchor:middle] fill-ink"
      >
        {{ one.bolt.number }}
      </text>
      <text
        :x="one.x + R + 6"
        :y="one.y - R + 12"
        class="[font:600_24px_var(--figures)] [text-anchor:middle] text-22px fill-go"
      >
        {{ mark(one.bolt) }}
      </text>
      <text
        :x="one.x"
        :y="one.y + R + 26"
        class="[font:600_24px_var(--figures)] [text-anchor:middle] text-16px fill-soft max-[520px]:hidden"
      >
        {{ one.rank }}.
      </text>
    </g>
  </svg>
</template>

<style scoped>
.final circle {
  fill: var(--go-wash);
  stroke: var(--go);
}

.loose circle {
  stroke: var(--stop);
  stroke-dasharray: 5 4;
}

.next circle {
  fill: var(--brass);
  stroke: var(--ink);
  stroke-width: 3;
}

.picked circle {
  stroke: var(--ink);
  stroke-width: 5;
}

.next .number {
  font-size: 30px;
  fill: #1c2628;
}

@media (width <= 520px) {
  .number,
  .next .number {
    font-size: 34px;
  }
}
</style>
