<script setup lang="ts">
import NothingYet from '../components/NothingYet.vue'
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
  <div class="grid grid-cols-[minmax(0,1fr)_360px] gap-18px max-[1000px]:one-col">
    <div class="grid one-col gap-14px content-start">
      <button
        v-if="chosen && chosen !== nextOpen"
        type="button"
        class="justify-self-start min-h-44px c-go bare-button"
        @click="goTo(null)"
      >
        ← Back to the next open step
      </button>
      <NothingYet v-if="!job.steps.length" said="No plan yet.">
        <router-link :to="{ name: 'order' }" class="font-600">Say what is fitted →</router-link>
      </NothingYet>
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
    <aside class="grid one-col gap-14px content-start">
      <section class="card">
        <MoveCar />
      </section>
      <button
        v-if="hands.canSpeak"
        type="button"
        class="card min-h-48px [font:inherit] font-600 text-left cursor-pointer"
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
