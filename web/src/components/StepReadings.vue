<script setup lang="ts">
import { computed, ref } from 'vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useJob } from '../stores/job'
import ChoiceField from './ChoiceField.vue'
import MeasuringField from './MeasuringField.vue'
import SettleBar from './SettleBar.vue'

/** What a step still has to read, field after field, gauges included. */
const props = defineProps<{ phase: 'baseline' | 'check' }>()
const store = useJob()
const page = ref<HTMLElement | null>(null)
const moveOn = useMoveOn(page)
const started = ref<string[]>([...(store.job?.missing[props.phase] ?? [])])
const fields = computed(
  () =>
    store.sheet?.fields.filter(
      (one) =>
        one.phase === props.phase &&
        (started.value.includes(one.key) || store.job?.missing[props.phase]?.includes(one.key)),
    ) ?? [],
)
const left = computed(() => store.job?.missing[props.phase]?.length ?? 0)
const name = (axle: string, side: string) => {
  const words = [axle, side].filter(Boolean).join(' ') || 'The car'
  return words[0]!.toUpperCase() + words.slice(1)
}
</script>

<template>
  <div ref="page" class="stack">
    <SettleBar />
    <p class="figure" role="status">{{ left ? `${left} still to be read` : '✓ all read' }}</p>
    <div class="fields">
      <template v-for="field in fields" :key="field.key">
        <ChoiceField v-if="field.choices.length" :field="field" />
        <MeasuringField
          v-else
          :field="field"
          :prefix="name(field.axle, field.side)"
          @saved="moveOn"
        >
        </MeasuringField>
      </template>
    </div>
    <router-link :to="{ name: phase === 'baseline' ? 'walk' : 'walk-again' }" class="elsewhere">
      {{
        phase === 'baseline' ? 'Walk round the car, one reading at a time →' : 'Beside the plan →'
      }}
    </router-link>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(280px, 100%), 1fr));
  gap: 0 16px;
}

.elsewhere {
  padding: 10px 0;
  font-weight: 600;
}
</style>
