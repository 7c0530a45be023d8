<script setup lang="ts">
import { computed } from 'vue'
import type { WheelPlanView } from '../api/client'

type Segment = WheelPlanView['segments'][number]
const props = defineProps<{ segments: Segment[]; label: string; left: boolean }>()
const SIZE = 170
/** A first point alone has no size. [mm] */
const LEAST = 200
const views = computed(() => [
  { name: 'From behind', across: 1, up: 2, flip: -1 },
  { name: 'From outside', across: 0, up: 2, flip: props.left ? -1 : 1 },
  { name: 'From above', across: 1, up: 0, flip: -1 },
])

const drawn = computed(() => {
  const points = props.segments.flatMap((one) => [one.start, one.end])
  if (!points.length) return []
  const range = [0, 1, 2].map((axis) => {
    const all = points.map((at) => at[axis]!)
    return [Math.min(...all), Math.max(...all)] as const
  })
  const reach = Math.max(...range.map(([low, high]) => high - low), LEAST) * 1.15
  const middle = range.map(([low, high]) => (low + high) / 2)
  return views.value.map((view) => ({
    name: view.name,
    lines: props.segments.map((one) => {
      const [from, to] = [one.start, one.end].map((at) => ({
        x: SIZE / 2 + (view.flip * (at[view.across]! - middle[view.across]!) * SIZE) / reach,
        y: SIZE / 2 - ((at[view.up]! - middle[view.up]!) * SIZE) / reach,
      }))
      return { ...one, from: from!, to: to! }
    }),
  }))
})
</script>

<template>
  <div class="grid grid-cols-[repeat(3,minmax(0,1fr))] gap-8px">
    <figure v-for="view in drawn" :key="view.name" class="m-0 text-center">
      <svg
        :viewBox="`0 0 ${SIZE} ${SIZE}`"
        role="img"
        :aria-label="`${label} corner, ${view.name.toLowerCase()}`"
        class="w-full bg-paper rounded"
      >
        <g v-for="(line, place) in view.lines" :key="place" :class="line.kind">
          <title>{{ line.name.replaceAll('_', ' ') }}</title>
          <line
            :x1="line.from.x"
            :y1="line.from.y"
            :x2="line.to.x"
            :y2="line.to.y"
            class="stroke-ink [stroke-width:2]"
          />
          <circle
            v-if="line.kind === 'point'"
            :cx="line.to.x"
            :cy="line.to.y"
            r="5"
            class="fill-brass stroke-ink"
          />
          <template v-if="line.kind === 'link'">
            <rect
              :x="line.from.x - 3"
              :y="line.from.y - 3"
              width="6"
              height="6"
              class="fill-card stroke-ink"
            />
            <circle :cx="line.to.x" :cy="line.to.y" r="3.4" class="fill-brass stroke-ink" />
          </template>
        </g>
      </svg>
      <figcaption class="soft">{{ view.name }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.upright line,
.strut line {
  stroke: var(--soft);
  stroke-width: 5;
  stroke-linecap: round;
}

.upright line {
  stroke-width: 3;
}

.rim line {
  stroke: var(--go);
  stroke-width: 1.5;
}

.axis line {
  stroke-dasharray: 4 3;
}

.spindle line {
  stroke: var(--go);
  stroke-width: 4;
}
</style>
