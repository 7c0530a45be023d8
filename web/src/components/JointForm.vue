<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref } from 'vue'
import { Refusal, type Joint } from '../api/client'
import { useActing } from '../composables/useActing'
import { emptyJoint, jointOf } from '../composables/useJointForm'
import { useChoices } from '../stores/choices'
import JointGrid from './JointGrid.vue'
import UnitInput from './UnitInput.vue'

const emit = defineEmits<{ done: [key: string] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, act } = useActing()
const form = ref(emptyJoint())
const ROLES = [
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
    <label class="wide">Holds <input v-model="form.label" class="box" maxlength="80" /></label>
    <label>
      What it is
      <select v-model="form.role" class="box">
        <option v-for="[key, words] in ROLES" :key="key" :value="key">{{ words }}</option>
      </select>
    </label>
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
    <template v-if="form.role === 'rubber_pivot'">
      <label>
        Bushing
        <select v-model="form.bushing" class="box">
          <option value="">not known</option>
          <option value="bonded_rubber">bonded rubber</option>
          <option value="fluid_filled_rubber">fluid-filled rubber</option>
          <option value="greased_poly">greased polyurethane</option>
          <option value="spherical">spherical</option>
          <option value="rolling_element">rolling bearing</option>
        </select>
      </label>
      <label>
        Arm it turns <input v-model="form.arm" class="box" placeholder="lower" maxlength="30" />
      </label>
    </template>
    <label>
      Pattern
      <select v-model="form.pattern" class="box">
        <option value="circle">circle</option>
        <option value="rectangle">rectangle</option>
        <option value="row">row</option>
        <option value="free">by coordinates</option>
      </select>
    </label>
    <template v-if="form.pattern !== 'free'">
      <label>Places <input v-model="form.count" class="box" maxlength="2" /></label>
      <label>
        {{ form.pattern === 'circle' ? 'Across, mm' : 'Long, mm' }}
        <input v-model="form.width" class="box" maxlength="6" />
      </label>
      <label v-if="form.pattern === 'rectangle'">
        High, mm <input v-model="form.height" class="box" maxlength="6" />
      </label>
    </template>
    <div v-else class="all free">
      <JointGrid v-model="form.rows" />
      <label>
        A row for each place: x; y in mm, then if they differ thread; torque; note
        <textarea
          v-model="form.rows"
          class="box"
          rows="8"
          aria-label="Places"
          placeholder="0; 0; M10 x 1.25; 38 nm; counterbore up"
        />
      </label>
    </div>
    <label>
      Order
      <select v-model="form.order" class="box">
        <option value="cross">crosswise</option>
        <option value="star">in a star</option>
        <option value="spiral">from the middle</option>
        <option value="row">along the row</option>
      </select>
    </label>
    <label>Passes, % <input v-model="form.passes" class="box" placeholder="50, 100" /></label>
    <label>Thread <input v-model="form.thread" class="box" placeholder="12 x 1.5" /></label>
    <label>Length, mm <input v-model="form.length" class="box" maxlength="6" /></label>
    <label>
      Class
      <select v-model="form.grade" class="box">
        <option value="">unknown</option>
        <option v-for="one in choices.property_classes" :key="one">{{ one }}</option>
      </select>
    </label>
    <label
      >Head <input v-model="form.head" class="box" placeholder="Socket 17" maxlength="40"
    /></label>
    <label>Nut <input v-model="form.nut" class="box" maxlength="40" /></label>
    <label
      >Hold <input v-model="form.hold" class="box" placeholder="inner hex 6" maxlength="40"
    /></label>
    <label>
      Tightened by
      <select v-model="form.way" class="box">
        <option value="torque">torque</option>
        <option value="torque_angle">torque, then angle</option>
        <option value="angle">angle from snug</option>
        <option value="stretch">stretch</option>
      </select>
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
      To, for a range <input v-model="form.torqueTo" class="box" maxlength="10" />
    </label>
    <label v-if="form.way === 'stretch'">
      Stretch, mm <input v-model="form.stretch" class="box" maxlength="5" />
    </label>
    <label v-if="form.way === 'torque_angle' || form.way === 'angle'">
      Angle, ° <input v-model="form.angle" class="box" maxlength="5" />
    </label>
    <label>
      Value is for
      <select v-model="form.condition" class="box">
        <option value="">not told</option>
        <option value="dry">a dry thread</option>
        <option value="oiled">an oiled thread</option>
        <option value="anti_seize">anti-seize</option>
        <option value="threadlocker">threadlocker</option>
      </select>
    </label>
    <label>
      Thread is now
      <select v-model="form.threadNow" class="box">
        <option value="">not told</option>
        <option value="dry">dry</option>
        <option value="oiled">oiled</option>
        <option value="anti_seize">with anti-seize</option>
        <option value="threadlocker">with threadlocker</option>
      </select>
    </label>
    <label class="wide">Source <input v-model="form.source" class="box" maxlength="200" /></label>
    <label>
      Trusted as
      <select v-model="form.trust" class="box">
        <option value="">not told</option>
        <option value="maker">maker's data</option>
        <option value="part_maker">part maker's sheet</option>
        <option value="second_hand">second hand</option>
      </select>
    </label>
    <label>
      Locked by
      <select v-model="form.lock" class="box">
        <option value="">nothing</option>
        <option value="cotter">castle nut and cotter pin</option>
        <option value="tab">tab</option>
        <option value="jam_nut">jam nut</option>
      </select>
    </label>
    <label class="wide">
      No wrench fits, because <input v-model="form.reach" class="box" maxlength="120" />
    </label>
    <label class="tick"><input v-model="form.single" type="checkbox" /> Single use</label>
    <label class="tick"><input v-model="form.aluminium" type="checkbox" /> Into aluminium</label>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    <div class="row wide">
      <el-button type="primary" native-type="submit" :disabled="busy">Draw it</el-button>
    </div>
    <p class="all soft">
      The value is yours, with its source: this product never invents a torque. A value that looks
      wrong for its thread is asked about.
    </p>
  </form>
</template>

<style scoped>
.free {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 16px;
}

textarea {
  font-family: var(--figures);
}

.tick {
  display: flex !important;
  gap: 8px;
  align-items: center;
  min-height: 44px;
}
</style>
