<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed } from 'vue'
import type { StepReadView, StepView } from '../api/client'
import { useJob } from '../stores/job'
import ChoiceField from './ChoiceField.vue'
import CountTurns from './CountTurns.vue'
import MeasuringField from './MeasuringField.vue'

/** The numbers a step asks for itself, each beside what it is compared with. */
const props = defineProps<{ step: StepView }>()
const store = useJob()
const fields = computed(() => new Map(store.sheet?.fields.map((one) => [one.key, one])))
const asked = computed(() =>
  props.step.reads.flatMap((read) => {
    const field = fields.value.get(read.key)
    return field ? [{ read, field: { ...field, required: read.required } }] : []
  }),
)
const counts = (read: StepReadView) => read.counted && !read.said
</script>

<template>
  <section class="stack" aria-label="Read at this step">
    <div v-for="{ read, field } in asked" :key="read.key" class="grid gap-4px">
      <ChoiceField v-if="field.choices.length" :field="field" />
      <MeasuringField v-else :field="field" />
      <p v-if="read.beside" class="soft">beside {{ read.beside }}</p>
      <FoldAway
        v-if="counts(read)"
        :open="!!read.counted?.total_flats"
        title="Or tap them as they come"
      >
        <CountTurns :read="read" :label="field.label" />
      </FoldAway>
    </div>
  </section>
</template>
