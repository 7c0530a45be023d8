<script setup lang="ts">
import 'element-plus/theme-chalk/el-timeline.css'
import 'element-plus/theme-chalk/el-timeline-item.css'
import FoldAway from '../components/FoldAway.vue'
import { computed } from 'vue'
import FindingList from '../components/FindingList.vue'
import RecordFiles from '../components/RecordFiles.vue'
import RecordSheet from '../components/RecordSheet.vue'
import RecordTables from '../components/RecordTables.vue'
import SitsTable from '../components/SitsTable.vue'
import SignOff from '../components/SignOff.vue'
import { useJobPart } from '../composables/useJobPart'
import { useRecord } from '../composables/useRecord'
import { sayMoment } from '../composables/useWords'
import { useJob } from '../stores/job'

const store = useJob()
const job = computed(() => store.job!)
const { found: record } = useRecord()
const { found: log } = useJobPart(
  'log',
  (path) => (api) => api.GET('/api/jobs/{job_id}/log', { params: { path } }),
)
const base = computed(() => `/api/jobs/${job.value.id}`)

function print(): void {
  window.print()
}
</script>

<template>
  <div class="grid one-col gap-14px">
    <header class="flex flex-wrap gap-10px justify-between">
      <div>
        <h2>{{ job.car }}</h2>
        <p>{{ job.title }} · begun {{ sayMoment(job.created_at) }}</p>
      </div>
      <div class="row screen-only">
        <el-button @click="print">Print</el-button>
      </div>
    </header>
    <SignOff />
    <section v-if="record && !job.signature" class="grid one-col gap-14px">
      <FindingList :findings="record.findings" />
    </section>
    <section class="card grid one-col gap-14px">
      <RecordSheet />
      <SitsTable v-if="job.pages.includes('springs')" />
      <RecordTables />
      <div v-if="job.pictures.length" class="row">
        <a
          v-for="one in job.pictures"
          :key="one.subject + one.sha256"
          :href="`${base}/pictures/${one.sha256}`"
          target="_blank"
          ><img :src="`${base}/pictures/${one.sha256}`" :alt="one.name" height="96"
        /></a>
      </div>
      <p v-for="note in job.notes" :key="note.at">✎ {{ note.text }}</p>
      <el-alert
        v-for="one in job.overrides"
        :key="one.at"
        type="error"
        :closable="false"
        role="note"
      >
        Override, {{ sayMoment(one.at) }}: {{ one.places.join(', ') }}. {{ one.reason }}
      </el-alert>
      <p class="soft">
        The vehicle maker's service data outranks this sheet. Counted turns bring the car to the
        alignment rack, they do not replace it. ± is stated with coverage factor 2.
      </p>
    </section>
    <RecordFiles />
    <FoldAway class="card screen-only" :title="`Floor log, ${log?.length ?? 0} entries`">
      <el-timeline>
        <el-timeline-item
          v-for="line in log"
          :key="line.id"
          :timestamp="`${line.seq} · ${sayMoment(line.at)}${line.by ? `, ${line.by}` : ''}`"
          placement="top"
          :hollow="line.undone"
          type="primary"
        >
          <span :class="{ undone: line.undone }">{{ line.said }}</span>
          <span v-if="line.undone"> (undone)</span>
        </el-timeline-item>
      </el-timeline>
    </FoldAway>
  </div>
</template>

<style scoped>
.undone {
  text-decoration: line-through;
}
</style>
