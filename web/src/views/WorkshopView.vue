<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { cache } from '../api/cache'
import { ask } from '../api/client'
import BoardCar from '../components/BoardCar.vue'
import DueCard from '../components/DueCard.vue'
import JobList from '../components/JobList.vue'
import { useBoard } from '../composables/useBoard'
import { useRead } from '../composables/useRead'
import { ElButton, ElInput, firstScreenStands, isShown, later } from '../parts/later'
import { useMe } from '../stores/me'

const NewJob = later(() => import('../components/NewJob.vue'))
const ImportCard = later(() => import('../components/ImportCard.vue'))

const me = useMe()
const router = useRouter()
const sought = ref('')
const search = computed(() => sought.value.trim())
const { found: board, problem, busy, guarded, again } = useBoard()
watch(
  () => Boolean(board.value || problem.value),
  (stands) => stands && isShown(),
  { flush: 'post', immediate: true },
)
const FIRST_SCREEN = 3
const lines = computed(() =>
  firstScreenStands.value ? board.value?.lines : board.value?.lines.slice(0, FIRST_SCREEN),
)
const { found: cars } = useRead(['cars'], (api) => api.GET('/api/cars'), {
  when: firstScreenStands,
})
const { found: jobs, again: findAgain } = useRead(
  ['jobs'],
  (api) => api.GET('/api/jobs', { params: { query: { search: search.value } } }),
  { version: search, when: firstScreenStands },
)

async function load(): Promise<void> {
  await Promise.all([again(), findAgain()])
}

const tryDemo = () =>
  guarded(async () => {
    await ask((api) => api.POST('/api/demo'))
    await cache.invalidateQueries()
    await router.push({ name: 'workshop' })
  })
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <div class="row justify-between">
        <h2>In work</h2>
        <a
          href="#new-job"
          class="hidden lt-phone:grid lt-phone:place-items-center lt-phone:min-h-44px"
          >New job ↓</a
        >
      </div>
      <template v-if="board">
        <BoardCar v-for="line in lines" :key="line.id" :line="line" />
        <p v-if="board.more" class="soft">and {{ board.more }} more in the list below</p>
        <div
          v-if="!board.lines.length && jobs && !jobs.length && !sought"
          class="card stack text-18px"
        >
          <p>
            <b>1.</b> Start a job: the car’s name is enough.<br />
            <b>2.</b> Say what is fitted: steps, tools and what to read follow from it.<br />
            <b>3.</b> Work by it under the car, step by step, to the signed record.
          </p>
          <div v-if="me.mayAll" class="row">
            <el-button :disabled="busy" @click="tryDemo">Look round a sample workshop</el-button>
            <router-link :to="{ name: 'practice' }"
              >Practise on a car with a hidden truth</router-link
            >
          </div>
        </div>
        <p v-else-if="!board.lines.length && jobs" class="card">No car is in work.</p>
      </template>
      <RefusalNote :said="problem" />
      <template v-if="firstScreenStands && (jobs?.length || sought)">
        <div class="row justify-between">
          <h3>Every job</h3>
          <el-input
            v-model="sought"
            type="search"
            placeholder="Job or car"
            aria-label="Find a job"
          />
        </div>
        <JobList v-if="jobs?.length" :jobs="jobs" />
        <p v-else class="card">No job holds these words.</p>
      </template>
    </section>
    <aside class="stack">
      <NewJob v-if="cars" id="new-job" :cars="cars" />
      <DueCard v-if="board && firstScreenStands" :board="board" />
      <ImportCard @added="load" />
    </aside>
  </div>
</template>
