<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { computed, onUnmounted, ref } from 'vue'
import type { StepView } from '../api/client'
import { useActing } from '../composables/useActing'
import { useConsequences } from '../composables/useConsequences'
import { sayLeft, useClock } from '../composables/useTimers'
import { sayClock } from '../composables/useWords'
import { useJob } from '../stores/job'
import MoveCar from './MoveCar.vue'
import LostNotice from './LostNotice.vue'
import PictureRow from './PictureRow.vue'
import ReasonDialog from './ReasonDialog.vue'
import StepCautions from './StepCautions.vue'
import StepJoints from './StepJoints.vue'
import StepReadings from './StepReadings.vue'
import StepReads from './StepReads.vue'
import StepTurns from './StepTurns.vue'
import TakeOff from './TakeOff.vue'

const DEAF_MS = 500
const props = defineProps<{ step: StepView; number: number; total: number }>()
const emit = defineEmits<{ done: [] }>()
const store = useJob()
const job = computed(() => store.job!)
const { problem, busy, act } = useActing()
const { lost, ask, yes, no } = useConsequences()
const actions = ref<HTMLElement | null>(null)
const skipping = ref(false)
const hurrying = ref(false)
const now = useClock()
const held = computed(() => {
  const works = props.step.held
  return works && Date.parse(works.ready) > now.value ? works : null
})
const SKIPPED_FOR = ['Not needed on this car', 'Nothing is seized', 'Done before']
const CAME_FREE = 'It came free already'
/** A second tap never finishes a step that nobody has read: a card that has just come is deaf for a moment. */
const deaf = ref(true)
const hearing = window.setTimeout(() => (deaf.value = false), DEAF_MS)
onUnmounted(() => window.clearTimeout(hearing))
const note = ref('')

const elsewhere = computed(
  () =>
    props.step.where !== job.value.position ||
    (props.step.corner &&
      (props.step.corner !== job.value.corner ||
        props.step.carried_axle !== job.value.carried_axle)),
)
const notes = computed(() => job.value.notes.filter((one) => one.step === props.step.key))
/** Where one button says it, every fastener of the step goes with it. */
async function finish(reason = ''): Promise<void> {
  const step = props.step.key
  const taken =
    props.step.together && !elsewhere.value
      ? await act({ kind: 'finished', step, reason })
      : await act({ kind: 'stepped', step, outcome: 'done', reason })
  if (taken) emit('done')
}

/**
 * The main action, by a key or a foot switch: what the large button does, and nothing while it is deaf or refused.
 * A step whose end is not in sight yet is shown to its end first: nothing is confirmed unread.
 */
function confirm(): void {
  const box = actions.value?.getBoundingClientRect()
  if (box && box.bottom > window.innerHeight + 1) {
    window.scrollBy({ top: window.innerHeight * 0.8 })
    return
  }
  if (busy.value || deaf.value || props.step.state !== 'open' || elsewhere.value) return
  if (held.value || props.step.wrong_part) return
  void finish()
}

defineExpose({ confirm })

async function skip(reason: string): Promise<void> {
  const taken = await act({ kind: 'stepped', step: props.step.key, outcome: 'skipped', reason })
  if (taken) emit('done')
}

function reopen(): void {
  const opened = { kind: 'stepped' as const, step: props.step.key, outcome: 'reopened' as const }
  void ask(opened, () => void act({ ...opened, reason: '' }))
}

async function write(): Promise<void> {
  if (!note.value.trim()) return
  if (await act({ kind: 'noted', text: note.value.trim(), step: props.step.key })) note.value = ''
}
</script>

<template>
  <article class="card grid one-col gap-12px" :aria-label="step.title">
    <p class="soft">
      Step {{ number }} of {{ total }} · car {{ step.where_said }}
      <b v-if="step.state === 'done'" class="ml-8px c-go">✓ done</b>
      <b v-if="step.state === 'skipped'" class="ml-8px c-wait">– skipped: {{ step.reason }}</b>
    </p>
    <h2 class="text-32px lt-phone:text-27px">{{ step.title }}</h2>
    <MoveCar
      v-if="elsewhere && step.state === 'open'"
      :wanted="{ to: step.where, corner: step.corner, axle: step.carried_axle }"
    />
    <StepCautions v-if="step.cautions.length" :cautions="step.cautions" :job="job.id" />
    <el-alert
      v-for="one in step.told"
      :key="one"
      type="success"
      :closable="false"
      class="text-20px"
      role="note"
      >{{ one }}</el-alert
    >
    <StepReads v-if="step.reads.length" :step="step" />
    <StepTurns
      v-if="step.asks === 'turns' && !step.reads.length && job.pages.includes('turns')"
      :step="step"
    />
    <StepJoints v-if="step.joints.length" :joints="step.joints" :goals="step.goals" />
    <StepReadings v-if="step.asks === 'baseline' || step.asks === 'check'" :phase="step.asks" />
    <p v-if="step.detail" class="text-18px">{{ step.detail }}</p>
    <p v-if="step.tools.length || step.two_people" class="soft">
      {{ step.tools.join(' · ') }}<b v-if="step.two_people"> Two people.</b>
    </p>
    <p v-if="step.school" class="soft">{{ step.school }}</p>
    <FoldAway v-if="step.why.length" title="Why here">
      <ul>
        <li v-for="one in step.why" :key="one">{{ one }}</li>
      </ul>
    </FoldAway>
    <p v-for="one in notes" :key="one.at">✎ {{ one.text }}</p>
    <form class="row" @submit.prevent="write">
      <el-input
        v-model="note"
        class="flex-1 min-w-0"
        maxlength="500"
        placeholder="Note for the record"
        aria-label="Note for the record"
      />
      <el-button native-type="submit" :disabled="!note.trim()">Add note</el-button>
    </form>
    <TakeOff v-if="step.state === 'open' && !elsewhere" :step="step.key" />
    <PictureRow :subject="step.key" />
    <RefusalNote :said="problem" />
    <div
      v-if="step.state === 'open'"
      ref="actions"
      class="finish grid grid-cols-[1fr_auto] gap-10px lt-phone:sticky lt-phone:bottom-0 lt-phone:[z-index:3] lt-phone:py-8px lt-phone:px-0 lt-phone:bg-card lt-phone:ruled"
    >
      <p v-if="step.why_not && !elsewhere" class="soft col-span-full">{{ step.why_not }}</p>
      <el-alert v-if="held && !elsewhere" type="warning" :closable="false" role="note">
        <b class="figure">{{ sayLeft(held.ready, now) }}</b>
        <span>{{ held.title }}: it still works, not before {{ sayClock(held.ready) }}.</span>
      </el-alert>
      <el-alert v-if="step.wrong_part && !elsewhere" type="error" :closable="false" role="note">{{
        step.wrong_part
      }}</el-alert>
      <el-button
        v-if="held && !step.wrong_part && !elsewhere"
        size="large"
        :disabled="busy || deaf"
        @click="finish(CAME_FREE)"
      >
        ✓ {{ CAME_FREE }}: done
      </el-button>
      <el-button
        v-else-if="step.wrong_part && !elsewhere"
        size="large"
        :disabled="busy || deaf"
        @click="hurrying = true"
      >
        Done all the same…
      </el-button>
      <el-button v-else type="primary" size="large" :disabled="busy || deaf" @click="finish()">
        ✓ {{ step.together && !elsewhere ? `${step.together}, done` : 'Done' }}
      </el-button>
      <el-button size="large" :disabled="busy" @click="skipping = true">Skip…</el-button>
      <button
        v-if="held && !elsewhere"
        type="button"
        class="col-span-full min-h-44px c-go bare-button"
        @click="hurrying = true"
      >
        Done for another reason…
      </button>
    </div>
    <div v-else class="stack">
      <el-button :disabled="busy" @click="reopen">↶ Open this step again</el-button>
      <LostNotice :lost="lost" @yes="yes" @no="no" />
    </div>
    <ReasonDialog
      v-model="skipping"
      :title="`Skip: ${step.title}`"
      confirm="Skip this step"
      :usual="SKIPPED_FOR"
      @given="skip"
    />
    <ReasonDialog
      v-model="hurrying"
      :title="`Done all the same: ${step.title}`"
      :detail="step.wrong_part"
      confirm="Done, with this reason"
      @given="finish"
    />
  </article>
</template>

<style scoped>
.finish .el-button {
  min-height: 60px;
  font-size: 20px;
}
</style>
