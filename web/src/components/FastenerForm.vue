<script setup lang="ts">
import PickList from './PickList.vue'
import RefusalNote from './RefusalNote.vue'
import SaidBefore from './SaidBefore.vue'
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import { newId, type FastenerView, type Schemas } from '../api/client'
import { useActing } from '../composables/useActing'
import { useCar } from '../stores/car'
import { useChoices } from '../stores/choices'
import UnitInput from './UnitInput.vue'
import { sayRefusal } from '../composables/useGuarded'
import { inUnit, readTyped, type TypedFormView } from '../composables/useTyped'

type Fastener = Schemas['Fastener']
const props = defineProps<{ start: FastenerView | null }>()
const emit = defineEmits<{ done: [] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const listed = computed(() => useCar().car?.fasteners ?? [])
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
    <label class="wide">
      Holds
      <SaidBefore v-model="form.group" maxlength="80" :before="listed.map((one) => one.group)" />
    </label>
    <label>Place <el-input v-model="form.place" maxlength="2" /></label>
    <PickList
      v-model="form.axle"
      label="Axle"
      :of="{ '': 'either', front: 'front', rear: 'rear' }"
    />
    <PickList v-model="form.side" label="Side" :of="{ '': 'both', left: 'left', right: 'right' }" />
    <label>Thread <el-input v-model="form.thread" placeholder="12 x 1.5" /></label>
    <label>Length, mm <el-input v-model="form.length" maxlength="6" /></label>
    <label>
      Class
      <el-select
        v-model="form.grade"
        :persistent="false"
        aria-label="Class"
        :empty-values="[null, undefined]"
      >
        <el-option value="" label="unknown" />
        <el-option v-for="one in choices.property_classes" :key="one" :value="one" :label="one" />
      </el-select>
    </label>
    <label>
      Drive and size
      <SaidBefore v-model="form.drive" maxlength="60" :before="listed.map((one) => one.drive)" />
    </label>
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
    <PickList
      v-model="form.condition"
      label="Thread is"
      :of="{
        '': 'not told',
        dry: 'dry',
        oiled: 'oiled',
        anti_seize: 'anti-seize',
        threadlocker: 'threadlocker',
      }"
    />
    <label class="wide">
      Source
      <SaidBefore v-model="form.source" maxlength="200" :before="listed.map((one) => one.source)" />
    </label>
    <el-checkbox v-model="form.single">Single use</el-checkbox>
    <div class="row wide">
      <el-button type="primary" native-type="submit" :disabled="busy">
        {{ start ? 'Save the change' : 'Put on the list' }}
      </el-button>
      <el-button v-if="start" @click="emit('done')">Leave it</el-button>
    </div>
    <RefusalNote :said="problem" />
  </form>
</template>
