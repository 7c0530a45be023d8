<script setup lang="ts">
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
  <section v-if="bay" class="practice" aria-label="Practice">
    <div class="row">
      <b class="figure mark">Practice</b>
      <el-button
        type="primary"
        size="large"
        :disabled="busy || !bay.readable || !!store.job?.signature"
        @click="readAll"
      >
        {{ bay.readable ? `Read with the bay’s gauges: ${bay.readable}` : 'All is read' }}
      </el-button>
      <router-link :to="{ name: 'debrief' }" class="out">Debrief</router-link>
      <router-link :to="{ name: 'practice' }" class="out">All exercises</router-link>
    </div>
    <el-collapse
      ><el-collapse-item name="it" title="What it is about, and the car in the bay">
        <p>{{ bay.brief }}</p>
        <p v-if="bay.bare" class="soft">
          The rules only watch: nothing is refused, and the debrief says what would have been.
        </p>
        <BayDrawing :bay="bay" />
        <template v-if="bay.paper">
          <h3>The paper on the bench</h3>
          <pre>{{ bay.paper }}</pre>
        </template>
      </el-collapse-item></el-collapse
    >
    <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
  </section>
</template>

<style scoped>
.practice {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
  margin-bottom: 14px;
  background: repeating-linear-gradient(-45deg, var(--wait-wash) 0 14px, var(--card) 14px 28px);
  border: 2px dashed var(--wait);
  border-radius: var(--radius);
}

.mark {
  padding: 2px 10px;
  font-size: 20px;
  color: var(--card);
  background: var(--wait);
  border-radius: var(--radius);
}

.out {
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 10px;
  background: var(--card);
}

.el-collapse {
  padding: 0 10px;
  background: var(--card);
}

pre {
  font: inherit;
  white-space: pre-wrap;
}
</style>
