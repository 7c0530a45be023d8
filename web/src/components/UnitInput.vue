<script setup lang="ts">
import type { UnitView } from '../api/client'

defineProps<{
  label: string
  unitLabel?: string
  units: UnitView[]
  tone?: 'bad' | 'done' | ''
  placeholder?: string
  describedBy?: string
  words?: boolean
}>()
const text = defineModel<string>('text', { default: '' })
const unit = defineModel<string>('unit', { default: '' })
const emit = defineEmits<{ typing: []; enter: [event: KeyboardEvent] }>()
</script>

<template>
  <span class="together" :class="tone">
    <input
      v-model="text"
      autocomplete="off"
      :maxlength="words ? 400 : 40"
      class="box number"
      :class="{ figure: !words, alone: words || !units.length }"
      :placeholder="placeholder"
      :aria-label="label"
      :aria-invalid="tone === 'bad'"
      :aria-describedby="describedBy"
      @focus="($event.target as HTMLInputElement).select()"
      @input="emit('typing')"
      @keydown.enter.prevent="emit('enter', $event)"
    />
    <select
      v-if="units.length"
      v-model="unit"
      class="unit"
      :aria-label="unitLabel ?? `${label}: unit`"
      @change="emit('typing')"
    >
      <option v-for="one in units" :key="one.key" :value="one.key">{{ one.label }}</option>
    </select>
  </span>
</template>

<style scoped>
.together {
  display: flex;
}

.number {
  flex: 1;
  width: 0;
  min-width: 56px;
  border-radius: var(--radius) 0 0 var(--radius);
}

.number.figure {
  font-size: 24px;
}

.number.alone {
  border-radius: var(--radius);
}

.unit {
  max-width: 160px;
  min-height: 44px;
  padding: 0 6px;
  background: var(--paper);
  border: 1px solid var(--soft);
  border-left: 0;
  border-radius: 0 var(--radius) var(--radius) 0;
}

.bad .number {
  border: 2px solid var(--stop);
}

.done .number {
  border-color: var(--go);
}
</style>
