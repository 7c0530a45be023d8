<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { BoltView, JointView, WorkStage } from '../api/client'
import { useActing } from '../composables/useActing'
import { adapterOf, type WrenchAdapter } from '../composables/useJoints'
import type { Shown } from '../composables/useLine'
import { useChoices } from '../stores/choices'
import { useGauges } from '../stores/gauges'
import { useJob } from '../stores/job'
import GaugeLine from './GaugeLine.vue'
import JointExtras from './JointExtras.vue'
import JointGate from './JointGate.vue'
import KeepReading from './KeepReading.vue'
import UnitInput from './UnitInput.vue'
import { sayRefusal } from '../composables/useGuarded'
import { inUnit, readTyped } from '../composables/useTyped'

/**
 * `unloaded`: nothing is torqued here, so the height is no matter yet; `behind`: the joint as shown is older than
 * the log, and a second tap must not repeat what was done.
 */
const props = defineProps<{
  joint: JointView
  behind: boolean
  picked: number[]
  unloaded?: boolean
}>()
const emit = defineEmits<{ done: [] }>()
const adapter = defineModel<WrenchAdapter>('adapter', { required: true })
const { choices } = storeToRefs(useChoices())
const gauges = useGauges()
const { problem, busy: writing, act } = useActing()
const busy = computed(() => writing.value || props.behind)
const reading = ref('')
const unit = ref(choices.value.torque_units[0]?.key ?? 'nm')
const angle = ref('')
const gaugeName = ref<string | null>(null)
const next = computed(() => props.joint.next)
const chosen = computed(() =>
  props.picked.length ? props.picked : next.value.number === null ? [] : [next.value.number],
)
const bolts = computed(() => props.joint.bolts.filter((one) => chosen.value.includes(one.number)))
const store = useJob()
/** The final pass on rubber, while it is not known to be loaded. */
const shut = computed(
  () => props.joint.waits_for_load && (store.gateWaits || !props.joint.gate_open),
)
const first = computed<BoltView | undefined>(() => bolts.value[0])
const to = computed<WorkStage | ''>(() => {
  const one = first.value
  if (!one) return ''
  return (one.number === next.value.number ? next.value.to : one.then) as WorkStage
})
const { stage: stageOf } = useChoices()
/** Places that go to the next stage together. */
const alike = computed(() => (props.picked.length ? props.picked : next.value.alike))
const specified = computed(() => (to.value === 'torqued' ? next.value.specified : null))
const off = ref(false)
const wrenches = computed(() => gauges.paired.filter((one) => one.kind === 'torque_wrench'))
const set = computed(() => next.value.set_nm)
const tellWrench = () =>
  gauges.aim(`joint ${props.joint.key}:${next.value.number ?? ''}`, set.value ?? undefined)
watch([() => props.joint.key, next, wrenches], tellWrench, { immediate: true })
watch(
  () => first.value?.number,
  () => {
    angle.value = first.value?.angle_deg ? String(first.value.angle_deg) : ''
    reading.value = ''
  },
  { immediate: true },
)

function take(shown: Shown, name: string): void {
  if (shown.value === null) return
  reading.value = String(shown.value)
  unit.value = shown.unit
  gaugeName.value = name
}

function byFeel(reason: string, all: boolean): void {
  void work('torqued', { by_feel: reason, reading: null, places: (all ? alike : chosen).value })
}

/** All that are alike in one go, each as its value says. */
function asSpecified(): void {
  if (!specified.value) return
  void work('torqued', { places: alike.value, reading: specified.value })
}

async function work(stage: WorkStage, more: object = {}): Promise<void> {
  const isTorque = stage === 'torqued'
  const turns = stage === 'angled' || stage === 'locked'
  let on: Awaited<ReturnType<typeof adapterOf>> = null
  let degrees = 0
  try {
    on = isTorque ? await adapterOf(adapter.value) : null
    const typed = turns ? await readTyped({ numbers: inUnit('deg', { angle: angle.value }) }) : null
    degrees = typed?.numbers.angle ?? 0
  } catch (error) {
    problem.value = sayRefusal(error)
    return
  }
  const read = reading.value.trim() ? { text: reading.value, unit: unit.value } : null
  const taken = await act({
    kind: 'worked',
    joint: props.joint.key,
    places: chosen.value,
    to: stage,
    reading: isTorque || stage === 'rechecked' ? read : null,
    percent: isTorque ? next.value.percent : 100,
    angle_deg: degrees,
    adapter: on,
    gauge: isTorque && gaugeName.value ? { name: gaugeName.value } : null,
    ...more,
  })
  off.value = !taken && problem.value.includes('keep it with the reason')
  if (!taken) return
  reading.value = ''
  gaugeName.value = null
  emit('done')
}
</script>

<template>
  <section class="card stack" aria-label="Work on it">
    <h3>{{ picked.length ? `Place ${picked.join(', ')}` : next.said }}</h3>
    <p v-for="one in bolts.slice(0, 1)" :key="one.number" class="[line-height:1.6]">
      <b class="figure">{{ one.thread }}</b> {{ one.drive }}
      <span v-if="one.hold" class="font-600 c-wait">▲ hold {{ one.hold }}</span>
      <span v-if="one.note">· {{ one.note }}</span>
      <br />
      <b>{{ one.spec }}</b>
      <span v-if="one.source" class="soft">
        · {{ one.source }}{{ one.trust ? `, ${one.trust}` : '' }}</span
      >
      <span v-if="one.single_use" class="font-600 c-wait"> · single use: a new one goes in</span>
      <span v-if="one.strain" class="soft"> · {{ one.strain }}</span>
      <span v-if="one.lock" class="soft"> · then locked by {{ one.lock }}</span>
    </p>
    <JointGate v-if="joint.waits_for_load && !unloaded" :joint="joint" />
    <template v-if="to === 'torqued'">
      <p v-if="next.set_said && !picked.length" class="figure text-26px c-go">
        {{ next.set_said }}
      </p>
      <GaugeLine
        v-for="one in wrenches"
        :key="one.id"
        :instrument="one"
        :line="gauges.lines[one.id]!"
        takes="it"
        @take="take($event, one.name)"
      />
      <label class="labelled">
        Torque reading
        <UnitInput
          v-model:text="reading"
          v-model:unit="unit"
          label="Torque reading"
          :units="choices.torque_units"
          @enter="work('torqued')"
        />
      </label>
    </template>
    <label v-if="to === 'angled' || to === 'locked'" class="labelled">
      {{ to === 'angled' ? 'Turned on, degrees' : 'Forward to the slot, degrees' }}
      <el-input v-model="angle" class="figure" aria-label="Degrees turned on" />
    </label>
    <p v-if="to === 'angled'" class="soft">
      Paint a stripe over head and part first; after the angle both marks show it.
    </p>
    <div class="row">
      <el-button
        v-if="specified"
        type="primary"
        class="min-h-68px text-20px"
        :disabled="busy || (shut && next.percent === 100)"
        @click="asSpecified"
      >
        As specified{{ alike.length > 1 ? `, all ${alike.length}` : '' }}
      </el-button>
      <el-button
        v-if="(to === 'hand' || to === 'snug') && alike.length > 1 && !picked.length"
        type="primary"
        class="min-h-68px text-20px"
        :disabled="busy"
        @click="work(to, { places: alike })"
      >
        All {{ alike.length }} {{ to === 'hand' ? 'by hand' : 'snug' }}
      </el-button>
      <el-button
        v-if="to"
        :type="specified || (alike.length > 1 && to !== 'torqued') ? 'default' : 'primary'"
        class="min-h-68px text-20px"
        :disabled="busy || ((to === 'torqued' || to === 'angled') && shut && next.percent === 100)"
        @click="work(to)"
      >
        {{ stageOf(to)?.done }}
      </el-button>
      <el-button v-if="chosen.length" :disabled="busy" @click="work('loose')">{{
        stageOf('loose')?.done
      }}</el-button>
      <el-button
        v-if="first?.final && first.stage !== 'marked'"
        :disabled="busy"
        @click="work('marked')"
      >
        Paint mark
      </el-button>
    </div>
    <RefusalNote :said="problem" />
    <KeepReading v-if="off" :busy="busy" @keep="work('torqued', { kept: $event })" />
    <JointExtras
      v-if="to === 'torqued'"
      v-model="adapter"
      :shut="shut"
      :reach="first?.reach ?? ''"
      :busy="busy"
      :together="alike.length"
      @feel="byFeel"
      @override="work('torqued', { override: $event })"
    />
    <el-alert
      v-for="words in first?.doubts ?? []"
      :key="words"
      type="warning"
      :closable="false"
      role="note"
      >▲ {{ words }}</el-alert
    >
    <el-alert v-if="joint.swapped" type="warning" :closable="false" role="note"
      >▲ {{ joint.swapped }}</el-alert
    >
    <el-alert
      v-for="one in joint.redo"
      :key="one.number"
      type="error"
      :closable="false"
      role="note"
    >
      <b>Place {{ one.number }}.</b> {{ one.said }}
      <ol class="pl-20px mt-4px mx-0 mb-0">
        <li v-for="step in one.steps" :key="step">{{ step }}</li>
      </ol>
    </el-alert>
  </section>
</template>
