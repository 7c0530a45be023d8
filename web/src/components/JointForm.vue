<script setup lang="ts">
import PickList from './PickList.vue'
import RefusalNote from './RefusalNote.vue'
import SaidBefore from './SaidBefore.vue'
import { storeToRefs } from 'pinia'
import { ref } from 'vue'
import { Refusal, type Joint } from '../api/client'
import { useActing } from '../composables/useActing'
import { emptyJoint, jointOf } from '../composables/useJointForm'
import { useChoices } from '../stores/choices'
import JointGrid from './JointGrid.vue'
import UnitInput from './UnitInput.vue'

defineProps<{ sources: string[] }>()
const emit = defineEmits<{ done: [key: string] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const form = ref(emptyJoint())
const ROLES: [string, string][] = [
  ['clamp', 'Clamps'],
  ['bracket', 'Bracket'],
  ['rubber_pivot', 'Pivot in rubber'],
  ['taper', 'Taper'],
  ['wheel', 'Wheel'],
  ['axle', 'Axle nut'],
  ['link', 'Bar link'],
  ['jam', 'Jam nut'],
]
async function save(): Promise<void> {
  let joint: Joint
  try {
    joint = await jointOf(form.value)
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    problem.value = error.message
    return
  }
  if (await act({ kind: 'drawn', joint })) emit('done', joint.key)
}
</script>

<template>
  <form class="card entry-form" aria-label="New joint" @submit.prevent="save">
    <h3>Draw a joint</h3>
    <label class="wide">Holds <el-input v-model="form.label" maxlength="80" /></label>
    <label>
      What it is
      <el-select v-model="form.role" :persistent="false" aria-label="What it is">
        <el-option v-for="[key, words] in ROLES" :key="key" :value="key" :label="words" />
      </el-select>
    </label>
    <PickList
      v-model="form.axle"
      label="Axle"
      :of="{ '': 'either', front: 'front', rear: 'rear' }"
    />
    <PickList v-model="form.side" label="Side" :of="{ '': 'both', left: 'left', right: 'right' }" />
    <template v-if="form.role === 'rubber_pivot'">
      <PickList
        v-model="form.bushing"
        label="Bushing"
        :of="{
          '': 'not known',
          bonded_rubber: 'bonded rubber',
          fluid_filled_rubber: 'fluid-filled rubber',
          greased_poly: 'greased polyurethane',
          spherical: 'spherical',
          rolling_element: 'rolling bearing',
        }"
      />
      <label>
        Arm it turns <el-input v-model="form.arm" placeholder="lower" maxlength="30" />
      </label>
    </template>
    <label>
      Pattern
      <el-select v-model="form.pattern" :persistent="false" aria-label="Pattern">
        <el-option value="circle" label="circle" />
        <el-option value="rectangle" label="rectangle" />
        <el-option value="row" label="row" />
        <el-option value="free" label="by coordinates" />
      </el-select>
    </label>
    <template v-if="form.pattern !== 'free'">
      <label>Places <el-input v-model="form.count" maxlength="2" /></label>
      <label>
        {{ form.pattern === 'circle' ? 'Across, mm' : 'Long, mm' }}
        <el-input v-model="form.width" maxlength="6" />
      </label>
      <label v-if="form.pattern === 'rectangle'">
        High, mm <el-input v-model="form.height" maxlength="6" />
      </label>
    </template>
    <div v-else class="all grid two-cols gap-16px">
      <JointGrid v-model="form.rows" />
      <label>
        A row for each place: x; y in mm, then if they differ thread; torque; note
        <el-input
          v-model="form.rows"
          :rows="8"
          aria-label="Places"
          placeholder="0; 0; M10 x 1.25; 38 nm; counterbore up"
          type="textarea"
        />
      </label>
    </div>
    <label>
      Order
      <el-select v-model="form.order" :persistent="false" aria-label="Order">
        <el-option value="cross" label="crosswise" />
        <el-option value="star" label="in a star" />
        <el-option value="spiral" label="from the middle" />
        <el-option value="row" label="along the row" />
      </el-select>
    </label>
    <label>Passes, % <el-input v-model="form.passes" placeholder="50, 100" /></label>
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
    <label>Head <el-input v-model="form.head" placeholder="Socket 17" maxlength="40" /></label>
    <label>Nut <el-input v-model="form.nut" maxlength="40" /></label>
    <label>Hold <el-input v-model="form.hold" placeholder="inner hex 6" maxlength="40" /></label>
    <label>
      Tightened by
      <el-select v-model="form.way" :persistent="false" aria-label="Tightened by">
        <el-option value="torque" label="torque" />
        <el-option value="torque_angle" label="torque, then angle" />
        <el-option value="angle" label="angle from snug" />
        <el-option value="stretch" label="stretch" />
      </el-select>
    </label>
    <label v-if="form.way === 'torque' || form.way === 'torque_angle'">
      Torque
      <UnitInput
        v-model:text="form.torque"
        v-model:unit="form.unit"
        label="Torque"
        :units="choices.torque_units"
        @enter="save"
      />
    </label>
    <label v-if="form.way === 'torque'">
      To, for a range <el-input v-model="form.torqueTo" maxlength="10" />
    </label>
    <label v-if="form.way === 'stretch'">
      Stretch, mm <el-input v-model="form.stretch" maxlength="5" />
    </label>
    <label v-if="form.way === 'torque_angle' || form.way === 'angle'">
      Angle, ° <el-input v-model="form.angle" maxlength="5" />
    </label>
    <PickList
      v-model="form.condition"
      label="Value is for"
      :of="{
        '': 'not told',
        dry: 'a dry thread',
        oiled: 'an oiled thread',
        anti_seize: 'anti-seize',
        threadlocker: 'threadlocker',
      }"
    />
    <PickList
      v-model="form.threadNow"
      label="Thread is now"
      :of="{
        '': 'not told',
        dry: 'dry',
        oiled: 'oiled',
        anti_seize: 'with anti-seize',
        threadlocker: 'with threadlocker',
      }"
    />
    <label class="wide">
      Source
      <SaidBefore v-model="form.source" maxlength="200" :before="sources" />
    </label>
    <PickList
      v-model="form.trust"
      label="Trusted as"
      :of="{
        '': 'not told',
        maker: 'maker\'s data',
        part_maker: 'part maker\'s sheet',
        second_hand: 'second hand',
      }"
    />
    <PickList
      v-model="form.lock"
      label="Locked by"
      :of="{ '': 'nothing', cotter: 'castle nut and cotter pin', tab: 'tab', jam_nut: 'jam nut' }"
    />
    <label class="wide">
      No wrench fits, because <el-input v-model="form.reach" maxlength="120" />
    </label>
    <el-checkbox v-model="form.single">Single use</el-checkbox>
    <el-checkbox v-model="form.aluminium">Into aluminium</el-checkbox>
    <RefusalNote :said="problem" />
    <div class="row wide">
      <el-button type="primary" native-type="submit" :disabled="busy">Draw it</el-button>
    </div>
    <p class="all soft">
      The value is yours, with its source: this product never invents a torque. A value that looks
      wrong for its thread is asked about.
    </p>
  </form>
</template>
