<script setup lang="ts">
import { onMounted, shallowRef } from 'vue'
import { ask, type MeasuresView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { inUnit, readTyped } from '../composables/useTyped'

const { problem, busy, guarded } = useGuarded()
const found = shallowRef<MeasuresView | null>(null)
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

const load = () =>
  guarded(async () => {
    found.value = await ask((api) => api.GET('/api/settings/measures'))
  })

async function put(part: Partial<MeasuresView>): Promise<void> {
  if (!found.value) return
  const { version, choices, ...now } = found.value
  void choices
  const body = { ...now, ...part, seen: version }
  found.value = await ask((api) => api.PUT('/api/settings/measures', { body }))
}

const change = (part: Partial<MeasuresView>) => guarded(() => put(part))

function limit(key: (typeof LIMITS)[number]['key'], event: Event): void {
  const { value } = event.target as HTMLInputElement
  void guarded(async () => {
    const { numbers } = await readTyped({ numbers: inUnit('deg', { [key]: value }) })
    if (numbers[key] !== undefined) await put({ [key]: numbers[key] })
  })
}

onMounted(load)
</script>

<template>
  <section class="card stack" aria-label="Units and limits">
    <h3>Units and limits</h3>
    <p class="soft">
      Units a field begins with; any other can be typed. Limits hold where a car has none of its
      own.
    </p>
    <div v-if="found" class="both">
      <label v-for="(units, quantity) in found.choices" :key="quantity" class="labelled">
        {{ NAMES[quantity] ?? quantity }}
        <select
          class="box"
          :disabled="busy"
          :value="found.units?.[quantity] ?? Object.keys(units)[0]"
          @change="
            change({
              units: { ...found.units, [quantity]: ($event.target as HTMLSelectElement).value },
            })
          "
        >
          <option v-for="(label, key) in units" :key="key" :value="key">{{ label }}</option>
        </select>
      </label>
      <label v-for="one in LIMITS" :key="one.key" class="labelled">
        {{ one.label }}
        <input
          class="box figure"
          :value="found[one.key]"
          :disabled="busy"
          @change="limit(one.key, $event)"
        />
      </label>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
</style>
