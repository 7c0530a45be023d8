<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref } from 'vue'
import { newId, type FastenerView, type Schemas } from '../api/client'
import { useActing } from '../composables/useActing'
import { useChoices } from '../stores/choices'
import UnitInput from './UnitInput.vue'

type Fastener = Schemas['Fastener']
const props = defineProps<{ start: FastenerView | null }>()
const emit = defineEmits<{ done: [] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const from = props.start
const form = ref({
  group: from?.group ?? '',
  place: String(from?.place ?? 1),
  axle: from?.axle ?? '',
  side: from?.side ?? '',
  thread: from?.diameter_mm ? `${from.diameter_mm} x ${from.pitch_mm}` : '',
  length: from?.length_mm ? String(from.length_mm) : '',
  grade: from?.property_class ?? '',
  drive: from?.drive ?? '',
  torque: from?.torque?.text ?? '',
  unit: from?.torque?.unit ?? 'nm',
  condition: from?.condition ?? '',
  single: from?.single_use ?? false,
  source: from?.source ?? '',
})
const number = (text: string | undefined) => Number((text ?? '').replace(',', '.')) || 0

async function save(): Promise<void> {
  const thread = form.value.thread.match(/^\s*M?\s*([\d.,]+)\s*[x×*]\s*([\d.,]+)\s*$/i)
  if (form.value.thread.trim() && !thread) {
    problem.value = 'Thread: write diameter x pitch in mm, for example 12 x 1.5.'
    return
  }
  const one = form.value
  const fastener: Fastener = {
    key: from?.key ?? newId(),
    group: one.group,
    place: Math.trunc(number(one.place)),
    axle: one.axle as Fastener['axle'],
    side: one.side as Fastener['side'],
    diameter_mm: number(thread?.[1]),
    pitch_mm: number(thread?.[2]),
    length_mm: number(one.length),
    property_class: one.grade as Fastener['property_class'],
    drive: one.drive,
    torque: one.torque.trim() ? { text: one.torque, unit: one.unit } : null,
    condition: one.condition as Fastener['condition'],
    single_use: one.single,
    source: one.source,
  }
  if (await act({ kind: 'listed', fasteners: [fastener], source: 'typed' })) {
    if (!from) Object.assign(form.value, { place: String(number(one.place) + 1) })
    emit('done')
  }
}
</script>

<template>
  <form class="card entry-form" @submit.prevent="save">
    <h3>{{ start ? `Change: ${start.group}` : 'Add a fastener' }}</h3>
    <label class="wide">Holds <input v-model="form.group" class="box" maxlength="80" /></label>
    <label>Place <input v-model="form.place" class="box" maxlength="2" /></label>
    <label>
      Axle
      <select v-model="form.axle" class="box">
        <option value="">either</option>
        <option value="front">front</option>
        <option value="rear">rear</option>
      </select>
    </label>
    <label>
      Side
      <select v-model="form.side" class="box">
        <option value="">both</option>
        <option value="left">left</option>
        <option value="right">right</option>
      </select>
    </label>
    <label>Thread <input v-model="form.thread" class="box" placeholder="12 x 1.5" /></label>
    <label>Length, mm <input v-model="form.length" class="box" maxlength="6" /></label>
    <label>
      Class
      <select v-model="form.grade" class="box">
        <option value="">unknown</option>
        <option v-for="one in choices.property_classes" :key="one">{{ one }}</option>
      </select>
    </label>
    <label>Drive and size <input v-model="form.drive" class="box" maxlength="60" /></label>
    <label>
      Torque
      <UnitInput
        v-model:text="form.torque"
        v-model:unit="form.unit"
        label="Torque"
        :units="choices.torque_units"
        @enter="save"
      />
    </label>
    <label>
      Thread is
      <select v-model="form.condition" class="box">
        <option value="">not told</option>
        <option value="dry">dry</option>
        <option value="oiled">oiled</option>
        <option value="anti_seize">anti-seize</option>
        <option value="threadlocker">threadlocker</option>
      </select>
    </label>
    <label class="wide">Source <input v-model="form.source" class="box" maxlength="200" /></label>
    <label class="tick"><input v-model="form.single" type="checkbox" /> Single use</label>
    <div class="row wide">
      <el-button type="primary" native-type="submit" :disabled="busy">
        {{ start ? 'Save the change' : 'Put on the list' }}
      </el-button>
      <el-button v-if="start" @click="emit('done')">Leave it</el-button>
    </div>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.tick {
  display: flex !important;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}

.tick input {
  width: 22px;
  height: 22px;
  accent-color: var(--go);
}
</style>
