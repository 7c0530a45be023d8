<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import type { FieldView } from '../api/client'
import { useActing } from '../composables/useActing'
import { useDesk } from '../composables/useDesk'

const props = defineProps<{
  field: FieldView
  prefix?: string
  title?: string
  compact?: boolean
}>()
const emit = defineEmits<{ saved: [] }>()
const desk = useDesk()
const { problem, busy, act } = useActing()
const chosen = computed(() => desk.entries.value[props.field.key]?.choice ?? '')
const name = computed(() => `${props.prefix ? `${props.prefix} ` : ''}${props.field.label}`)
const twin = computed(() =>
  props.field.side === 'right'
    ? desk.entries.value[props.field.key.replace('.right.', '.left.')]?.choice
    : undefined,
)

async function choose(choice: string): Promise<void> {
  if (choice === chosen.value) return emit('saved')
  if (await act({ kind: 'entered', key: props.field.key, choice })) emit('saved')
}
</script>

<template>
  <fieldset
    :disabled="busy"
    :aria-label="name"
    class="grid gap-6px content-start py-10px px-0 m-0 b-x-0 b-b-0 ruled"
  >
    <legend class="[float:left] font-600">{{ title ?? field.label }}</legend>
    <div v-if="compact" class="row [clear:both] gap-8px">
      <select
        class="box flex-1 min-w-0"
        :aria-label="name"
        :value="chosen"
        @change="choose(($event.target as HTMLSelectElement).value)"
      >
        <option value="" disabled>not told</option>
        <option v-for="one in field.choices" :key="one.value" :value="one.value">
          {{ one.label }}
        </option>
      </select>
      <button
        v-if="twin && !chosen"
        type="button"
        class="min-h-44px py-0 px-8px c-go [text-decoration:underline] bare-button"
        @click="choose(twin)"
      >
        Same as left
      </button>
    </div>
    <div v-else class="row [clear:both] gap-8px">
      <label
        v-for="one in field.choices"
        :key="one.value"
        :class="{ on: one.value === chosen }"
        class="flex gap-8px items-center min-h-44px py-4px px-14px cursor-pointer edged-soft"
      >
        <input
          type="radio"
          :name="field.key"
          :value="one.value"
          :checked="one.value === chosen"
          class="w-20px h-20px [accent-color:var(--go)]"
          @change="choose(one.value)"
        />
        {{ one.label }}
      </label>
      <button
        v-if="twin && !chosen"
        type="button"
        class="min-h-44px py-0 px-8px c-go [text-decoration:underline] bare-button"
        @click="choose(twin)"
      >
        Same as left
      </button>
    </div>
    <RefusalNote v-if="problem" :said="problem" />
    <p v-else-if="field.hint" class="soft">{{ field.hint }}</p>
  </fieldset>
</template>

<style scoped>
label.on {
  font-weight: 600;
  color: var(--go);
  background: var(--go-wash);
  border: 2px solid var(--go);
}
</style>
