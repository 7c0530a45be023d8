<script setup lang="ts">
import { computed } from 'vue'
import { useTurns } from '../composables/useTurns'
import { useJob } from '../stores/job'
import FieldGroup from './FieldGroup.vue'
import WheelTurns from './WheelTurns.vue'

const emit = defineEmits<{ saved: [] }>()
const store = useJob()
const { turns } = useTurns()
/** What this plan could have moved; what was read although nobody asked for it stays. */
const fields = computed(
  () =>
    store.sheet?.fields.filter(
      (one) => one.phase === 'check' && (one.asked || store.job?.entries[one.key]),
    ) ?? [],
)
const AXLES = [
  { key: 'rear', label: 'Rear axle' },
  { key: 'front', label: 'Front axle' },
]
const wheels = (axle: string) => turns.value?.wheels.filter((one) => one.key.startsWith(axle)) ?? []
</script>

<template>
  <FieldGroup
    title="The car"
    :fields="fields.filter((one) => !one.axle)"
    prefix=""
    @saved="emit('saved')"
  />
  <template v-for="axle in AXLES" :key="axle.key">
    <FieldGroup
      :title="`${axle.label}, settled`"
      :fields="fields.filter((one) => one.axle === axle.key)"
      prefix=""
      @saved="emit('saved')"
    />
    <div class="pair">
      <WheelTurns v-for="one in wheels(axle.key)" :key="one.key" :wheel="one" />
    </div>
  </template>
</template>
