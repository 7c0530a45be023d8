<script setup lang="ts">
import type { Line } from '../composables/useLine'

const props = defineProps<{ line: Line }>()
const FAULTS = [
  { key: 'none', label: 'All well' },
  { key: 'signal_lost', label: 'Lose the signal' },
  { key: 'battery_flat', label: 'Run the battery flat' },
]

function simulate(fault: string): void {
  props.line.say({ type: 'simulate', fault })
}
</script>

<template>
  <div class="row" role="group" aria-label="Simulate">
    <span class="soft">Simulate:</span>
    <button
      v-for="one in FAULTS"
      :key="one.key"
      type="button"
      class="min-h-44px py-0 px-12px c-go [text-decoration:underline] bare-button"
      @click="simulate(one.key)"
    >
      {{ one.label }}
    </button>
  </div>
</template>
