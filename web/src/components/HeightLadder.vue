<script setup lang="ts">
import { computed } from 'vue'
import type { CornerView } from '../api/client'
import { sayNumber } from '../composables/useWords'

const props = defineProps<{ corner: CornerView; side: string; live?: number | null }>()

const HEIGHT = 300
const TOP = 18

interface Mark {
  at: number
  words: string
  kind: string
}

const marks = computed<Mark[]>(() => {
  const { height_now, height_predicted, check, window } = props.corner
  const all: (Mark | null)[] = [
    window && {
      at: window.high,
      words: `clamp ${sayNumber(window.low, 0)} to ${sayNumber(window.high, 0)}`,
      kind: 'clamp',
    },
    height_now && {
      at: height_now.value,
      words: `before ${sayNumber(height_now.value)}`,
      kind: 'before',
    },
    height_predicted && {
      at: height_predicted.value,
      words: `predicted ${sayNumber(height_predicted.value)}`,
      kind: 'predicted',
    },
    check.height && {
      at: check.height.value,
      words: `settled ${sayNumber(check.height.value)}`,
      kind: 'settled',
    },
    props.live != null
      ? { at: props.live, words: `now ${sayNumber(props.live)}`, kind: 'live' }
      : null,
  ]
  return all.filter((mark): mark is Mark => mark !== null)
})

const span = computed(() => {
  const window = props.corner.window
  const values = [
    ...marks.value.map((mark) => mark.at),
    ...(window ? [window.low, window.high] : []),
  ]
  if (!values.length) return null
  const low = Math.floor((Math.min(...values) - 8) / 10) * 10
  const high = Math.ceil((Math.max(...values) + 8) / 10) * 10
  return { low, high }
})

const y = (at: number) =>
  span.value ? TOP + ((span.value.high - at) / (span.value.high - span.value.low)) * HEIGHT : TOP

/** Labels that would overlap are pushed apart, each still tied to its mark. */
const labels = computed(() => {
  const placed = marks.value.map((mark) => ({ ...mark, y: y(mark.at), text: y(mark.at) }))
  placed.sort((one, other) => one.y - other.y)
  placed.forEach((label, place) => {
    const above = placed[place - 1]
    if (above) label.text = Math.max(label.text, above.text + 22)
  })
  return placed
})

const ticks = computed(() => {
  if (!span.value) return []
  const count = (span.value.high - span.value.low) / 10
  return Array.from({ length: count + 1 }, (_, place) => span.value!.low + 10 * place)
})

const summary = computed(
  () =>
    `${props.side} height ladder, mm hub to arch: ${marks.value.map((mark) => mark.words).join(', ')}`,
)
</script>

<template>
  <svg v-if="span" viewBox="0 0 290 336" role="img" :aria-label="summary">
    <g v-for="tick in ticks" :key="tick">
      <path :d="`M52 ${y(tick)}h14`" class="tick" />
      <text v-if="tick % 20 === 0" x="46" :y="y(tick) + 5" class="scale">{{ tick }}</text>
    </g>
    <path :d="`M66 ${TOP}v${HEIGHT}`" class="rail" />
    <g v-if="corner.window">
      <rect
        x="66"
        :y="y(corner.window.high)"
        width="44"
        :height="y(corner.window.low) - y(corner.window.high)"
        class="window"
      />
    </g>
    <rect
      v-if="corner.height_predicted?.plus_minus"
      x="112"
      :y="y(corner.height_predicted.value + corner.height_predicted.plus_minus)"
      width="10"
      :height="
        y(corner.height_predicted.value - corner.height_predicted.plus_minus) -
        y(corner.height_predicted.value + corner.height_predicted.plus_minus)
      "
      class="band"
    />
    <g v-for="label in labels" :key="label.kind" :class="label.kind">
      <path :d="`M66 ${label.y}H124L138 ${label.text}`" class="lead" />
      <path v-if="label.kind === 'live'" :d="`M60 ${label.y}l-14 -8v16z`" class="pointer" />
      <text x="142" :y="label.text + 6">{{ label.words }}</text>
    </g>
    <text x="142" :y="332" class="scale foot">mm, hub to arch</text>
  </svg>
  <p v-else class="soft">The ladder appears with the first height.</p>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 340px;
}

text {
  font: 600 20px var(--figures);
  fill: var(--ink);
}

.scale {
  font-size: 18px;
  text-anchor: end;
  fill: var(--soft);
}

.foot {
  text-anchor: start;
}

.tick,
.rail {
  stroke: var(--soft);
  stroke-width: 2;
}

.window {
  fill: var(--go-wash);
  stroke: var(--go);
  stroke-width: 2;
}

.band {
  fill: var(--brass);
  opacity: 0.6;
}

.lead {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

.clamp .lead {
  stroke: var(--go);
}

.clamp text {
  fill: var(--go);
}

.before .lead {
  stroke-dasharray: 3 4;
}

.predicted .lead {
  stroke: var(--wait);
  stroke-dasharray: 9 4;
}

.live .lead,
.live text {
  stroke-width: 3;
  fill: var(--stop);
}

.live .lead {
  fill: none;
  stroke: var(--stop);
}

.pointer {
  fill: var(--stop);
}
</style>
