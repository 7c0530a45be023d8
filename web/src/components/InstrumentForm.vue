<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { ref } from 'vue'
import { ask, newId, type InstrumentView, type Schemas } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

type Wanted = Schemas['InstrumentCreate']
const props = defineProps<{ start: InstrumentView | null }>()
const emit = defineEmits<{ saved: []; left: [] }>()
const { problem, busy, guarded } = useGuarded()
const KINDS: { key: Wanted['kind']; label: string; unit: string }[] = [
  { key: 'digital_level', label: 'Digital level', unit: 'deg' },
  { key: 'height_gauge', label: 'Height gauge', unit: 'mm' },
  { key: 'caliper', label: 'Caliper', unit: 'mm' },
  { key: 'scales', label: 'Wheel scales', unit: 'kgf' },
  { key: 'torque_wrench', label: 'Torque wrench', unit: 'nm' },
  { key: 'tape', label: 'Tape or rule', unit: 'mm' },
  { key: 'toe_gauge', label: 'Toe gauge or plates', unit: 'min' },
  { key: 'other', label: 'Something else', unit: 'mm' },
]
const UNITS = [
  { key: 'mm', label: 'mm' },
  { key: 'in', label: 'in' },
  { key: 'deg', label: '°' },
  { key: 'min', label: 'min' },
  { key: 'kgf', label: 'kg' },
  { key: 'lbf', label: 'lb' },
  { key: 'n', label: 'N' },
  { key: 'nm', label: 'N·m' },
  { key: 'lb_ft', label: 'lb·ft' },
]
const from = props.start
const form = ref({
  name: from?.name ?? '',
  kind: (from?.kind ?? 'digital_level') as Wanted['kind'],
  unit: from?.unit ?? 'deg',
  resolution: from?.resolution ?? '',
  uncertainty: from?.uncertainty ?? '',
  calibrated: from?.calibrated ?? '',
  due: from?.due ?? '',
  address: from?.address ?? '',
  note: from?.note ?? '',
})

function usualUnit(): void {
  form.value.unit = KINDS.find((one) => one.key === form.value.kind)?.unit ?? form.value.unit
}

async function put(retired: boolean): Promise<void> {
  // A day that was cleared is no day, and not nothing at all.
  const { calibrated, due } = form.value
  const told = { ...form.value, calibrated: calibrated || '', due: due || '' }
  const done = await guarded(async () => {
    if (!from) {
      await ask((api) => api.POST('/api/instruments', { body: { id: newId(), ...told } }))
      return
    }
    const path = { instrument_id: from.id }
    const body = { ...told, seen: from.version, retired }
    await ask((api) => api.PUT('/api/instruments/{instrument_id}', { params: { path }, body }))
  })
  if (done) emit('saved')
}
</script>

<template>
  <form class="card entry-form" @submit.prevent="put(false)">
    <h3>{{ start ? `Change: ${start.name}` : 'Add a gauge' }}</h3>
    <label class="wide">Name <el-input v-model="form.name" maxlength="120" /></label>
    <label>
      Kind
      <el-select v-model="form.kind" :persistent="false" aria-label="Kind" @change="usualUnit">
        <el-option v-for="one in KINDS" :key="one.key" :value="one.key" :label="one.label" />
      </el-select>
    </label>
    <label>
      Shows
      <el-select v-model="form.unit" :persistent="false" aria-label="Shows">
        <el-option v-for="one in UNITS" :key="one.key" :value="one.key" :label="one.label" />
      </el-select>
    </label>
    <label>Resolution <el-input v-model="form.resolution" maxlength="40" /></label>
    <label>
      ± from its certificate
      <el-input v-model="form.uncertainty" maxlength="40" />
    </label>
    <label
      >Calibrated on
      <el-date-picker
        v-model="form.calibrated"
        type="date"
        value-format="YYYY-MM-DD"
        format="YYYY-MM-DD"
    /></label>
    <label
      >Due on
      <el-date-picker v-model="form.due" type="date" value-format="YYYY-MM-DD" format="YYYY-MM-DD"
    /></label>
    <label class="wide">
      Address, where it speaks
      <el-input v-model="form.address" placeholder="ws://… (empty: read by eye)" />
    </label>
    <label class="wide">Note <el-input v-model="form.note" maxlength="400" /></label>
    <div class="row all">
      <el-button type="primary" native-type="submit" :disabled="busy">Save the gauge</el-button>
      <el-button @click="emit('left')">Leave it</el-button>
      <el-button v-if="start" text :disabled="busy" @click="put(true)">Take out of use</el-button>
    </div>
    <RefusalNote :said="problem" class="all" />
  </form>
</template>
