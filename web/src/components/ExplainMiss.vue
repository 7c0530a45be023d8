<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId } from '../api/client'
import BesideTable from './BesideTable.vue'
import { useJobPart } from '../composables/useJobPart'
import { useJob } from '../stores/job'

const store = useJob()
const router = useRouter()
/** Explaining takes the server a while: asked once the reading has stopped. */
const PAUSE_MS = 700
const { found, problem, busy, guarded } = useJobPart(
  'explained',
  (path) => (api) => api.GET('/api/jobs/{job_id}/explained', { params: { path } }),
  PAUSE_MS,
)
const sides = computed(() => Object.entries(found.value?.toe ?? {}).filter(([, all]) => all.length))

const correct = () =>
  guarded(async () => {
    const body = { id: newId(), title: `Correction: ${store.job!.title}`.slice(0, 120) }
    const job = await ask((api) =>
      api.POST('/api/jobs/{job_id}/correction', {
        params: { path: { job_id: store.job!.id } },
        body,
      }),
    )
    await router.push({ name: 'order', params: { jobId: job.id } })
  })
</script>

<template>
  <BesideTable v-if="found?.readings.length" :readings="found.readings" />
  <section v-if="found?.heights.length" class="card stack" aria-label="What could explain it">
    <h3>What could explain it</h3>
    <ol class="grid gap-10px pl-24px m-0">
      <li v-for="one in found.heights" :key="one.words + one.where">
        <p>
          <b>{{ one.words }}</b> <span class="figure">{{ Math.round(one.share_pct) }}&nbsp;%</span>
          <span class="soft ml-8px">{{ one.where }}</span>
        </p>
        <p>Test, {{ one.minutes }} min: {{ one.test }}</p>
      </li>
    </ol>
  </section>
  <div v-if="sides.length" class="pair">
    <section
      v-for="[side, all] in sides"
      :key="side"
      class="card stack"
      :aria-label="`What could explain the toe, ${side.toLowerCase()}`"
    >
      <h3>What could explain the toe, {{ side.toLowerCase() }}</h3>
      <ol class="grid gap-10px pl-24px m-0">
        <li v-for="one in all" :key="one.words">
          <p>
            <b>{{ one.words }}</b>
            <span class="figure">{{ Math.round(one.share_pct) }}&nbsp;%</span>
          </p>
          <p>Test, {{ one.minutes }} min: {{ one.test }}</p>
        </li>
      </ol>
    </section>
  </div>
  <section v-if="found?.wanted.length" class="card stack" aria-label="Still wanted">
    <h3>Still wanted</h3>
    <ul class="grid gap-10px pl-24px m-0">
      <li v-for="one in found.wanted" :key="one">{{ one }}</li>
    </ul>
    <p class="soft">
      What is opened for it is closed, loaded and torqued again: a short work order says in which
      order.
    </p>
    <el-button :disabled="busy" @click="correct">Make the short work order</el-button>
  </section>
  <RefusalNote :said="problem" />
</template>

<style scoped>
.el-button {
  justify-self: start;
}
</style>
