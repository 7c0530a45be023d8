<script setup lang="ts">
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
  <fieldset :disabled="busy" :aria-label="name">
    <legend>{{ title ?? field.label }}</legend>
    <div v-if="compact" class="row">
      <select
        class="box"
        :aria-label="name"
        :value="chosen"
        @change="choose(($event.target as HTMLSelectElement).value)"
      >
        <option value="" disabled>not told</option>
        <option v-for="one in field.choices" :key="one.value" :value="one.value">
          {{ one.label }}
        </option>
      </select>
      <button v-if="twin && !chosen" type="button" class="quiet" @click="choose(twin)">
        Same as left
      </button>
    </div>
    <div v-else class="row">
      <label v-for="one in field.choices" :key="one.value" :class="{ on: one.value === chosen }">
        <input
          type="radio"
          :name="field.key"
          :value="one.value"
          :checked="one.value === chosen"
          @change="choose(one.value)"
        />
        {{ one.label }}
      </label>
      <button v-if="twin && !chosen" type="button" class="quiet" @click="choose(twin)">
        Same as left
      </button>
    </div>
    <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
    <p v-else-if="field.hint" class="soft">{{ field.hint }}</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 6px;
  align-content: start;
  padding: 10px 0;
  margin: 0;
  border: 0;
  border-top: 1px solid var(--line);
}

legend {
  float: left;
  font-weight: 600;
}

.row {
  clear: both;
  gap: 8px;
}

label {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  padding: 4px 14px;
  cursor: pointer;
  border: 1px solid var(--soft);
  border-radius: var(--radius);
}

label.on {
  font-weight: 600;
  color: var(--go);
  background: var(--go-wash);
  border: 2px solid var(--go);
}

select {
  flex: 1;
  min-width: 0;
}

input {
  width: 20px;
  height: 20px;
  accent-color: var(--go);
}

.quiet {
  min-height: 44px;
  padding: 0 8px;
  color: var(--go);
  text-decoration: underline;
  cursor: pointer;
  background: none;
  border: 0;
}
</style>
