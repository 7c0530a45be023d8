<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import {
  ask,
  newId,
  Offline,
  Refusal,
  sendFile,
  type ImportView,
  type JobLine,
} from '../api/client'
import JobList from '../components/JobList.vue'

const router = useRouter()
const jobs = ref<JobLine[] | null>(null)
const title = ref('')
const car = ref('')
const problem = ref('')
const file = ref<File | null>(null)
const preview = ref<ImportView | null>(null)

async function guarded(work: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await work()
  } catch (error) {
    if (!(error instanceof Refusal || error instanceof Offline)) throw error
    problem.value = error.message
  }
}

const load = () =>
  guarded(async () => {
    jobs.value = await ask((api) => api.GET('/api/jobs'))
  })

const start = () =>
  guarded(async () => {
    if (!title.value.trim() || !car.value.trim()) {
      problem.value = 'Say what the job is and which car it is for.'
      return
    }
    const body = { id: newId(), title: title.value.trim(), car: car.value.trim() }
    const job = await ask((api) => api.POST('/api/jobs', { body }))
    await router.push({ name: 'baseline', params: { jobId: job.id } })
  })

const choose = (event: Event) =>
  guarded(async () => {
    const input = event.target as HTMLInputElement
    file.value = input.files?.[0] ?? null
    preview.value = null
    input.value = ''
    if (file.value) preview.value = await sendFile(file.value, false)
  })

const bringIn = () =>
  guarded(async () => {
    if (!file.value) return
    preview.value = await sendFile(file.value, true)
    await load()
  })

onMounted(load)
</script>

<template>
  <header class="band">
    <div class="band-inner">
      <img src="/mark.svg" alt="" width="40" height="40" />
      <div>
        <h1>Fair Spindle</h1>
        <p>Springs, rods and bushings: planned, counted, clamped at height, on record.</p>
      </div>
    </div>
  </header>
  <main class="sheet workshop">
    <section>
      <h2>Jobs</h2>
      <JobList v-if="jobs?.length" :jobs="jobs" />
      <p v-else-if="jobs" class="card">
        No job yet. Start one at the right: it takes a name and a car, then the baseline.
      </p>
      <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
    </section>
    <aside>
      <form class="card" @submit.prevent="start">
        <h3>New job</h3>
        <p class="soft">Front springs and tie-rod ends, strut axle.</p>
        <label>What is done <input v-model="title" class="box" maxlength="120" /></label>
        <label>Car <input v-model="car" class="box" maxlength="120" /></label>
        <el-button type="primary" native-type="submit">Start the job</el-button>
      </form>
      <div class="card">
        <h3>Bring in a job file</h3>
        <label>
          Job file (JSON)
          <input type="file" accept=".json,application/json" class="box" @change="choose" />
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
  </main>
</template>

<style scoped>
.band {
  background: var(--band);
  color: var(--chalk);
}

.band-inner {
  display: flex;
  gap: 16px;
  align-items: center;
  max-width: 1240px;
  margin: 0 auto;
  padding: 18px 20px;
}

.band h1 {
  font-size: 32px;
}

.band p {
  color: var(--chalk-soft);
}

.workshop {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  gap: 24px;
}

section,
aside {
  display: grid;
  gap: 14px;
  align-content: start;
}

.card {
  display: grid;
  gap: 12px;
}

label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}

label .box {
  width: 100%;
  font-weight: 400;
}

@media (width <= 900px) {
  .workshop {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
