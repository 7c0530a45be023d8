<script setup lang="ts">
import { computed } from 'vue'
import type { AxleMapView, MapPartView } from '../api/client'

/** An axle from above, drawn from its layout; each part is a button. */
const props = defineProps<{ axle: AxleMapView; picked: string }>()
const emit = defineEmits<{ pick: [part: MapPartView | null] }>()
const SIDES = [
  { name: 'left', turn: 'translate(150 8) scale(-1.4 1.4)' },
  { name: 'right', turn: 'translate(190 8) scale(1.4 1.4)' },
] as const
const ROUND = new Set(['spring', 'damper', 'hub'])
const points = (part: MapPartView) => part.line.map((point) => point.join(',')).join(' ')
const title = computed(() => (props.axle.axle === 'front' ? 'Front axle' : 'Rear axle'))
</script>

<template>
  <svg viewBox="0 0 340 162" role="group" :aria-label="`${title}, ${axle.layout}, from above`">
    <rect class="frame" x="150" y="8" width="40" height="146" rx="6" />
    <g v-for="side in SIDES" :key="side.name" :transform="side.turn">
      <rect class="tyre" x="88" y="24" width="14" height="52" rx="4" />
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
            v-if="ROUND.has(part.sort)"
            :cx="part.line[0]![0]"
            :cy="part.line[0]![1]"
            :r="part.sort === 'spring' ? 9 : 6"
          />
          <template v-else>
            <polyline class="touch" :points="points(part)" />
            <polyline :points="points(part)" />
            <circle
              v-for="point in part.line"
              :key="point.join()"
              class="joint"
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
svg {
  width: 100%;
  max-height: 240px;
}

.frame {
  fill: none;
  stroke: var(--line);
  stroke-width: 2;
}

.tyre {
  fill: var(--band);
}

.part {
  cursor: pointer;
}

polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
  stroke-linejoin: round;
  stroke-linecap: round;
}

.touch {
  stroke: transparent;
  stroke-width: 11;
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

circle {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 2.4;
}

.spring circle {
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
