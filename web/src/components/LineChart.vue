<script setup lang="ts">
import { usePreferredDark, useResizeObserver } from '@vueuse/core'
import { LineChart } from 'echarts/charts'
import {
  AriaComponent,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { sayNumber } from '../composables/useWords'

use([
  LineChart,
  AriaComponent,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  TooltipComponent,
  SVGRenderer,
])

export interface ChartLine {
  name: string
  /** Pairs of across and up, in the order they are drawn. */
  points: [number | string, number | null][]
  dash?: number[]
  /** A name of a colour of ours. */
  tone?: 'go' | 'soft' | 'wait' | 'ink'
  /** Drawn as points alone, large. */
  mark?: boolean
  /** What is wanted, from and to: a band behind it all. */
  band?: [number, number]
}

const props = defineProps<{
  title: string
  across: string
  unit: string
  lines: ChartLine[]
  /** Words across the foot where it is no number. */
  words?: string[]
  digits?: number
}>()
const place = ref<HTMLElement | null>(null)
const chart = shallowRef<ECharts | null>(null)
const said = ref('')
const dark = usePreferredDark()
const digits = computed(() => props.digits ?? 2)
const own = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name)
const say = (value: unknown) =>
  typeof value === 'number' ? `${sayNumber(value, digits.value)}${props.unit}` : '–'

/** On a narrow screen a legend of four takes two rows. */
const legendRows = computed(() => (props.lines.length < 2 ? 0 : props.lines.length > 3 ? 2 : 1))

const option = computed(() => {
  void dark.value
  const text = { color: own('--soft'), fontFamily: own('--figures'), fontSize: 15 }
  const line = { lineStyle: { color: own('--line') } }
  return {
    animation: false,
    textStyle: text,
    aria: { enabled: true },
    grid: { left: 52, right: 16, top: 14 + 26 * legendRows.value, bottom: props.words ? 56 : 44 },
    legend: {
      show: props.lines.length > 1,
      top: 0,
      left: 0,
      itemWidth: 34,
      textStyle: { ...text, color: own('--ink') },
    },
    tooltip: {
      trigger: 'axis',
      renderMode: 'richText',
      confine: true,
      backgroundColor: own('--band'),
      borderWidth: 0,
      textStyle: { color: own('--chalk'), fontFamily: own('--figures'), fontSize: 16 },
      valueFormatter: say,
    },
    xAxis: {
      type: props.words ? 'category' : 'value',
      data: props.words,
      name: props.across,
      nameLocation: 'middle',
      nameGap: 26,
      min: props.words ? undefined : 'dataMin',
      max: props.words ? undefined : 'dataMax',
      axisLabel: { ...text, lineHeight: 18 },
      axisLine: { ...line, onZero: false },
      splitLine: line,
    },
    yAxis: {
      type: 'value',
      scale: true,
      splitNumber: 4,
      axisLabel: { ...text, formatter: (value: number) => sayNumber(value, 1) },
      splitLine: line,
    },
    series: props.lines.map((one) => ({
      type: 'line',
      name: one.name,
      data: one.points,
      connectNulls: true,
      showSymbol: !!one.mark || !!props.words,
      symbol: one.mark || props.words ? 'circle' : 'none',
      symbolSize: one.mark ? 13 : 7,
      itemStyle: { color: one.mark ? '#e0a53a' : own(`--${one.tone ?? 'ink'}`) },
      lineStyle: {
        color: own(`--${one.tone ?? 'ink'}`),
        width: one.mark ? 0 : 2.5,
        type: one.dash ?? 'solid',
      },
      markArea: one.band && {
        silent: true,
        itemStyle: { color: own('--go'), opacity: 0.16 },
        data: [[{ yAxis: one.band[0] }, { yAxis: one.band[1] }]],
      },
    })),
  }
})

const longest = computed(() =>
  props.lines.reduce((most, one) => (one.points.length > most.points.length ? one : most)),
)
let at = -1

/** Left and right step through the values; what stands there is shown and read out. */
function step(event: KeyboardEvent): void {
  const last = longest.value.points.length - 1
  const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: last }[event.key]
  if (to === undefined || !chart.value) return
  event.preventDefault()
  at = Math.min(Math.max(to, 0), last)
  const across = longest.value.points[at]![0]
  const named = props.lines.flatMap((one) => {
    const found = one.points.find((point) => point[0] === across)
    return found && found[1] !== null ? [`${one.name} ${say(found[1])}`] : []
  })
  said.value = `${across}: ${named.join(', ')}`
  chart.value.dispatchAction({
    type: 'showTip',
    seriesIndex: props.lines.indexOf(longest.value),
    dataIndex: at,
  })
}

onMounted(() => {
  chart.value = init(place.value!, undefined, { renderer: 'svg' })
  chart.value.setOption(option.value)
})
onUnmounted(() => chart.value?.dispose())
watch(option, (now) => chart.value?.setOption(now, true))
useResizeObserver(place, () => chart.value?.resize())
</script>

<template>
  <figure
    class="m-0"
    tabindex="0"
    :aria-label="`${title}; arrow keys step through the values`"
    @keydown="step"
  >
    <figcaption class="[font:600_20px_var(--figures)]">
      <slot>{{ title }}</slot>
    </figcaption>
    <div ref="place" class="w-full h-240px"></div>
    <p class="soft" role="status">{{ said }}</p>
  </figure>
</template>
