<script setup lang="ts">
import { computed, ref, useId } from 'vue'
import type { FieldView } from '../api/client'
import { useField } from '../composables/useField'
import { useJob } from '../stores/job'
import UnitInput from './UnitInput.vue'

const props = defineProps<{ field: FieldView; prefix?: string }>()
const emit = defineEmits<{ saved: [] }>()
const store = useJob()
const entry = computed(() => store.job?.entries[props.field.key])
const { method, current, texts, units, problem, hint, busy, dirty, typing, save, copyFrom } =
  useField(props.field)
const frame = ref<HTMLElement | null>(null)
const ownRange = ref(false)
const id = useId()
const name = computed(() => `${props.prefix ? `${props.prefix} ` : ''}${props.field.label}`)
const twin = computed(() =>
  props.field.owner === 'right' ? props.field.key.replace('right.', 'left.') : '',
)
const copyable = computed(
  () => twin.value && !entry.value && !dirty.value && store.job?.entries[twin.value],
)
const showRange = computed(() => ownRange.value || !!texts.value.plus_minus)

function label(part: string): string {
  const alone = current.value?.parts.length === 1
  return alone ? name.value : `${name.value}, ${part.toLowerCase()}`
}

async function enter(event: KeyboardEvent): Promise<void> {
  const inputs = [...(frame.value?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const next = inputs[inputs.indexOf(event.target as HTMLInputElement) + 1]
  if (next && !next.value) {
    next.focus()
    return
  }
  // Whoever has gone on to another field meanwhile is not pulled away from it.
  if ((await save()) && frame.value?.contains(document.activeElement)) emit('saved')
}

async function leave(event: FocusEvent): Promise<void> {
  const inside = frame.value?.contains(event.relatedTarget as Node | null)
  const parts = current.value?.parts ?? []
  const complete = parts.every((part) => part.optional || texts.value[part.name]?.trim())
  if (!inside && dirty.value && complete) await save()
}
</script>

<template>
  <div ref="frame" class="field" @focusout="leave">
    <div class="head">
      <span :id="`${id}-name`" class="name">
        {{ field.label }}<span v-if="!field.required" class="soft"> (optional)</span>
      </span>
      <select
        v-if="field.methods.length > 1"
        v-model="method"
        class="method"
        :aria-label="`${name}: how it is measured`"
        @change="typing"
      >
        <option v-for="one in field.methods" :key="one.name" :value="one.name">
          {{ one.label }}
        </option>
      </select>
    </div>
    <div class="parts">
      <label v-for="part in current?.parts" :key="part.name" class="part">
        <span v-if="(current?.parts.length ?? 0) > 1" class="soft small">{{ part.label }}</span>
        <UnitInput
          v-model:text="texts[part.name]"
          v-model:unit="units[part.name]"
          :label="label(part.label)"
          :units="part.units"
          :tone="problem ? 'bad' : entry && !dirty ? 'done' : ''"
          :described-by="`${id}-said`"
          @typing="typing"
          @enter="enter"
        />
      </label>
      <label v-if="showRange" class="part">
        <span class="soft small">own ±</span>
        <input
          v-model="texts.plus_minus"
          class="box figure own"
          maxlength="40"
          :aria-label="`${name}: plus or minus`"
          @input="typing"
          @keydown.enter.prevent="enter"
        />
      </label>
    </div>
    <p :id="`${id}-said`" class="said" :role="problem ? 'alert' : undefined">
      <span v-if="problem" class="stop">✕ {{ problem }}</span>
      <span v-else-if="hint && dirty">reads as {{ hint }} · Enter saves</span>
      <span v-else-if="entry" class="go">✓ {{ entry.understood }}</span>
      <span v-else class="soft">{{ field.hint }}</span>
      <button v-if="copyable" type="button" class="quiet" :disabled="busy" @click="copyFrom(twin)">
        Same as left
      </button>
      <button v-else-if="!showRange && entry" type="button" class="quiet" @click="ownRange = true">
        own ±
      </button>
    </p>
  </div>
</template>

<style scoped src="./measuring-field.css"></style>
