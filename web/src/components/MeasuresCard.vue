<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { ref, watch } from 'vue'
import { ask, type MeasuresView } from '../api/client'
import { useRead } from '../composables/useRead'
import { inUnit, readTyped } from '../composables/useTyped'

const { found, problem, busy, guarded } = useRead(['settings', 'measures'], (api) =>
  api.GET('/api/settings/measures'),
)
const NAMES: Record<string, string> = {
  length: 'Lengths',
  angle: 'Angles',
  force: 'Loads',
  rate: 'Spring rates',
  torque: 'Torques',
  pressure: 'Pressures',
  distance: 'Distances',
}
const LIMITS = [
  { key: 'twist_deg', label: 'Bushing twist, at most °' },
  { key: 'toe_deg', label: 'Toe within ± °' },
  { key: 'camber_deg', label: 'Camber within ± °' },
  { key: 'caster_deg', label: 'Caster within ± °' },
] as const

const typed = ref<Record<string, string>>({})
watch(
  found,
  (now) => {
    if (now) typed.value = Object.fromEntries(LIMITS.map((one) => [one.key, String(now[one.key])]))
  },
  { immediate: true },
)

async function put(part: Partial<MeasuresView>): Promise<void> {
  if (!found.value) return
  const { version, choices, ...now } = found.value
  void choices
  const body = { ...now, ...part, seen: version }
  found.value = await ask((api) => api.PUT('/api/settings/measures', { body }))
}

const change = (part: Partial<MeasuresView>) => guarded(() => put(part))

function limit(key: (typeof LIMITS)[number]['key'], value: string): void {
  void guarded(async () => {
    const { numbers } = await readTyped({ numbers: inUnit('deg', { [key]: value }) })
    if (numbers[key] !== undefined) await put({ [key]: numbers[key] })
  })
}
</script>

<template>
  <section class="card stack" aria-label="Units and limits">
    <h3>Units and limits</h3>
    <p class="soft">
      Units a field begins with; any other can be typed. Limits hold where a car has none of its
      own.
    </p>
    <div v-if="found" class="grid grid-cols-[1fr_1fr] gap-10px">
      <label v-for="(units, quantity) in found.choices" :key="quantity" class="labelled">
        {{ NAMES[quantity] ?? quantity }}
        <el-select
          :persistent="false"
          :disabled="busy"
          :model-value="found.units?.[quantity] ?? Object.keys(units)[0]"
          :aria-label="NAMES[quantity] ?? quantity"
          @change="
            change({
              units: { ...found.units, [quantity]: $event },
            })
          "
        >
          <el-option v-for="(label, key) in units" :key="key" :value="key" :label="label" />
        </el-select>
      </label>
      <label v-for="one in LIMITS" :key="one.key" class="labelled">
        {{ one.label }}
        <el-input
          v-model="typed[one.key]"
          class="figure"
          :disabled="busy"
          @change="limit(one.key, $event)"
        />
      </label>
    </div>
    <RefusalNote :said="problem" />
  </section>
</template>
