<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { GroupView, UnitView } from '../api/client'
import { useActing } from '../composables/useActing'
import UnitInput from './UnitInput.vue'
import { sayRefusal } from '../composables/useGuarded'
import { readTyped } from '../composables/useTyped'

const props = defineProps<{
  group: GroupView
  units: UnitView[]
  classes: string[]
  startOpen?: boolean
}>()
const { problem, busy, act } = useActing()
const open = ref(props.startOpen ?? false)
const form = ref({ text: '', unit: 'nm', thread: '', grade: '', source: '' })
const spec = computed(() => props.group.spec)

function fill(): void {
  const saved = spec.value
  form.value = {
    text: saved?.torque.text ?? '',
    unit: saved?.torque.unit ?? 'nm',
    thread: saved ? `${saved.diameter_mm} x ${saved.pitch_mm}` : '',
    grade: saved?.property_class ?? '',
    source: saved?.source ?? '',
  }
}
watch(() => spec.value?.event, fill, { immediate: true })

async function save(unit = form.value.unit, affirmed = false): Promise<void> {
  let thread = { diameter_mm: 0, pitch_mm: 0 }
  try {
    thread = (await readTyped({ threads: { thread: form.value.thread } })).threads.thread!
  } catch (error) {
    problem.value = sayRefusal(error)
    return
  }
  const taken = await act({
    kind: 'specified',
    group: props.group.key,
    torque: { text: form.value.text, unit },
    source: form.value.source,
    ...thread,
    property_class: form.value.grade as '' | '8.8' | '10.9' | '12.9',
    affirmed,
  })
  if (taken) open.value = false
}

const labelOf = (unit: string) => props.units.find((one) => one.key === unit)?.label ?? unit
</script>

<template>
  <div class="spec">
    <div class="summary">
      <div>
        <b>{{ group.label }}</b>
        <span v-if="group.needs_load.left || group.needs_load.right" class="load"
          >▮ only at load</span
        >
        <p class="soft">{{ group.places.length / 2 }} per side · {{ group.tools }}</p>
      </div>
      <div class="value">
        <template v-if="spec">
          <span class="figure big">{{ spec.said }}</span>
          <span class="soft">
            M{{ spec.diameter_mm }} × {{ spec.pitch_mm }} {{ spec.property_class }} ·
            {{ spec.source }}
          </span>
        </template>
        <span v-else class="none">No specification yet</span>
      </div>
      <el-button v-if="!open" @click="open = true">{{ spec ? 'Change' : 'Enter' }}</el-button>
    </div>
    <form v-if="open" class="form" @submit.prevent="save()">
      <label>
        Torque
        <UnitInput
          v-model:text="form.text"
          v-model:unit="form.unit"
          class="torque"
          :label="`${group.label}: torque`"
          :unit-label="`${group.label}: torque unit`"
          :units="units"
          @enter="save()"
        />
      </label>
      <label>
        Thread, Ø × pitch in mm
        <input
          v-model="form.thread"
          class="box figure"
          maxlength="20"
          placeholder="12 x 1.25"
          :aria-label="`${group.label}: thread`"
        />
      </label>
      <label>
        Property class
        <select v-model="form.grade" class="box" :aria-label="`${group.label}: property class`">
          <option value="">unknown</option>
          <option v-for="one in classes" :key="one" :value="one">{{ one }}</option>
        </select>
      </label>
      <label class="wide">
        Source of the value
        <input
          v-model="form.source"
          class="box"
          maxlength="200"
          placeholder="Service data, sheet, page"
          :aria-label="`${group.label}: source`"
        />
      </label>
      <el-button type="primary" native-type="submit" :disabled="busy">Save</el-button>
      <el-button @click="open = false">Close</el-button>
    </form>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <div v-if="spec?.doubt" class="notice wait" role="alert">
      <div class="doubt">
        <span>? {{ spec.doubt }}</span>
        <span class="row">
          <el-button v-if="spec.likelier_unit" :disabled="busy" @click="save(spec.likelier_unit)">
            It is {{ spec.torque.text }} {{ labelOf(spec.likelier_unit) }}
          </el-button>
          <el-button :disabled="busy" @click="save(spec.torque.unit, true)">
            Right as typed: {{ spec.said }}
          </el-button>
        </span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.spec {
  display: grid;
  gap: 8px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}

.summary {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr) auto;
  gap: 4px 16px;
  align-items: center;
}

.value {
  display: grid;
}

.big {
  font-size: 22px;
}

.load {
  margin-left: 10px;
  font-weight: 600;
  color: var(--wait);
}

.none {
  font-weight: 600;
  color: var(--wait);
}

.form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
}

.form label {
  display: grid;
  gap: 2px;
}

.torque {
  width: 220px;
}

.wide {
  flex: 1;
  min-width: 200px;
}

.doubt {
  display: grid;
  gap: 8px;
}

@media (width <= 760px) {
  .summary {
    grid-template-columns: minmax(0, 1fr) auto;
  }

  .value {
    grid-row: 2;
    grid-column: 1 / -1;
  }
}
</style>
