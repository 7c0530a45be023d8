<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { UnitView } from '../api/client'

const props = defineProps<{
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
const input = ref<HTMLInputElement | null>(null)
const focused = ref(false)
const byTouch = useMediaQuery('(pointer: coarse)')
/** What a phone's pad of digits lacks: a sign, and the spelling of an angle or of a fraction. */
const keys = computed(() => {
  const angle = props.units.some((one) => one.key === 'deg')
  return angle ? ['−', '°', '′'] : ['−', 'space', '/']
})

function put(key: string): void {
  const box = input.value
  if (!box) return
  const [from, to] = [box.selectionStart ?? 0, box.selectionEnd ?? 0]
  box.setRangeText(key === 'space' ? ' ' : key, from, to, 'end')
  box.dispatchEvent(new Event('input', { bubbles: true }))
}
</script>

<template>
  <span class="numbered">
    <span class="together" :class="tone">
      <input
        ref="input"
        v-model="text"
        autocomplete="off"
        :inputmode="byTouch && !words ? 'decimal' : undefined"
        :maxlength="words ? 400 : 40"
        class="box number"
        :class="{ figure: !words, alone: words || !units.length }"
        :placeholder="placeholder"
        :aria-label="label"
        :aria-invalid="tone === 'bad'"
        :aria-describedby="describedBy"
        @focus="(focused = true) && ($event.target as HTMLInputElement).select()"
        @blur="focused = false"
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
    <span
      v-if="byTouch && focused && !words"
      class="keys"
      role="group"
      :aria-label="`${label}: keys`"
    >
      <button
        v-for="key in keys"
        :key="key"
        type="button"
        class="key"
        @pointerdown.prevent
        @click.prevent="put(key)"
      >
        {{ key }}
      </button>
    </span>
  </span>
</template>

<style scoped>
.numbered {
  display: grid;
  gap: 6px;
}

.together {
  display: flex;
}

.keys {
  display: flex;
  gap: 6px;
}

.key {
  flex: 1;
  min-height: 48px;
  font-size: 20px;
  font-weight: 600;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--soft);
  border-radius: var(--radius);
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
