<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { ask, type CarLine, type JobLine } from '../api/client'
import ImportCard from '../components/ImportCard.vue'
import JobList from '../components/JobList.vue'
import NewJob from '../components/NewJob.vue'
import { useGuarded } from '../composables/useGuarded'

const jobs = ref<JobLine[] | null>(null)
const cars = ref<CarLine[] | null>(null)
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
      <ImportCard @added="load" />
    </aside>
  </div>
</template>

<style scoped>
.head {
  justify-content: space-between;
}
</style>
