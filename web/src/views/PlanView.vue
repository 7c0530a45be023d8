<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'
import { SIDES, type Side } from '../api/client'
import { ladderOfCorner } from '../composables/useLadder'
import HeightLadder from '../components/HeightLadder.vue'
import NumberCard from '../components/NumberCard.vue'
import SpecRow from '../components/SpecRow.vue'
import TurnsPlan from '../components/TurnsPlan.vue'
import { sayNumber } from '../composables/useWords'
import { useChoices } from '../stores/choices'
import { useJob } from '../stores/job'

const store = useJob()
const { choices } = storeToRefs(useChoices())
const job = computed(() => store.job!)
const labels = computed(() =>
  Object.fromEntries(store.sheet?.fields.map((field) => [field.key, field.label]) ?? []),
)

function missing(side: Side, what: string): string[] {
  return (job.value.corners[side].missing[what] ?? []).map((key) => labels.value[key] ?? key)
}

const questions = computed(() => job.value.findings.filter((one) => one.severity === 'note'))
</script>

<template>
  <div class="plan">
    <h2>Plan</h2>
    <p v-for="one in questions" :key="one.subject + one.code" class="notice wait">
      {{ one.message }}
    </p>
    <div class="pair">
      <section v-for="side in SIDES" :key="side" class="card" :aria-label="`${side} front`">
        <h3>{{ side === 'left' ? 'Left front' : 'Right front' }}</h3>
        <p v-if="job.corners[side].problem" class="notice stop" role="alert">
          {{ job.corners[side].problem }}
        </p>
        <div class="height">
          <HeightLadder
            :marks="ladderOfCorner(job.corners[side])"
            :side="side"
            :live="job.gates[side].height_mm"
          />
          <div>
            <NumberCard
              label="Height change"
              signed
              :number="job.corners[side].height_change"
              :missing="missing(side, 'height')"
            />
            <NumberCard
              label="Height after"
              :number="job.corners[side].height_predicted"
              :missing="missing(side, 'predicted')"
            />
            <NumberCard
              label="Toe from height alone"
              :number="job.corners[side].toe_from_height"
              :missing="missing(side, 'toe')"
            />
            <NumberCard
              label="Toe if the rod is left"
              :number="job.corners[side].toe_untouched"
              :missing="missing(side, 'toe')"
            />
            <NumberCard label="Toe now" :number="job.corners[side].toe_now" :missing="['toe']" />
            <NumberCard
              label="Toe wanted"
              :number="job.corners[side].toe_target"
              :missing="['toe']"
            />
          </div>
        </div>
        <div v-if="job.corners[side].window" class="notice go">
          <span>
            Clamp the lower arm between
            <b class="figure big">
              {{ sayNumber(job.corners[side].window!.low, 0) }} and
              {{ sayNumber(job.corners[side].window!.high, 0) }} mm
            </b>
            hub to arch. Today it reads {{ sayNumber(job.corners[side].window!.today ?? 0) }} mm:
            clamped there, the rubber would stay
            {{ sayNumber(Math.abs(job.corners[side].window!.twist_today_deg ?? 0)) }}° wound up.
          </span>
        </div>
        <p v-else class="soft">
          The clamp window needs {{ missing(side, 'window').join(', ').toLowerCase() }}.
        </p>
        <h3>Tie-rod end</h3>
        <TurnsPlan :corner="job.corners[side]" :missing="missing(side, 'turns')" />
      </section>
    </div>
    <section class="card">
      <h3>Torque specifications</h3>
      <p class="soft">
        As typed, in the unit of its source. The vehicle maker's service data comes first; this
        product never invents a value, it only asks when one looks wrong.
      </p>
      <SpecRow
        v-for="group in job.groups"
        :key="group.key"
        :group="group"
        :units="choices.torque_units"
        :classes="choices.property_classes"
      />
    </section>
    <section class="card">
      <h3>Steps</h3>
      <ol>
        <li v-for="step in job.steps" :key="step.key">
          <b>{{ step.title }}</b> <span class="soft">({{ step.where_said }})</span>
          <span v-if="step.tools.length" class="soft"> · {{ step.tools.join(', ') }}</span>
          <span v-if="step.two_people" class="soft"> · two people</span>
        </li>
      </ol>
      <router-link :to="{ name: 'floor' }">On to the floor →</router-link>
    </section>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
}

section {
  display: grid;
  gap: 10px;
  align-content: start;
}

.height {
  display: grid;
  grid-template-columns: minmax(200px, 0.8fr) minmax(0, 1fr);
  gap: 14px;
}

.big {
  font-size: 22px;
}

ol {
  columns: 2;
  gap: 30px;
  padding-left: 28px;
  margin: 0;
}

li {
  padding: 3px 0;
  break-inside: avoid;
}

a {
  min-height: 44px;
  font-weight: 600;
}

@media (width <= 1000px) {
  .height {
    grid-template-columns: minmax(0, 1fr);
  }

  ol {
    columns: 1;
  }
}
</style>
