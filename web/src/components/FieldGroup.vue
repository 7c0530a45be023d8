<script setup lang="ts">
import { computed } from 'vue'
import type { FieldView } from '../api/client'
import ChoiceField from './ChoiceField.vue'
import MeasuringField from './MeasuringField.vue'

const props = defineProps<{ title: string; fields: FieldView[]; prefix: string }>()
const emit = defineEmits<{ saved: [] }>()
const of = (side: FieldView['side']) => props.fields.filter((one) => one.side === side)
/** Many choices among many fields are a list; few, or the first ones, are buttons. */
const isCompact = (field: FieldView) => (field.side && field.choices.length > 2) || undefined
const columns = computed(() =>
  of('left').length
    ? [
        { side: 'Left', fields: of('left') },
        { side: 'Right', fields: of('right') },
      ]
    : [],
)
const name = (side = '') =>
  [props.prefix, side.toLowerCase(), props.title].filter(Boolean).join(' ')
</script>

<template>
  <section class="card group" :aria-label="`${prefix} ${title}`">
    <div class="title">
      <h3>{{ title }}</h3>
      <slot />
    </div>
    <div v-if="of('').length" class="shared">
      <component
        :is="field.choices.length ? ChoiceField : MeasuringField"
        v-for="field in of('')"
        :key="field.key"
        :field="field"
        :prefix="name()"
        :compact="isCompact(field)"
        @saved="emit('saved')"
      />
    </div>
    <div v-if="columns.length" class="pair">
      <div v-for="column in columns" :key="column.side" class="column">
        <h4>{{ column.side }}</h4>
        <component
          :is="field.choices.length ? ChoiceField : MeasuringField"
          v-for="field in column.fields"
          :key="field.key"
          :field="field"
          :prefix="name(column.side)"
          :compact="isCompact(field)"
          @saved="emit('saved')"
        />
      </div>
    </div>
  </section>
</template>

<style scoped>
.group {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}

.title {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  justify-content: space-between;
}

.shared {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 18px;
}

.shared > fieldset {
  grid-column: 1 / -1;
}

.column {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(300px, 100%), 1fr));
  gap: 0 16px;
  align-content: start;
}

.column > h4 {
  grid-column: 1 / -1;
}

h4 {
  margin: 8px 0 6px;
  font: 600 18px var(--figures);
}

@media (width <= 760px) {
  .shared {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
