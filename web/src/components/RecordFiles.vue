<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useJob } from '../stores/job'

const store = useJob()
const router = useRouter()
const { problem, busy, guarded } = useGuarded()
const job = computed(() => store.job!)
const leaving = ref(false)

const again = () =>
  guarded(async () => {
    const body = { id: newId(), title: `${job.value.title}, again`.slice(0, 120) }
    const made = await ask((api) =>
      api.POST('/api/jobs/{job_id}/again', { params: { path: { job_id: store.job!.id } }, body }),
    )
    await router.push({ name: made.pages[0] ?? 'floor', params: { jobId: made.id } })
  })

const takeAway = () =>
  guarded(async () => {
    await ask((api) =>
      api.DELETE('/api/jobs/{job_id}', {
        params: { path: { job_id: store.job!.id }, query: { seen: job.value.version } },
      }),
    )
    await router.push({ name: 'workshop' })
  })
</script>

<template>
  <section class="card stack screen-only" aria-label="Files, and what comes after">
    <h3>Files, and what comes after</h3>
    <div class="row">
      <a
        :href="`${store.path}/record.pdf`"
        target="_blank"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >Record (PDF)</a
      >
      <a
        :href="`${store.path}/customer.pdf`"
        target="_blank"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >One page for the customer (PDF)</a
      >
      <a
        :href="`${store.path}/job.json`"
        :download="`${job.id}.job.json`"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >Job file (JSON)</a
      >
      <a
        :href="`${store.path}/job.zip`"
        :download="`${job.id}.job.zip`"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >With its pictures (ZIP)</a
      >
      <a
        :href="`${store.path}/readings.csv`"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >Readings (CSV)</a
      >
      <a
        :href="`${store.path}/tightenings.csv`"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >Tightenings (CSV)</a
      >
      <a
        :href="`${store.path}/recheck.ics`"
        class="grid place-items-center min-h-44px py-0 px-6px font-600"
        >Checked again (calendar)</a
      >
    </div>
    <div class="row">
      <el-button :disabled="busy" @click="again">New job from this one</el-button>
      <el-button :disabled="busy" @click="leaving = !leaving">Take this job away…</el-button>
    </div>
    <el-alert v-if="leaving" type="error" :closable="false" role="note">
      <div class="stack">
        <span>
          The job and its log leave this workshop. A job file brings it back as it was; save one
          first.
        </span>
        <div class="row">
          <el-button type="danger" :disabled="busy" @click="takeAway">Take it away</el-button>
          <el-button @click="leaving = false">Keep it</el-button>
        </div>
      </div>
    </el-alert>
    <RefusalNote :said="problem" />
  </section>
</template>
