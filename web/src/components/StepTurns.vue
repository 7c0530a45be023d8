<script setup lang="ts">
import { computed } from 'vue'
import type { StepView } from '../api/client'
import { useTurns } from '../composables/useTurns'
import WheelTurns from './WheelTurns.vue'

/** The counters of the wheels a step turns at. */
const props = defineProps<{ step: StepView }>()
const { turns } = useTurns()
const wheels = computed(() => {
  const all = [...(turns.value?.wheels ?? [])]
  if (turns.value?.steering) all.push(turns.value.steering)
  return all.filter(
    (one) =>
      one.key.startsWith(props.step.axle) &&
      (props.step.sides.length !== 1 ||
        !one.key.includes('.') ||
        one.key.endsWith(props.step.sides[0]!)),
  )
})
</script>

<template>
  <div class="pair">
    <WheelTurns v-for="one in wheels" :key="one.key" :wheel="one" />
  </div>
  <router-link :to="{ name: 'turns' }" class="py-10px px-0 font-600"
    >The whole turning plan →</router-link
  >
</template>
