<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import type { HistoryView } from '../api/client'
import { sayDay } from '../composables/useWords'
import type { ChartLine } from './LineChart.vue'

const LineChart = defineAsyncComponent(() => import('./LineChart.vue'))
const props = defineProps<{ title: string; ending: string; moments: HistoryView['moments'] }>()
const CORNERS: { key: string; label: string; dash?: number[]; tone: ChartLine['tone'] }[] = [
  { key: 'front.left', label: 'front left', tone: 'ink' },
  { key: 'front.right', label: 'front right', dash: [8, 4], tone: 'go' },
  { key: 'rear.left', label: 'rear left', dash: [2, 4], tone: 'wait' },
  { key: 'rear.right', label: 'rear right', dash: [10, 3, 2, 3], tone: 'soft' },
]
/** Two readings of one day stand apart by their number. */
const words = computed(() =>
  props.moments.map((one, place) => `${place + 1} · ${sayDay(one.at)}\n${one.phase}`),
)
const lines = computed<ChartLine[]>(() =>
  CORNERS.map((corner) => ({
    name: corner.label,
    dash: corner.dash,
    tone: corner.tone,
    points: props.moments.map((one, place): [string, number | null] => [
      words.value[place]!,
      one.values[corner.key + props.ending]?.value ?? null,
    ]),
  })).filter((one) => one.points.some((point) => point[1] !== null)),
)
</script>

<template>
  <div v-if="lines.length" class="card">
    <LineChart :title="title" across="" unit="" :digits="1" :lines="lines" :words="words" />
  </div>
</template>
