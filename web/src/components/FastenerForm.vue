<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref } from 'vue'
import { newId, type FastenerView, type Schemas } from '../api/client'
import { useActing } from '../composables/useActing'
import { useChoices } from '../stores/choices'
import UnitInput from './UnitInput.vue'
import { sayRefusal } from '../composables/useGuarded'
import { inUnit, readTyped, type TypedFormView } from '../composables/useTyped'

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
async function save(): Promise<void> {
  const one = form.value
  let read: TypedFormView
  try {
    read = await readTyped({
      threads: { thread: one.thread },
      numbers: {
        ...inUnit('mm', { length: one.length }),
        ...inUnit('piece', { place: one.place }),
      },
    })
  } catch (error) {
    problem.value = sayRefusal(error)
    return
  }
  const fastener: Fastener = {
    key: from?.key ?? newId(),
    group: one.group,
    place: read.numbers.place ?? 1,
    axle: one.axle as Fastener['axle'],
    side: one.side as Fastener['side'],
    ...read.threads.thread!,
    length_mm: read.numbers.length ?? 0,
    property_class: one.grade as Fastener['property_class'],
    drive: one.drive,
    torque: one.torque.trim() ? { text: one.torque, unit: one.unit } : null,
    condition: one.condition as Fastener['condition'],
    single_use: one.single,
    source: one.source,
  }
  if (await act({ kind: 'listed', fasteners: [fastener], source: 'typed' })) {
    if (!from) form.value.place = String(fastener.place! + 1)
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
