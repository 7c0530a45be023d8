<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed, ref } from 'vue'
import { ask, newId } from '../api/client'
import { useJobPart } from '../composables/useJobPart'
import { useJob } from '../stores/job'

const store = useJob()
/** Left out by the tuner; all else is ticked. */
const left = ref(new Set<string>())
/** Refitting takes the server a while: asked once the reading has stopped. */
const PAUSE_MS = 700
const { found, problem, busy, guarded } = useJobPart(
  'lessons',
  (path) => (api) => api.GET('/api/jobs/{job_id}/lessons', { params: { path } }),
  PAUSE_MS,
)
const DECIDED = { open: '', taken: '✓ in the record', refused: '✕ refused' }
const lessons = computed(() => found.value?.lessons ?? [])
const open = computed(() => lessons.value.some((one) => one.decided === 'open'))
const ticked = computed(() =>
  lessons.value.map((one) => one.key).filter((key) => !left.value.has(key)),
)

const decide = (keys: string[]) =>
  guarded(async () => {
    found.value = await ask((api) =>
      api.POST('/api/jobs/{job_id}/lessons', {
        params: { path: { job_id: store.job!.id } },
        body: { id: newId(), keys },
      }),
    )
  })

function tick(key: string): void {
  const now = new Set(left.value)
  if (!now.delete(key)) now.add(key)
  left.value = now
}
</script>

<template>
  <section v-if="lessons.length" class="card stack scroll" aria-label="Learned">
    <h3>What the readings taught about this car</h3>
    <table class="sheet-table">
      <thead>
        <tr>
          <th></th>
          <th>Believed</th>
          <th>By the readings</th>
          <th>{{ open ? 'Take it' : 'Decided' }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in lessons" :key="one.key">
          <th>{{ one.label }}</th>
          <td class="figure">{{ one.before }}</td>
          <td class="figure">
            <b>{{ one.after }}</b>
          </td>
          <td>
            <el-checkbox
              v-if="one.decided === 'open' && found?.can_take"
              :model-value="!left.has(one.key)"
              :aria-label="`Take ${one.label}`"
              @change="tick(one.key)"
            />
            <span v-else :class="one.decided">{{ DECIDED[one.decided] }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!found?.can_take" class="soft">
      This job was started without a car's record, so there is nothing to write it to.
    </p>
    <template v-else-if="open">
      <div class="row">
        <el-button type="primary" :disabled="busy || !ticked.length" @click="decide(ticked)">
          Take what is ticked into the car's record
        </el-button>
        <el-button :disabled="busy" @click="decide([])">Refuse it all</el-button>
      </div>
      <p class="soft">
        The next job on this car starts from what is taken. New springs, dampers and holes go into
        the record with either.
      </p>
    </template>
    <p v-else class="soft">
      Taking it back is an undo in the car's record; then it can be decided again.
    </p>
    <RefusalNote :said="problem" />
  </section>
</template>

<style scoped>
.taken {
  color: var(--go);
}

.refused {
  color: var(--stop);
}
</style>
