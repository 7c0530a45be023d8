<script setup lang="ts">
import 'element-plus/theme-chalk/el-table.css'
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
    <el-table
      v-if="preview"
      :data="preview.readings"
      row-key="key"
      max-height="50vh"
      scrollbar-always-on
      :scrollbar-tabindex="0"
    >
      <el-table-column prop="line" label="Line" width="80" class-name="figure" />
      <el-table-column prop="label" label="Reading" min-width="190" />
      <el-table-column label="Is taken as" min-width="170">
        <template #default="{ row }">
          <span v-if="row.problem" class="font-600 c-stop">✕ {{ row.problem }}</span>
          <template v-else>{{ row.understood }}</template>
        </template>
      </el-table-column>
      <el-table-column prop="replaces" label="Replaces" min-width="130" class-name="soft" />
    </el-table>
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
