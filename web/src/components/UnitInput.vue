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
  <span class="grid gap-6px">
    <span class="flex" :class="tone">
      <input
        ref="input"
        v-model="text"
        autocomplete="off"
        :inputmode="byTouch && !words ? 'decimal' : undefined"
        :maxlength="words ? 400 : 40"
        class="box number flex-1 w-0 min-w-56px [border-radius:var(--radius)_0_0_var(--radius)]"
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
        class="unit max-w-160px min-h-44px py-0 px-6px bg-paper b-1px b-solid b-soft b-l-0 [border-radius:0_var(--radius)_var(--radius)_0]"
        :aria-label="unitLabel ?? `${label}: unit`"
        @change="emit('typing')"
      >
        <option v-for="one in units" :key="one.key" :value="one.key">{{ one.label }}</option>
      </select>
    </span>
    <span
      v-if="byTouch && focused && !words"
      class="flex gap-6px"
      role="group"
      :aria-label="`${label}: keys`"
    >
      <button
        v-for="key in keys"
        :key="key"
        type="button"
        class="flex-1 min-h-48px text-20px font-600 c-ink bg-paper edged-soft"
        @pointerdown.prevent
        @click.prevent="put(key)"
      >
        {{ key }}
      </button>
    </span>
  </span>
</template>

<style scoped>
.number.figure {
  font-size: 24px;
}

.number.alone {
  border-radius: var(--radius);
}

.bad .number {
  border: 2px solid var(--stop);
}

.done .number {
  border-color: var(--go);
}
</style>
