<script setup lang="ts">
import { computed } from 'vue'
import type { FieldView } from '../api/client'
import { useActing } from '../composables/useActing'
import { useJob } from '../stores/job'

const props = defineProps<{ field: FieldView }>()
const store = useJob()
const { problem, busy, act } = useActing()
const chosen = computed(() => store.job?.entries[props.field.key]?.choice ?? '')

function choose(choice: string): void {
  if (choice !== chosen.value) void act({ kind: 'entered', key: props.field.key, choice })
}
</script>

<template>
  <fieldset :disabled="busy">
    <legend>{{ field.label }}</legend>
    <div class="row">
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
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <p v-else class="soft">{{ field.hint }}</p>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 6px;
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

input {
  width: 20px;
  height: 20px;
  accent-color: var(--go);
}
</style>
