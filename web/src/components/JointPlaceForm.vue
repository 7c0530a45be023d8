<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import SaidBefore from './SaidBefore.vue'
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Bolt, JointView } from '../api/client'
import { useChangePlaces } from '../composables/useChangePlaces'
import { useChoices } from '../stores/choices'
import UnitInput from './UnitInput.vue'

const props = defineProps<{
  joint: JointView
  places: number[]
  sources: string[]
  sourceAsBefore?: boolean
}>()
const emit = defineEmits<{ done: [] }>()
const { choices } = storeToRefs(useChoices())
const { problem, busy, change } = useChangePlaces()
/** Mostly one list for the whole car: what was told last. */
const usual = computed(() => (props.sourceAsBefore ? (props.sources.at(-1) ?? '') : ''))
const EMPTY = { torque: '', unit: 'nm', source: '', note: '', head: '', hold: '', right: false }
const form = ref({ ...EMPTY })
const begun = ref({ ...EMPTY })
const both = ref(true)
const map = computed(() => props.joint.map)

/** What all chosen places share; empty where they differ. */
function shared(read: (bolt: Bolt) => string | undefined): string {
  const told = new Set(
    map.value.bolts.filter((one) => props.places.includes(one.number)).map((one) => read(one)),
  )
  return told.size === 1 ? ([...told][0] ?? '') : ''
}

watch(
  () => props.places,
  () => {
    form.value = {
      torque: shared((one) => one.spec?.torque?.text),
      unit: shared((one) => one.spec?.torque?.unit) || choices.value.torque_units[0]?.key || 'nm',
      source: shared((one) => one.spec?.source),
      note: shared((one) => one.note),
      head: shared((one) => one.head),
      hold: shared((one) => one.hold),
      right: shared((one) => String(one.spec?.affirmed ?? false)) === 'true',
    }
    begun.value = { ...form.value }
    form.value.source ||= usual.value
  },
  { immediate: true },
)

async function save(): Promise<void> {
  const now = form.value
  const edited = <Key extends keyof typeof now>(key: Key) => now[key] !== begun.value[key]
  const torque = edited('torque') || edited('unit')
  const taken = await change({
    joint: props.joint.key,
    places: props.places,
    other_side: both.value,
    torque: torque ? { text: now.torque, unit: now.unit } : null,
    source: edited('source') && (torque || now.source !== usual.value) ? now.source : null,
    note: edited('note') ? now.note : null,
    head: edited('head') ? now.head : null,
    hold: edited('hold') ? now.hold : null,
    affirmed: edited('right') ? now.right : null,
  })
  if (taken) emit('done')
}
</script>

<template>
  <form class="card entry-form" aria-label="Change places" @submit.prevent="save">
    <h3>Change place {{ places.join(', ') }}</h3>
    <label>
      Torque
      <UnitInput
        v-model:text="form.torque"
        v-model:unit="form.unit"
        label="Torque of the place"
        :units="choices.torque_units"
        @enter="save"
      />
    </label>
    <label class="wide">
      Source
      <SaidBefore v-model="form.source" maxlength="200" :before="sources" />
    </label>
    <label>Head <el-input v-model="form.head" maxlength="40" /></label>
    <label>Hold <el-input v-model="form.hold" maxlength="40" /></label>
    <label class="wide"> Which way round <el-input v-model="form.note" maxlength="120" /> </label>
    <el-checkbox v-if="joint.side" v-model="both">The same on the other side</el-checkbox>
    <el-checkbox v-model="form.right">Right as typed</el-checkbox>
    <RefusalNote :said="problem" />
    <el-button type="primary" native-type="submit" :disabled="busy">Save the change</el-button>
  </form>
</template>
