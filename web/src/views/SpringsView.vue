<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, onMounted, ref } from 'vue'
import BarHoles from '../components/BarHoles.vue'
import FieldGroup from '../components/FieldGroup.vue'
import FieldsHere from '../components/FieldsHere.vue'
import FoldAway from '../components/FoldAway.vue'
import PerchBench from '../components/PerchBench.vue'
import SitsCard from '../components/SitsCard.vue'
import SpringTry from '../components/SpringTry.vue'
import TravelLimits from '../components/TravelLimits.vue'
import { useSprings } from '../composables/useSprings'
import { sayNumber } from '../composables/useWords'
import { useGauges } from '../stores/gauges'
import { useJob } from '../stores/job'

const PARTS = [
  { key: 'heights', label: 'Heights' },
  { key: 'rings', label: 'Rings' },
  { key: 'travel', label: 'Travel' },
  { key: 'bars', label: 'Bars' },
] as const
const GROUPS: Record<string, string[]> = {
  heights: [
    'New springs and dampers',
    'Seats and perches',
    'Heights wanted',
    'Aboard when it is driven',
  ],
  rings: ['Heights wanted'],
  travel: ['What ends the travel'],
  bars: ['Sway bar'],
}
const AXLES = ['front', 'rear', ''] as const
const store = useJob()
const part = ref<(typeof PARTS)[number]['key']>('heights')
const { view, tried, wish, moved, problem, reset } = useSprings()
const crossNow = computed(() => {
  const shown = moved.value && tried.value ? tried.value : view.value
  return shown?.cross_pct ?? null
})
const triedOf = (key: string) => tried.value?.wheels.find((one) => one.key === key)
const threaded = computed(() => view.value?.bench.map((one) => one.key) ?? [])
const planned = computed(() => store.sheet?.fields.filter((one) => one.phase === 'plan') ?? [])
const groups = computed(() =>
  AXLES.flatMap((axle) =>
    GROUPS[part.value]!.map((title) => ({
      axle,
      title,
      fields: planned.value.filter((one) => one.axle === axle && one.group === title),
    })).filter((one) => one.fields.length),
  ),
)
const name = (axle: string) => (axle ? axle[0]!.toUpperCase() + axle.slice(1) : 'The car')
const loads = computed(
  () => store.sheet?.fields.filter((one) => one.key === 'car.check_loads') ?? [],
)
onMounted(() => void useGauges().load())
</script>

<template>
  <div class="stack">
    <header class="row justify-between">
      <h2>Springs</h2>
      <div class="row parts" role="group" aria-label="Part of the work on springs">
        <button
          v-for="one in PARTS"
          :key="one.key"
          type="button"
          :class="{ on: part === one.key }"
          :aria-pressed="part === one.key"
          class="min-h-44px py-0 px-18px [font:600_19px_var(--figures)] cursor-pointer bg-card edged-soft"
          @click="part = one.key"
        >
          {{ one.label }}
        </button>
      </div>
    </header>
    <RefusalNote :said="problem" />
    <el-alert v-if="view?.problem" type="error" :closable="false" role="alert">{{
      view.problem
    }}</el-alert>
    <template v-if="view?.wheels.length">
      <template v-if="part === 'heights'">
        <p class="row gap-y-10px gap-x-28px">
          <span v-if="view.cross_before_pct !== null && crossNow !== null">
            Cross weight <b class="figure">{{ sayNumber(view.cross_before_pct) }} %</b> before,
            <b class="figure">{{ sayNumber(crossNow) }} %</b>
            {{ moved ? 'as tried' : 'after' }}
            <span v-if="!moved && view.cross_plus_minus_pct" class="soft">
              ± {{ sayNumber(view.cross_plus_minus_pct) }}
            </span>
          </span>
          <span v-if="view.cross_target_pct !== null">
            wanted {{ sayNumber(view.cross_target_pct) }} %
          </span>
        </p>
        <el-alert v-if="tried?.problem" type="error" :closable="false" role="alert">{{
          tried.problem
        }}</el-alert>
        <div class="pair">
          <SitsCard
            v-for="one in view.wheels"
            :key="one.key"
            :wheel="one"
            :tried="triedOf(one.key)"
            :moved="moved"
            :angles="tried?.angles[one.key]"
          />
        </div>
        <el-alert
          v-for="words in view.doubts"
          :key="words"
          type="warning"
          :closable="false"
          role="note"
          >▲ {{ words }}</el-alert
        >
        <section v-if="view.unknowns.length" class="card stack" aria-label="What matters most">
          <h3>What leaves the heights open, the most first</h3>
          <ol class="m-0 [line-height:1.7]">
            <li v-for="one in view.unknowns" :key="one.key">
              <b>{{ one.label }}</b> {{ one.shown }}:
              <b class="figure">{{ sayNumber(one.share_pct, 0) }} %</b> of it. {{ one.advice }}
              <template v-if="one.becomes_mm !== null">
                ± {{ sayNumber(one.plus_minus_mm) }} mm becomes ±
                {{ sayNumber(one.becomes_mm) }} mm.
              </template>
            </li>
          </ol>
        </section>
        <SpringTry v-model="wish" :view="view" :threaded="threaded" @reset="reset" />
      </template>
      <PerchBench v-else-if="part === 'rings'" :view="view" />
      <TravelLimits
        v-else-if="part === 'travel'"
        :travel="view.travel"
        :steering-damper="view.steering_damper"
      />
      <BarHoles v-else :bars="view.bars" />
    </template>
    <section v-if="view?.asked.length" class="card stack" aria-label="What would tell more">
      <p v-if="view.lacks.length" class="wait">
        ○ Not known yet: {{ view.lacks.join(', ').toLowerCase() }}.
      </p>
      <p v-if="view.usual.length" class="soft">
        Taken for usual: {{ view.usual.join(', ').toLowerCase() }}.
      </p>
      <FoldAway title="Tell it here">
        <FieldsHere :keys="view.asked" />
      </FoldAway>
    </section>
    <FieldGroup
      v-for="one in groups"
      :key="one.axle + one.title"
      :title="one.title"
      :fields="one.fields"
      :prefix="name(one.axle)"
    />
    <FieldGroup
      v-if="part === 'rings' && loads.length"
      title="Scales, after settling"
      :fields="loads"
      prefix="The car"
    />
  </div>
</template>

<style scoped>
.parts button.on {
  color: var(--go);
  background: var(--go-wash);
  border: 2px solid var(--go);
}
</style>
