<script setup lang="ts">
import { onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ask, type BoardView, type CarLine, type JobLine } from '../api/client'
import BoardCar from '../components/BoardCar.vue'
import DueCard from '../components/DueCard.vue'
import ImportCard from '../components/ImportCard.vue'
import JobList from '../components/JobList.vue'
import NewJob from '../components/NewJob.vue'
import { useGuarded } from '../composables/useGuarded'
import { useMe } from '../stores/me'

const me = useMe()
const router = useRouter()
const board = shallowRef<BoardView | null>(null)
const jobs = ref<JobLine[] | null>(null)
const cars = ref<CarLine[] | null>(null)
const { problem, busy, guarded } = useGuarded()

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
    board.value = await ask((api) => api.GET('/api/board'))
    await find()
    cars.value = await ask((api) => api.GET('/api/cars'))
  })

const tryDemo = () =>
  guarded(async () => {
    await ask((api) => api.POST('/api/demo'))
    await load()
    await router.push({ name: 'workshop' })
  })

onMounted(load)
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <div class="row head">
        <h2>In work</h2>
        <a href="#new-job" class="down">New job ↓</a>
      </div>
      <template v-if="board">
        <BoardCar v-for="line in board.lines" :key="line.id" :line="line" />
        <p v-if="board.more" class="soft">and {{ board.more }} more in the list below</p>
        <div v-if="!board.lines.length && !jobs?.length && !sought" class="card stack first">
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
        <p v-else-if="!board.lines.length" class="card">No car is in work.</p>
      </template>
      <el-alert v-if="problem" type="error" :closable="false" role="alert">{{ problem }}</el-alert>
      <template v-if="jobs?.length || sought">
        <div class="row head">
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
      <DueCard v-if="board" :board="board" />
      <ImportCard @added="load" />
    </aside>
  </div>
</template>

<style scoped>
.head {
  justify-content: space-between;
}

.down {
  display: none;
}

@media (width <= 760px) {
  .down {
    display: grid;
    place-items: center;
    min-height: 44px;
  }
}

.first {
  font-size: 18px;
}
</style>
