<script setup lang="ts">
import { computed, ref } from 'vue'
import MoveCar from '../components/MoveCar.vue'
import RunningTimers from '../components/RunningTimers.vue'
import StepCard from '../components/StepCard.vue'
import StepList from '../components/StepList.vue'
import StopDay from '../components/StopDay.vue'
import { useFloorHands } from '../composables/useFloorHands'
import { useJob } from '../stores/job'

const store = useJob()
const job = computed(() => store.job!)
const chosen = ref<string | null>(null)
const nextOpen = computed(() => job.value.steps.find((step) => step.state === 'open')?.key)
const shown = computed(() => chosen.value ?? nextOpen.value ?? job.value.steps.at(-1)?.key ?? '')
const place = computed(() => job.value.steps.findIndex((step) => step.key === shown.value))
const step = computed(() => job.value.steps[place.value])

const card = ref<InstanceType<typeof StepCard> | null>(null)
const said = computed(() =>
  step.value
    ? [step.value.title, ...step.value.told, `Car ${step.value.where_said}.`].join('. ')
    : '',
)
const hands = useFloorHands(
  said,
  () => card.value?.confirm(),
  () => {
    const before = job.value.steps[place.value - 1]
    if (before) goTo(before.key)
  },
)
const { aloud } = hands

function goTo(key: string | null): void {
  chosen.value = key
  window.scrollTo({ top: 0 })
}
</script>

<template>
  <div class="floor">
    <div class="now">
      <button v-if="chosen && chosen !== nextOpen" type="button" class="back" @click="goTo(null)">
        ← Back to the next open step
      </button>
      <p v-if="!job.steps.length" class="card">
        No plan yet.
        <router-link :to="{ name: 'order' }">Say what is fitted →</router-link>
      </p>
      <StepCard
        v-if="step"
        :key="step.key"
        ref="card"
        :step="step"
        :number="place + 1"
        :total="job.steps.length"
        @done="goTo(null)"
      />
    </div>
    <aside>
      <section class="card">
        <MoveCar />
      </section>
      <button
        v-if="hands.canSpeak"
        type="button"
        class="card aloud"
        :aria-pressed="aloud"
        @click="aloud = !aloud"
      >
        {{ aloud ? '● Each step is read aloud' : '○ Read each step aloud' }}
      </button>
      <RunningTimers />
      <StopDay />
      <section class="card">
        <h3>All steps</h3>
        <StepList :steps="job.steps" :shown="shown" @choose="goTo" />
      </section>
    </aside>
  </div>
</template>

<style scoped>
.floor {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  gap: 18px;
}

.now,
aside {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  align-content: start;
}

.aloud {
  min-height: 48px;
  font: inherit;
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}

.back {
  justify-self: start;
  min-height: 44px;
  color: var(--go);
  cursor: pointer;
  background: none;
  border: 0;
}

@media (width <= 1000px) {
  .floor {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
