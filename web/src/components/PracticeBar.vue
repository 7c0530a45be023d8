<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { ask, newId } from '../api/client'
import { connection } from '../api/connection'
import { useGuarded } from '../composables/useGuarded'
import { useJobPart } from '../composables/useJobPart'
import { useJob } from '../stores/job'
import BayDrawing from './BayDrawing.vue'

/** On every page of a practice job: that it is one, what it is about, its gauges, the way to the debrief. */
const store = useJob()
const { found: bay } = useJobPart(
  'practice',
  (path) => (api) => api.GET('/api/jobs/{job_id}/practice', { params: { path } }),
)
const { problem, busy, guarded } = useGuarded()

const readAll = () =>
  guarded(async () => {
    const path = { job_id: store.job!.id }
    const body = { id: newId(), keys: [], by: connection.person }
    await ask((api) => api.POST('/api/jobs/{job_id}/practice/read', { params: { path }, body }))
    await store.look()
  })
</script>

<template>
  <section
    v-if="bay"
    class="grid gap-8px py-12px px-16px mb-14px [background:repeating-linear-gradient(-45deg,_var(--wait-wash)_0_14px,_var(--card)_14px_28px)] b-2px b-dashed b-wait rounded"
    aria-label="Practice"
  >
    <div class="row">
      <b class="figure py-2px px-10px text-20px c-card bg-wait rounded">Practice</b>
      <el-button
        type="primary"
        size="large"
        :disabled="busy || !bay.readable || !!store.job?.signature"
        @click="readAll"
      >
        {{ bay.readable ? `Read with the bay’s gauges: ${bay.readable}` : 'All is read' }}
      </el-button>
      <router-link
        :to="{ name: 'debrief' }"
        class="grid place-items-center min-h-44px py-0 px-10px bg-card"
        >Debrief</router-link
      >
      <router-link
        :to="{ name: 'practice' }"
        class="grid place-items-center min-h-44px py-0 px-10px bg-card"
        >All exercises</router-link
      >
    </div>
    <FoldAway title="What it is about, and the car in the bay">
      <p>{{ bay.brief }}</p>
      <p v-if="bay.bare" class="soft">
        The rules only watch: nothing is refused, and the debrief says what would have been.
      </p>
      <BayDrawing :bay="bay" />
      <template v-if="bay.paper">
        <h3>The paper on the bench</h3>
        <pre class="[font:inherit] [white-space:pre-wrap]">{{ bay.paper }}</pre>
      </template>
    </FoldAway>
    <RefusalNote :said="problem" />
  </section>
</template>

<style scoped>
.el-collapse {
  padding: 0 10px;
  background: var(--card);
}
</style>
