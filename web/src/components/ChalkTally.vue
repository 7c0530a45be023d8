<script setup lang="ts">
import { computed } from 'vue'
import type { TurnsView } from '../api/client'

const props = defineProps<{ label: string; count: TurnsView }>()

const fives = computed(() => Math.floor(props.count.turns / 5))
const rest = computed(() => props.count.turns % 5)
const flats = computed(() =>
  Array.from({ length: 6 }, (_, place) => ({
    key: place,
    path: side(place),
    turned: place < props.count.flats,
  })),
)

/** One side of a hexagon, clockwise from the top. */
function side(place: number): string {
  const corner = (n: number) => {
    const angle = (Math.PI / 3) * n - Math.PI / 2
    return `${(18 + 14 * Math.cos(angle)).toFixed(1)} ${(18 + 14 * Math.sin(angle)).toFixed(1)}`
  }
  return `M${corner(place)}L${corner(place + 1)}`
}
</script>

<template>
  <div
    class="grid gap-2px py-8px px-12px c-chalk bg-band rounded"
    role="img"
    :aria-label="`${label}: ${count.said}`"
  >
    <span class="c-chalk-soft">{{ label }}</span>
    <span class="flex flex-wrap gap-8px min-h-36px">
      <svg v-for="n in fives" :key="n" viewBox="0 0 34 36" width="34" height="36">
        <path
          d="M6 5l-1 26M13 4l1 27M20 5l-1 26M27 4l1 27M1 26L33 9"
          class="fill-none stroke-chalk [stroke-width:2.6] [stroke-linecap:round]"
        />
      </svg>
      <svg
        v-if="rest"
        viewBox="0 0 34 36"
        :width="rest * 8 + 4"
        height="36"
        preserveAspectRatio="xMinYMid slice"
      >
        <path
          v-for="n in rest"
          :key="n"
          :d="`M${n * 7 - 1} 5l${n % 2 ? -1 : 1} 26`"
          class="fill-none stroke-chalk [stroke-width:2.6] [stroke-linecap:round]"
        />
      </svg>
      <svg v-if="count.flats" viewBox="0 0 36 36" width="36" height="36">
        <path
          v-for="flat in flats"
          :key="flat.key"
          :d="flat.path"
          :class="flat.turned ? 'on' : 'off'"
          class="fill-none stroke-chalk [stroke-width:2.6] [stroke-linecap:round]"
        />
      </svg>
    </span>
    <span class="figure text-24px">{{ count.said }}</span>
  </div>
</template>

<style scoped>
.on {
  stroke: var(--brass);
  stroke-width: 5;
}

.off {
  stroke: var(--chalk-soft);
  stroke-width: 1.6;
}
</style>
