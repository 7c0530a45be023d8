<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { computed, onMounted, ref, watch } from 'vue'
import type { JointView } from '../api/client'
import { sourcesOf, useJoints } from '../composables/useJoints'
import { useChoices } from '../stores/choices'
import { useGauges } from '../stores/gauges'
import { useJob } from '../stores/job'
import JointMap from './JointMap.vue'
import JointPlaceForm from './JointPlaceForm.vue'
import JointWork from './JointWork.vue'

/** The maps of the joints a step works on, one at a time, inside the step. */
const props = defineProps<{ joints: string[]; goals: Record<string, string> }>()
const { view, chosen, adapter, problem, behind } = useJoints()
const store = useJob()
const picked = ref<number[]>([])
const mine = computed(
  () => view.value?.joints.filter((one) => props.joints.includes(one.key)) ?? [],
)
const { stage } = useChoices()
const goalOf = (key: string) => props.goals[key] ?? 'torqued'
const reached = (joint: JointView) =>
  joint.bolts.every((one) => one.reached.includes(goalOf(joint.key)))
const joint = computed(
  () =>
    mine.value.find((one) => one.key === chosen.value) ??
    mine.value.find((one) => !reached(one)) ??
    mine.value[0],
)
const places = computed(() =>
  picked.value.length ? picked.value : (joint.value?.bolts.map((one) => one.number) ?? []),
)
const sources = computed(() => sourcesOf(view.value?.joints ?? []))
function choose(key: string): void {
  chosen.value = key
  picked.value = []
}

function pick(number: number): void {
  picked.value = picked.value.includes(number)
    ? picked.value.filter((one) => one !== number)
    : [...picked.value, number]
}

/** A joint that is there goes on to the next that is not. */
watch(mine, () => {
  const now = mine.value.find((one) => one.key === chosen.value)
  if (now && reached(now) && !picked.value.length) chosen.value = ''
})
onMounted(() => void useGauges().load())
</script>

<template>
  <div class="stack" :aria-busy="behind || store.unsent > 0">
    <RefusalNote :said="problem" />
    <div class="row" role="group" aria-label="Fasteners of this step">
      <p v-if="!view" class="soft">Reading the maps…</p>
      <el-button
        v-for="one in mine"
        :key="one.key"
        class="pick"
        :aria-pressed="one.key === joint?.key"
        @click="choose(one.key)"
      >
        {{ reached(one) ? '✓ ' : '' }}{{ one.label }}
        <span class="figure">→ {{ stage(goalOf(one.key))?.wanted }}</span>
      </el-button>
    </div>
    <template v-if="joint">
      <JointMap v-if="joint.bolts.length > 1" :joint="joint" :picked="picked" @pick="pick" />
      <el-alert v-if="reached(joint)" type="success" :closable="false" role="status">
        ✓ {{ joint.label }}: {{ stage(goalOf(joint.key))?.wanted }}.
      </el-alert>
      <JointWork
        v-model:adapter="adapter"
        :joint="joint"
        :behind="behind"
        :picked="picked"
        :unloaded="goalOf(joint.key) !== 'torqued'"
        @done="picked = []"
      />
      <FoldAway
        v-if="goalOf(joint.key) === 'torqued'"
        :open="!joint.bolts.some((one) => one.source)"
        title="Thread, value and source"
      >
        <JointPlaceForm
          :joint="joint"
          :places="places"
          :sources="sources"
          source-as-before
          @done="picked = []"
        />
      </FoldAway>
    </template>
  </div>
</template>
