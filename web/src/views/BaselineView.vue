<script setup lang="ts">
import { computed, ref } from 'vue'
import type { FieldView } from '../api/client'
import ChoiceField from '../components/ChoiceField.vue'
import MeasuringField from '../components/MeasuringField.vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useJob } from '../stores/job'

const store = useJob()
const page = ref<HTMLElement | null>(null)
const fields = computed(() => store.sheet?.fields.filter((one) => one.phase === 'baseline') ?? [])
const groups = computed(() => [...new Set(fields.value.map((field) => field.group))])
const required = computed(() => fields.value.filter((field) => field.required))
const read = computed(() => required.value.filter((one) => store.job?.entries[one.key]).length)

const of = (group: string, owner: FieldView['owner']) =>
  fields.value.filter((field) => field.group === group && field.owner === owner)

const moveOn = useMoveOn(page)
</script>

<template>
  <div ref="page" class="baseline">
    <header>
      <h2>Baseline</h2>
      <p class="soft">
        Type a number and Enter; the next empty field takes over. Commas, fractions and units such
        as 1 3/8 in or 0°20' are understood.
      </p>
      <p class="figure progress" role="status">{{ read }} of {{ required.length }} read</p>
    </header>
    <section v-for="group in groups" :key="group" class="card">
      <h3>{{ group }}</h3>
      <div v-if="of(group, 'axle').length" class="axle">
        <template v-for="field in of(group, 'axle')" :key="field.key">
          <ChoiceField v-if="field.choices.length" :field="field" />
          <MeasuringField v-else :field="field" @saved="moveOn" />
        </template>
      </div>
      <div v-if="of(group, 'left').length" class="pair">
        <div v-for="side in ['left', 'right'] as const" :key="side">
          <h4>{{ side === 'left' ? 'Left' : 'Right' }}</h4>
          <MeasuringField
            v-for="field in of(group, side)"
            :key="field.key"
            :field="field"
            :prefix="side === 'left' ? 'Left' : 'Right'"
            @saved="moveOn"
          />
        </div>
      </div>
    </section>
    <router-link :to="{ name: 'plan' }" class="onward">On to the plan →</router-link>
  </div>
</template>

<style scoped>
.baseline {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
}

header {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 20px;
}

.progress {
  grid-row: 1 / 3;
  grid-column: 2;
  align-self: center;
  font-size: 24px;
  color: var(--go);
}

.axle {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 18px;
  align-items: start;
}

.axle > fieldset {
  grid-column: 1 / -1;
}

h4 {
  margin: 8px 0 6px;
  font: 600 18px var(--figures);
}

.onward {
  justify-self: end;
  padding: 10px 18px;
  font-weight: 600;
}

@media (width <= 760px) {
  .axle {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
