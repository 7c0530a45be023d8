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
  <section class="card grid one-col gap-4px" :aria-label="`${prefix} ${title}`">
    <div class="flex flex-wrap gap-y-8px gap-x-16px items-center justify-between">
      <h3>{{ title }}</h3>
      <slot />
    </div>
    <div v-if="of('').length" class="shared grid two-cols gap-y-0 gap-x-18px lt-phone:one-col">
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
      <div
        v-for="column in columns"
        :key="column.side"
        class="grid grid-cols-[repeat(auto-fit,minmax(min(300px,100%),1fr))] gap-y-0 gap-x-16px content-start"
      >
        <h4 class="mt-8px mx-0 mb-6px [font:600_18px_var(--figures)] col-span-full">
          {{ column.side }}
        </h4>
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
.shared > fieldset {
  grid-column: 1 / -1;
}
</style>
