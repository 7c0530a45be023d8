<script setup lang="ts">
import NothingYet from '../components/NothingYet.vue'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import CarPlan from '../components/CarPlan.vue'
import GaugeLine from '../components/GaugeLine.vue'
import MeasuringField from '../components/MeasuringField.vue'
import PictureRow from '../components/PictureRow.vue'
import ReadBar from '../components/ReadBar.vue'
import SettleBar from '../components/SettleBar.vue'
import WalkChoice from '../components/WalkChoice.vue'
import WalkOrderPanel from '../components/WalkOrderPanel.vue'
import { useTake } from '../composables/useTake'
import { useWalk } from '../composables/useWalk'
import { useGauges } from '../stores/gauges'
import { useJob } from '../stores/job'

const props = defineProps<{ after?: boolean }>()
const phase = computed(() => (props.after ? 'check' : 'baseline'))
const store = useJob()
const gauges = useGauges()
const { steps, at, field, place, optional, left, go, onward } = useWalk(phase)
const asked = ref<InstanceType<typeof MeasuringField> | null>(null)
const finished = ref(false)
const { fitting, take } = useTake(field, asked)

const corner = computed(() => (field.value?.side ? `${field.value.axle}.${field.value.side}` : ''))
const where = computed(() => {
  const { axle = '', side = '' } = field.value ?? {}
  const words = [axle, side].filter(Boolean).join(' ')
  return words ? words[0]!.toUpperCase() + words.slice(1) : 'The car'
})
const corners = computed(() => store.job?.wheels.map((one) => one.key) ?? [])
const done = computed(() => {
  const open = store.job?.missing[phase.value] ?? []
  return corners.value.filter((one) => !open.some((key) => key.startsWith(`${one}.`)))
})
const doubtful = computed(() =>
  corners.value.filter((one) =>
    Object.values(store.job?.entries ?? {}).some((each) => each.doubt && each.key.startsWith(one)),
  ),
)
const required = computed(() => steps.value.filter((one) => one.required).length)
const labels = computed(() =>
  Object.fromEntries(
    (store.job?.wheels ?? []).map((one) => [
      one.key,
      [one.height.split(' ±')[0] ?? '', one.camber.split(' ±')[0] ?? ''],
    ]),
  ),
)

function pick(wheel: string): void {
  const own = steps.value.filter((one) => `${one.axle}.${one.side}` === wheel)
  const open = own.find((one) => store.job?.missing[phase.value]?.includes(one.key))
  const next = open ?? own[0]
  if (next) at.value = next.key
}

function saved(): void {
  finished.value = !onward() && left.value === 0
}

function shortcut(event: KeyboardEvent): void {
  if (!event.altKey) return
  const act = {
    ArrowRight: () => go(1),
    ArrowLeft: () => go(-1),
    r: () => void asked.value?.readAgain(),
    h: () => fitting.value[0] && gauges.lines[fitting.value[0].id]?.hold(),
    t: () => takeFirst(),
    o: () => (optional.value = !optional.value),
  }[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!act) return
  event.preventDefault()
  act()
}

function takeFirst(): void {
  const first = fitting.value[0]
  const line = first && gauges.lines[first.id]
  const shown = line?.held ?? (line?.stable ? line.now : null)
  if (!first || !line || !shown) return
  void take(first, shown)
  line.release()
}

const focus = () => asked.value?.inputs()[0]?.focus()

watch(
  at,
  async () => {
    gauges.aim(at.value)
    await nextTick()
    focus()
  },
  { immediate: true },
)
watch(asked, focus)
useEventListener('keydown', shortcut)
onMounted(() => void gauges.load().then(() => gauges.aim(at.value)))
</script>

<template>
  <div class="grid one-col gap-14px">
    <header class="flex flex-wrap gap-y-6px gap-x-20px items-baseline justify-between">
      <h2>Walk round the car</h2>
      <div class="figure text-22px c-go" role="status">
        {{ left ? `${left} still to read` : '✓ Everything asked is read' }}
        <ReadBar :done="required - left" :of="required" />
      </div>
    </header>
    <SettleBar @settled="focus" />
    <div class="grid grid-cols-[360px_minmax(0,1fr)] gap-18px items-start lt-phone:one-col">
      <aside class="grid gap-10px lt-phone:[order:2] lt-phone:justify-items-start">
        <CarPlan :labels="labels" :at="corner" :done="done" :doubtful="doubtful" @pick="pick" />
        <el-checkbox v-model="optional">Ask for what is optional too</el-checkbox>
        <WalkOrderPanel />
        <router-link :to="{ name: 'baseline' }">All readings on one sheet</router-link>
      </aside>
      <section
        v-if="field"
        :key="field.key"
        class="card ask grid one-col gap-10px"
        :aria-label="`${where}, ${field.label}`"
      >
        <p class="soft">{{ place + 1 }} of {{ steps.length }}</p>
        <h3 class="text-32px lt-phone:text-26px">
          <span class="c-wait">{{ where }}</span> {{ field.label }}
          <span v-if="!field.required" class="soft">(optional)</span>
        </h3>
        <WalkChoice v-if="field.choices.length" :field="field" @saved="saved" />
        <MeasuringField v-else ref="asked" :field="field" :prefix="where" big @saved="saved" />
        <GaugeLine
          v-for="one in fitting"
          :key="one.id"
          :instrument="one"
          :line="gauges.lines[one.id]!"
          takes="it"
          @take="take(one, $event)"
        />
        <PictureRow :subject="field.key" />
        <el-alert v-if="finished" type="success" :closable="false" role="status">
          ✓
          {{ after ? 'Everything is read again.' : 'Everything asked before the work is read.' }}
          Look it over on one sheet, then go on.
        </el-alert>
        <div class="row justify-between">
          <el-button :disabled="place === 0" @click="go(-1)">← Back</el-button>
          <el-button :disabled="place === steps.length - 1" @click="go(1)">Later →</el-button>
        </div>
        <p class="soft [line-height:2] lt-phone:hidden">
          <kbd>Enter</kbd> saves, goes on · <kbd>Alt ←</kbd> <kbd>Alt →</kbd> back, later ·
          <kbd>Alt R</kbd> read again · <kbd>Alt H</kbd> hold the gauge · <kbd>Alt T</kbd> take it ·
          <kbd>Alt O</kbd> optional too
        </p>
      </section>
      <NothingYet v-else said="Nothing is asked for here: this plan moves nothing that is read." />
    </div>
  </div>
</template>

<style scoped>
aside a {
  align-content: center;
  min-height: 44px;
  font-weight: 600;
}
</style>
