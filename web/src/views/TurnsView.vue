<script setup lang="ts">
import { computed } from 'vue'
import AxleTogether from '../components/AxleTogether.vue'
import SidesApart from '../components/SidesApart.vue'
import WheelTurns from '../components/WheelTurns.vue'
import { useTurns } from '../composables/useTurns'

const { turns } = useTurns()
const AXLES = [
  { key: 'rear', label: 'Rear axle first' },
  { key: 'front', label: 'Then the front, to the thrust line' },
]
const of = (axle: string) =>
  turns.value?.wheels.filter(
    (one) => one.key.startsWith(axle) && (axle !== 'front' || !turns.value?.steering),
  ) ?? []
const axles = computed(() =>
  AXLES.filter((one) => of(one.key).length || (one.key === 'front' && turns.value?.steering)),
)
const stands = (axle: string) => turns.value?.stands.find((one) => one.axle === axle)
const together = (axle: string) => turns.value?.axles.find((one) => one.axle === axle)
const sides = (axle: string) => turns.value?.sides.filter((one) => one.axle === axle) ?? []
const order = computed(() => turns.value?.order ?? [])
</script>

<template>
  <div class="stack">
    <h2>Turns</h2>
    <p class="soft">
      Tap while turning. + lengthens, − shortens; the number in the middle is what is still wanted.
    </p>
    <template v-for="axle in axles" :key="axle.key">
      <h3 v-if="axles.length > 1">{{ axle.label }}</h3>
      <AxleTogether
        v-if="together(axle.key)"
        :axle="together(axle.key)!"
        :stands="stands(axle.key)"
      />
      <SidesApart :sides="sides(axle.key)" />
      <div class="pair">
        <WheelTurns v-for="one in of(axle.key)" :key="one.key" :wheel="one" />
      </div>
      <WheelTurns v-if="axle.key === 'front' && turns?.steering" :wheel="turns.steering" />
    </template>
    <ol v-if="order.length" class="card pl-38px m-0 [line-height:1.8]" aria-label="In which order">
      <li v-for="step in order" :key="step">{{ step }}</li>
    </ol>
  </div>
</template>
