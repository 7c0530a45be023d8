<script setup lang="ts">
import { computed } from 'vue'
import type { AxleMapView, MapPartView } from '../api/client'

/** An axle from above, or its left side from the side, drawn from its layout; each part is a button. */
const props = defineProps<{ axle: AxleMapView; picked: string; fromSide?: boolean }>()
const emit = defineEmits<{ pick: [part: MapPartView | null] }>()
const SIDES = [
  { name: 'left', turn: 'translate(150 8) scale(-1.4 1.4)' },
  { name: 'right', turn: 'translate(190 8) scale(1.4 1.4)' },
] as const
const sides = computed(() =>
  props.fromSide ? [{ name: 'left', turn: 'translate(100 8) scale(1.4)' }] : SIDES,
)
const line = (part: MapPartView) => (props.fromSide ? part.side_line : part.line)
const isRound = (part: MapPartView) => line(part).length === 1
const points = (part: MapPartView) =>
  line(part)
    .map((point) => point.join(','))
    .join(' ')
const title = computed(() => (props.axle.axle === 'front' ? 'Front axle' : 'Rear axle'))
</script>

<template>
  <svg
    :viewBox="fromSide ? '76 22 188 128' : '0 0 340 162'"
    role="group"
    :aria-label="`${title}, ${axle.layout}, ${fromSide ? 'left side' : 'from above'}`"
    class="w-full max-h-240px"
  >
    <template v-if="fromSide">
      <line class="fill-none stroke-line [stroke-width:2]" x1="70" y1="34" x2="270" y2="34" />
      <line class="stroke-soft [stroke-width:2]" x1="70" y1="144" x2="270" y2="144" />
    </template>
    <rect
      v-else
      class="fill-none stroke-line [stroke-width:2]"
      x="150"
      y="8"
      width="40"
      height="146"
      rx="6"
    />
    <g v-for="side in sides" :key="side.name" :transform="side.turn">
      <circle
        v-if="fromSide"
        class="fill-none stroke-line [stroke-width:7]"
        cx="50"
        cy="62"
        r="32"
      />
      <rect v-else class="fill-band" x="88" y="24" width="14" height="52" rx="4" />
      <template v-for="part in axle.parts" :key="part.key">
        <g
          class="part"
          :class="[part.sort, { on: picked === part.key }]"
          :role="side.name === 'left' ? 'button' : undefined"
          :tabindex="side.name === 'left' ? 0 : undefined"
          :aria-label="side.name === 'left' ? `${title}: ${part.label}` : undefined"
          :aria-pressed="side.name === 'left' ? picked === part.key : undefined"
          @click="emit('pick', picked === part.key ? null : part)"
          @keydown.enter="emit('pick', picked === part.key ? null : part)"
        >
          <circle
            v-if="isRound(part)"
            :cx="line(part)[0]![0]"
            :cy="line(part)[0]![1]"
            :r="part.sort === 'spring' ? 9 : 6"
          />
          <template v-else>
            <polyline
              class="touch fill-none [stroke-linejoin:round] [stroke-linecap:round] [stroke:transparent] [stroke-width:11]"
              :points="points(part)"
            />
            <polyline
              :points="points(part)"
              class="fill-none stroke-ink [stroke-width:3] [stroke-linejoin:round] [stroke-linecap:round]"
            />
            <circle
              v-for="point in line(part)"
              :key="point.join()"
              :cx="point[0]"
              :cy="point[1]"
              r="2.6"
            />
          </template>
        </g>
      </template>
    </g>
  </svg>
</template>

<style scoped>
.part {
  cursor: pointer;
}

.bar polyline:not(.touch) {
  stroke: var(--soft);
  stroke-width: 4;
}

.hose polyline:not(.touch) {
  stroke: var(--stop);
  stroke-width: 2;
  stroke-dasharray: 3 3;
}

.part circle {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 2.4;
}

.spring circle,
.spring polyline:not(.touch) {
  stroke-dasharray: 5 2;
}

.on polyline:not(.touch),
.on circle,
.part:hover polyline:not(.touch),
.part:hover circle {
  stroke: var(--go);
}

.on circle {
  fill: var(--go);
}
</style>
