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
  <div v-for="(stretch, place) in stretches" :key="place" class="stretch">
    <h4>{{ stretch.where }}</h4>
    <ul>
      <li v-for="step in stretch.steps" :key="step.key">
        <button
          type="button"
          :class="[step.state, { shown: step.key === shown }]"
          :aria-current="step.key === shown ? 'step' : undefined"
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
.stretch {
  padding-left: 10px;
  margin-top: 10px;
  border-left: 4px solid var(--line);
}

h4 {
  margin: 0;
  font: 600 17px var(--figures);
  color: var(--soft);
}

ul {
  padding: 0;
  margin: 0;
  list-style: none;
}

button {
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr);
  width: 100%;
  min-height: 44px;
  padding: 8px 6px;
  text-align: left;
  cursor: pointer;
  background: none;
  border: 0;
  border-radius: var(--radius);
}

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
