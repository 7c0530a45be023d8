<script setup lang="ts">
import { computed } from 'vue'
import type { LadderMarks } from '../composables/useLadder'
import { sayNumber } from '../composables/useWords'

const props = defineProps<{ marks: LadderMarks; side: string; live?: number | null }>()

const HEIGHT = 300
const TOP = 18

interface Mark {
  at: number
  words: string
  kind: string
}

const marks = computed<Mark[]>(() => {
  const { before, predicted, settled, wanted, clamp } = props.marks
  const all: (Mark | null)[] = [
    clamp
      ? {
          at: clamp[1],
          words: `clamp ${sayNumber(clamp[0], 0)} to ${sayNumber(clamp[1], 0)}`,
          kind: 'clamp',
        }
      : null,
    mark(before, 'before'),
    mark(predicted, 'predicted'),
    mark(wanted, 'wanted'),
    mark(settled, 'settled'),
    mark(props.live, 'now', 'live'),
  ]
  return all.filter((one): one is Mark => one !== null)
})

function mark(at: number | null | undefined, words: string, kind = words): Mark | null {
  return at == null ? null : { at, words: `${words} ${sayNumber(at)}`, kind }
}

const span = computed(() => {
  const values = [...marks.value.map((one) => one.at), ...(props.marks.clamp ?? [])]
  if (!values.length) return null
  const low = Math.floor((Math.min(...values) - 8) / 10) * 10
  const high = Math.ceil((Math.max(...values) + 8) / 10) * 10
  return { low, high }
})

const y = (at: number) =>
  span.value ? TOP + ((span.value.high - at) / (span.value.high - span.value.low)) * HEIGHT : TOP

/** Labels that would overlap are pushed apart, each still tied to its mark. */
const labels = computed(() => {
  const placed = marks.value.map((one) => ({ ...one, y: y(one.at), text: y(one.at) }))
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
    `${props.side} height ladder, mm hub to arch: ${marks.value.map((one) => one.words).join(', ')}`,
)
</script>

<template>
  <svg
    v-if="span"
    viewBox="0 0 290 336"
    role="img"
    :aria-label="summary"
    class="w-full max-w-340px"
  >
    <g v-for="tick in ticks" :key="tick">
      <path :d="`M52 ${y(tick)}h14`" class="stroke-soft [stroke-width:2]" />
      <text
        v-if="tick % 20 === 0"
        x="46"
        :y="y(tick) + 5"
        class="[font:600_20px_var(--figures)] text-18px [text-anchor:end] fill-soft"
      >
        {{ tick }}
      </text>
    </g>
    <path :d="`M66 ${TOP}v${HEIGHT}`" class="stroke-soft [stroke-width:2]" />
    <rect
      v-if="props.marks.clamp"
      x="66"
      :y="y(props.marks.clamp[1])"
      width="44"
      :height="y(props.marks.clamp[0]) - y(props.marks.clamp[1])"
      class="fill-go-wash stroke-go [stroke-width:2]"
    />
    <rect
      v-if="props.marks.predicted != null && props.marks.spread"
      x="112"
      :y="y(props.marks.predicted + props.marks.spread)"
      width="10"
      :height="
        y(props.marks.predicted - props.marks.spread) -
        y(props.marks.predicted + props.marks.spread)
      "
      class="fill-brass [opacity:0.6]"
    />
    <g v-for="label in labels" :key="label.kind" :class="label.kind">
      <path
        :d="`M66 ${label.y}H124L138 ${label.text}`"
        class="lead fill-none stroke-ink [stroke-width:2]"
      />
      <path v-if="label.kind === 'live'" :d="`M60 ${label.y}l-14 -8v16z`" class="fill-stop" />
      <text x="142" :y="label.text + 6" class="[font:600_20px_var(--figures)] fill-ink">
        {{ label.words }}
      </text>
    </g>
    <text
      x="142"
      :y="332"
      class="[font:600_20px_var(--figures)] text-18px fill-soft [text-anchor:start]"
    >
      mm, hub to arch
    </text>
  </svg>
  <p v-else class="soft">The ladder appears with the first height.</p>
</template>

<style scoped>
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

.wanted .lead {
  stroke: var(--go);
  stroke-dasharray: 2 3;
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
</style>
