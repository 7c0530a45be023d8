<script setup lang="ts">
import { computed, nextTick, ref, useId } from 'vue'
import type { FieldView } from '../api/client'
import { useDesk } from '../composables/useDesk'
import { useField } from '../composables/useField'
import MeasureCard from './MeasureCard.vue'
import FieldReadings from './FieldReadings.vue'
import UnitInput from './UnitInput.vue'

const props = defineProps<{
  field: FieldView
  prefix?: string
  big?: boolean
  compact?: boolean
}>()
const emit = defineEmits<{ saved: [] }>()
const desk = useDesk()
const entry = computed(() => desk.entries.value[props.field.key])
const one = useField(props.field)
const { method, current, texts, units, problem, hint, busy, dirty, kept, adding, gauge } = one
const frame = ref<HTMLElement | null>(null)
const ownRange = ref(false)
const id = useId()
const name = computed(() => `${props.prefix ? `${props.prefix} ` : ''}${props.field.label}`)
const twin = computed(() =>
  props.field.side === 'right' ? props.field.key.replace('.right.', '.left.') : '',
)
const copyable = computed(
  () => twin.value && !entry.value && !dirty.value && desk.entries.value[twin.value],
)
const showRange = computed(() => ownRange.value || !!texts.value.plus_minus)
const hints = computed(() => [props.field.hint, current.value?.hint].filter(Boolean).join(' '))

function label(part: string): string {
  const alone = current.value?.parts.length === 1
  return alone ? name.value : `${name.value}, ${part.toLowerCase()}`
}

function inputs(): HTMLInputElement[] {
  return [...(frame.value?.querySelectorAll<HTMLInputElement>('input') ?? [])]
}

async function enter(event?: KeyboardEvent): Promise<void> {
  const all = inputs()
  const later = event ? all.slice(all.indexOf(event.target as HTMLInputElement) + 1) : []
  const next = later.find((input) => !input.value)
  if (next) {
    next.focus()
    return
  }
  const passedOn = adding.value && !dirty.value
  if (!(await one.save())) return
  await nextTick()
  // Whoever has gone on to another field meanwhile is not pulled away from it.
  if (!frame.value?.contains(document.activeElement)) return
  if (!passedOn && kept.value.length && kept.value.length < props.field.readings) return readAgain()
  emit('saved')
}

async function readAgain(): Promise<void> {
  one.again()
  await nextTick()
  const all = inputs()
  const first = all.find((input) => !input.value) ?? all[0]
  first?.focus()
}

async function leave(event: FocusEvent): Promise<void> {
  const inside = frame.value?.contains(event.relatedTarget as Node | null)
  const parts = current.value?.parts ?? []
  const complete = parts.every((part) => part.optional || texts.value[part.name]?.trim())
  if (!inside && dirty.value && complete) await one.save()
}

defineExpose({ one, enter, readAgain, inputs })
</script>

<template>
  <div
    ref="frame"
    class="field grid one-col gap-4px content-start pt-10px px-0 pb-8px ruled"
    :class="{ big }"
    @focusout="leave"
  >
    <div
      v-if="!big || field.methods.length > 1 || adding || current?.card"
      class="flex gap-10px items-center justify-between min-h-30px"
    >
      <span :id="`${id}-name`" class="font-600">
        {{ big ? '' : field.label }}
        <span v-if="!field.required && field.phase !== 'car' && !big" class="soft">(optional)</span>
        <span v-if="adding" class="turn [font:600_18px_var(--figures)] c-wait"
          >reading {{ kept.length + 1 }}
          <template v-if="kept.length < field.readings">of {{ field.readings }}</template></span
        >
      </span>
      <MeasureCard v-if="current?.card" :card="current.card" :name="name" />
      <select
        v-if="field.methods.length > 1"
        v-model="method"
        class="[max-width:60%] min-h-44px py-2px px-6px c-go [background:transparent] b-0"
        :aria-label="`${name}: how it is measured`"
        @change="one.typing"
      >
        <option v-for="way in field.methods" :key="way.name" :value="way.name">
          {{ way.label }}
        </option>
      </select>
    </div>
    <div class="flex items-end flex-wrap gap-8px">
      <label
        v-for="part in current?.parts"
        :key="part.name"
        class="part grid one-col flex-1 gap-2px min-w-120px"
      >
        <span v-if="(current?.parts.length ?? 0) > 1" class="soft text-15px">{{ part.label }}</span>
        <UnitInput
          v-model:text="texts[part.name]"
          v-model:unit="units[part.name]"
          :label="label(part.label)"
          :units="part.units"
          :words="field.words"
          :tone="problem ? 'bad' : entry && !dirty && !adding ? 'done' : ''"
          :described-by="`${id}-said`"
          @typing="one.typing"
          @enter="enter"
        />
      </label>
      <label v-if="showRange" class="part grid one-col flex-1 gap-2px min-w-120px">
        <span class="soft text-15px">own ±</span>
        <input
          v-model="texts.plus_minus"
          class="box figure w-110px text-22px"
          maxlength="40"
          :aria-label="`${name}: plus or minus`"
          @input="one.typing"
          @keydown.enter.prevent="enter"
        />
      </label>
    </div>
    <p
      :id="`${id}-said`"
      class="flex gap-12px items-center justify-between min-h-30px"
      :role="problem ? 'alert' : undefined"
    >
      <span v-if="problem" class="font-600 c-stop">✕ {{ problem }}</span>
      <span v-else-if="hint && dirty">reads as {{ hint }} · Enter saves</span>
      <span v-else-if="entry" class="c-go">✓ {{ entry.understood }}</span>
      <span v-else class="soft">{{ hints }}</span>
      <button
        v-if="copyable"
        type="button"
        class="flex-none min-h-44px py-0 px-8px c-go [text-decoration:underline] bare-button"
        :disabled="busy"
        @click="one.copyFrom(twin)"
      >
        Same as left
      </button>
      <span v-else-if="entry && !field.words && !adding" class="flex flex-none">
        <button
          v-if="field.phase !== 'car'"
          type="button"
          class="flex-none min-h-44px py-0 px-8px c-go [text-decoration:underline] bare-button"
          :aria-label="`${name}: read again`"
          @click="readAgain"
        >
          read again
        </button>
        <button
          v-if="!showRange"
          type="button"
          class="flex-none min-h-44px py-0 px-8px c-go [text-decoration:underline] bare-button"
          @click="ownRange = true"
        >
          own ±
        </button>
      </span>
    </p>
    <FieldReadings
      v-if="
        entry && (kept.length > 1 || adding || entry.doubt || entry.flags.length || entry.gauge)
      "
      :entry="entry"
      :rows="kept"
      :name="name"
      @drop="one.drop"
    />
    <p v-if="gauge" class="soft">with {{ gauge.name }}</p>
  </div>
</template>

<style scoped>
.big {
  border-top: 0;
}

.big .part {
  min-width: 180px;
}

.big :deep(.number.figure) {
  min-height: 68px;
  font-size: 38px;
}

.big :deep(.unit) {
  font-size: 20px;
}
</style>
