<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { ask, send, type CarLine, type ImportView, type JobLine } from '../api/client'
import JobList from '../components/JobList.vue'
import NewJob from '../components/NewJob.vue'
import { useGuarded } from '../composables/useGuarded'

const jobs = ref<JobLine[] | null>(null)
const cars = ref<CarLine[] | null>(null)
const file = ref<File | null>(null)
const preview = ref<ImportView | null>(null)
const { problem, guarded } = useGuarded()

const sought = ref('')
let asked = 0

async function find(): Promise<void> {
  const own = ++asked
  const query = { search: sought.value.trim() }
  const found = await ask((api) => api.GET('/api/jobs', { params: { query } }))
  if (own === asked) jobs.value = found
}

watch(sought, () => guarded(find))

const load = () =>
  guarded(async () => {
    await find()
    cars.value = await ask((api) => api.GET('/api/cars'))
  })

const bring = (apply: boolean) =>
  send<ImportView>('POST', `/api/jobs/import?apply=${apply}`, file.value!)

const choose = (event: Event) =>
  guarded(async () => {
    const input = event.target as HTMLInputElement
    file.value = input.files?.[0] ?? null
    preview.value = null
    input.value = ''
    if (file.value) preview.value = await bring(false)
  })

const bringIn = () =>
  guarded(async () => {
    if (!file.value) return
    preview.value = await bring(true)
    await load()
  })

onMounted(load)
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <div class="row head">
        <h2>Jobs</h2>
        <input
          v-model="sought"
          class="box"
          type="search"
          placeholder="Job or car"
          aria-label="Find a job"
        />
      </div>
      <JobList v-if="jobs?.length" :jobs="jobs" />
      <p v-else-if="jobs && sought" class="card">No job holds these words.</p>
      <p v-else-if="jobs" class="card">
        No job yet. Start one here: it takes a name and a car, then the baseline.
      </p>
      <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    </section>
    <aside class="stack">
      <NewJob v-if="cars" :cars="cars" />
      <div class="card stack">
        <h3>Bring in a job file</h3>
        <label class="labelled">
          Job file (JSON or ZIP)
          <input type="file" accept=".json,.zip,application/json" class="box" @change="choose" />
        </label>
        <template v-if="preview">
          <p class="notice go" role="status">
            <span>
              <b>{{ preview.title }}</b>, {{ preview.car }}: {{ preview.entries }} entries.
              {{ preview.said }}
            </span>
          </p>
          <el-button
            v-if="preview.outcome === 'new' && !preview.applied"
            type="primary"
            @click="bringIn"
          >
            Add this job
          </el-button>
        </template>
      </div>
    </aside>
  </div>
</template>

<style scoped>
.head {
  justify-content: space-between;
}
</style>
