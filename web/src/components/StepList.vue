<script setup lang="ts">
import { computed } from 'vue'
import type { StepView } from '../api/client'

const props = defineProps<{ steps: StepView[]; shown: string }>()
const emit = defineEmits<{ choose: [key: string] }>()

interface Stretch {
  where: string
  steps: StepView[]
}

/** Steps in order, cut where the car has to move. */
const stretches = computed(() =>
  props.steps.reduce<Stretch[]>((all, step) => {
    const last = all.at(-1)
    if (last?.where === step.where_said) last.steps.push(step)
    else all.push({ where: step.where_said, steps: [step] })
    return all
  }, []),
)
const MARKS = { done: '✓', skipped: '–', open: '○' }
</script>

<template>
  <div
    v-for="(stretch, place) in stretches"
    :key="place"
    class="pl-10px mt-10px b-l-4px b-l-solid b-l-line"
  >
    <h4 class="m-0 [font:600_17px_var(--figures)] c-soft">{{ stretch.where }}</h4>
    <ul class="bare-list">
      <li v-for="step in stretch.steps" :key="step.key">
        <button
          type="button"
          :class="[step.state, { shown: step.key === shown }]"
          :aria-current="step.key === shown ? 'step' : undefined"
          class="grid grid-cols-[26px_minmax(0,1fr)] w-full min-h-44px py-8px px-6px text-left rounded bare-button"
          @click="emit('choose', step.key)"
        >
          <span class="mark" :aria-label="step.state">{{ MARKS[step.state] }}</span>
          {{ step.title }}
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
button.shown {
  font-weight: 600;
  background: var(--wait-wash);
}

.done .mark {
  font-weight: 700;
  color: var(--go);
}

.skipped .mark {
  color: var(--wait);
}
</style>
