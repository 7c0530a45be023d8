<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { sayNumber } from '../composables/useWords'
import type { ChartLine } from './LineChart.vue'

interface Line {
  travel: number[]
  value: number[]
}

const LineChart = defineAsyncComponent(() => import('./LineChart.vue'))
const props = defineProps<{
  title: string
  unit: string
  today: Line
  tried?: Line
  /** Where the wheel would stand: travel and value. */
  at?: [number, number]
  /** From where to where it would do. */
  wanted?: [number, number]
}>()
const points = (line: Line): ChartLine['points'] =>
  line.travel.map((travel, place) => [travel, line.value[place]!])
const lines = computed<ChartLine[]>(() => [
  {
    name: 'today',
    points: points(props.today),
    tone: 'soft',
    dash: [6, 4],
    band: props.wanted,
  },
  ...(props.tried ? [{ name: 'as tried', points: points(props.tried), tone: 'go' as const }] : []),
  ...(props.at ? [{ name: 'stands', points: [props.at], mark: true }] : []),
])
</script>

<template>
  <LineChart
    :title="`${title} through the travel`"
    across="wheel up, mm"
    :unit="unit"
    :lines="lines"
  >
    {{ title }}
    <template v-if="at">{{ sayNumber(at[1], 2) }}{{ unit }}</template>
  </LineChart>
</template>
