<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FilePick from './FilePick.vue'
import { ref } from 'vue'
import { ask, newId, sending, type ReadingsPreview } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useJob } from '../stores/job'

const store = useJob()
const open = ref(false)
const file = ref<File | null>(null)
const preview = ref<ReadingsPreview | null>(null)
const { problem, guarded } = useGuarded()
let key = newId()

async function bring(apply: boolean): Promise<void> {
  if (!file.value || !store.job) return
  const path = { job_id: store.job.id }
  const query = { key, seen: store.job.version, apply }
  const told = { params: { path, query }, ...sending(file.value) }
  const taken = await guarded(async () => {
    preview.value = await ask((api) => api.POST('/api/jobs/{job_id}/readings.csv', told))
    if (!apply) return
    await store.look()
    open.value = false
  })
  if (!taken && !apply) preview.value = null
}

function choose(picked: File): void {
  file.value = picked
  key = newId()
  open.value = true
  void bring(false)
}
</script>

<template>
  <span class="flex flex-wrap gap-y-0 gap-x-18px">
    <a
      :href="`${store.path}/readings.csv`"
      download="readings.csv"
      class="grid place-items-center min-h-44px font-600 c-go"
      >Readings as CSV</a
    >
    <FilePick label="Readings from a CSV file" accept=".csv,text/csv" @picked="choose" />
  </span>
  <el-dialog v-model="open" title="What the file would fill in" width="720" append-to-body>
    <RefusalNote :said="problem" />
    <table v-if="preview" class="sheet-table">
      <thead>
        <tr>
          <th>Line</th>
          <th>Reading</th>
          <th>Is taken as</th>
          <th>Replaces</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in preview.readings" :key="one.key">
          <td>{{ one.line }}</td>
          <td>{{ one.label }}</td>
          <td>
            <span v-if="one.problem" class="font-600 c-stop">✕ {{ one.problem }}</span>
            <template v-else>{{ one.understood }}</template>
          </td>
          <td class="soft">{{ one.replaces }}</td>
        </tr>
      </tbody>
    </table>
    <div class="row">
      <el-button
        type="primary"
        :disabled="!preview?.readings.length || !!preview.problems"
        @click="bring(true)"
      >
        Take all {{ preview?.readings.length ?? '' }}
      </el-button>
      <el-button @click="open = false">Leave it</el-button>
      <span v-if="preview?.problems" class="font-600 c-stop">
        {{ preview.problems }} cannot be taken; mend the file, then choose it again.
      </span>
    </div>
  </el-dialog>
</template>
