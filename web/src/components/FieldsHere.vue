<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../stores/job'
import ChoiceField from './ChoiceField.vue'
import MeasuringField from './MeasuringField.vue'

/** Fields by their keys, there where they are missed; what the open book does not ask is left out. */
const props = defineProps<{ keys: string[] }>()
const store = useJob()
const known = computed(() => new Map(store.sheet?.fields.map((one) => [one.key, one])))
const fields = computed(() => props.keys.flatMap((key) => known.value.get(key) ?? []))
const place = (axle: string, side: string) => [axle, side].filter(Boolean).join(' ')
</script>

<template>
  <div v-if="fields.length" class="stack">
    <template v-for="field in fields" :key="field.key">
      <ChoiceField
        v-if="field.choices.length"
        :field="field"
        :prefix="place(field.axle, field.side)"
      />
      <MeasuringField v-else :field="field" :prefix="place(field.axle, field.side)" />
    </template>
  </div>
</template>
