<script setup lang="ts">
import ReadBar from '../components/ReadBar.vue'
import { computed, ref } from 'vue'
import type { FieldView } from '../api/client'
import ChoiceField from '../components/ChoiceField.vue'
import MeasuringField from '../components/MeasuringField.vue'
import ReadingsFile from '../components/ReadingsFile.vue'
import SettleBar from '../components/SettleBar.vue'
import { useMoveOn } from '../composables/useMoveOn'
import { useJob } from '../stores/job'

const store = useJob()
const page = ref<HTMLElement | null>(null)
const more = ref(false)
const all = computed(() => store.sheet?.fields.filter((one) => one.phase === 'baseline') ?? [])
/** What this plan asks for; what was read although nobody asked for it stays. */
const fields = computed(() =>
  all.value.filter((one) => more.value || one.asked || store.job?.entries[one.key]),
)
const required = computed(() => fields.value.filter((field) => field.required).length)
const read = computed(() => required.value - (store.job?.missing.baseline?.length ?? 0))
const axles = computed(() => [...new Set(fields.value.map((field) => field.axle))])
const groups = (axle: string) => [
  ...new Set(fields.value.filter((one) => one.axle === axle).map((field) => field.group)),
]
const of = (axle: string, group: string, side: FieldView['side']) =>
  fields.value.filter((one) => one.axle === axle && one.group === group && one.side === side)
const prefix = (axle: string, side: 'left' | 'right') => {
  const words = axles.value.length > 1 ? `${axle} ${side}` : side
  return words[0]!.toUpperCase() + words.slice(1)
}
const title = (axle: string) =>
  axle ? `${axle[0]!.toUpperCase()}${axle.slice(1)} axle` : 'The car'

const moveOn = useMoveOn(page)
</script>

<template>
  <div ref="page" class="grid one-col gap-16px">
    <header class="grid col-auto gap-y-2px gap-x-20px lt-phone:one-col">
      <h2>Baseline</h2>
      <p class="soft">
        Type a number and Enter; the next empty field takes over. Commas, fractions and units such
        as 1 3/8 in or 0°20' are understood.
      </p>
      <div
        class="figure [grid-row:1_/_3] [grid-column:2] self-center text-24px c-go lt-phone:[grid-row:auto] lt-phone:[grid-column:1]"
        role="status"
      >
        <template v-if="required">
          {{ read }} of {{ required }} read
          <ReadBar :done="read" :of="required" />
        </template>
        <template v-else>This plan needs no reading</template>
      </div>
    </header>
    <SettleBar />
    <div class="row ways justify-between">
      <router-link :to="{ name: 'walk' }">One thing at a time: walk round the car →</router-link>
      <ReadingsFile />
    </div>
    <template v-for="axle in axles" :key="axle">
      <h3 v-if="axles.length > 1" class="mt-8px text-24px">{{ title(axle) }}</h3>
      <section v-for="group in groups(axle)" :key="axle + group" class="card">
        <h3>{{ group }}</h3>
        <div
          v-if="of(axle, group, '').length"
          class="axle grid two-cols gap-y-0 gap-x-18px lt-phone:one-col"
        >
          <template v-for="field in of(axle, group, '')" :key="field.key">
            <ChoiceField v-if="field.choices.length" :field="field" />
            <MeasuringField
              v-else
              :field="field"
              :prefix="axles.length > 1 && axle ? title(axle) : undefined"
              @saved="moveOn"
            />
          </template>
        </div>
        <div v-if="of(axle, group, 'left').length" class="pair">
          <div v-for="side in ['left', 'right'] as const" :key="side">
            <h4 class="mt-8px mx-0 mb-6px [font:600_18px_var(--figures)]">
              {{ side === 'left' ? 'Left' : 'Right' }}
            </h4>
            <template v-for="field in of(axle, group, side)" :key="field.key">
              <ChoiceField
                v-if="field.choices.length"
                :field="field"
                :prefix="prefix(axle, side)"
              />
              <MeasuringField v-else :field="field" :prefix="prefix(axle, side)" @saved="moveOn" />
            </template>
          </div>
        </div>
      </section>
    </template>
    <el-button v-if="all.length > fields.length || more" @click="more = !more">
      {{ more ? 'Only what this job asks for' : 'More that can be read' }}
    </el-button>
    <router-link :to="{ name: 'floor' }" class="onward">On to the floor →</router-link>
  </div>
</template>

<style scoped>
.ways a,
.onward {
  align-content: center;
  min-height: 44px;
  font-weight: 600;
}

.axle > fieldset {
  grid-column: 1 / -1;
}
</style>
