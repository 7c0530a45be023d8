<script setup lang="ts">
import FilePick from '../components/FilePick.vue'
import RefusalNote from '../components/RefusalNote.vue'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId, sending, type ExerciseView } from '../api/client'
import { useRead } from '../composables/useRead'
import { sayMoment } from '../composables/useWords'

const router = useRouter()
const {
  found: exercises,
  problem,
  busy,
  guarded,
} = useRead(['practice'], (api) => api.GET('/api/practice'))
const bare = ref(false)
const seed = ref(crypto.getRandomValues(new Uint16Array(1))[0] || 1)

/** Free practice: on a copy of one of the workshop's own cars. */
const OWN = 'own_car'
const { found: cars } = useRead(['cars'], (api) => api.GET('/api/cars'))
const car = ref('')
const work = ref<'align' | 'springs'>('align')
const WORK = [
  { key: 'align', words: 'Set toe and camber' },
  { key: 'springs', words: 'Fit its new springs, then toe and camber' },
]

const begin = (exercise: string) =>
  guarded(async () => {
    const own = exercise === OWN ? { car: car.value, work: work.value } : {}
    const body = { id: newId(), exercise, seed: seed.value, bare: bare.value, ...own }
    const begun = await ask((api) => api.POST('/api/practice', { body }))
    await router.push({ name: 'floor', params: { jobId: begun.job_id } })
  })

const fromFile = (picked: File) =>
  guarded(async () => {
    const sent = { params: { query: { id: newId() } }, ...sending(picked) }
    const begun = await ask((api) => api.POST('/api/practice/file', sent))
    await router.push({ name: 'floor', params: { jobId: begun.job_id } })
  })

const best = (one: ExerciseView) =>
  one.tries.reduce<number | null>(
    (found, now) => (now.score !== null && now.score > (found ?? -1) ? now.score : found),
    null,
  )
</script>

<template>
  <div class="stack">
    <h2>Practice bay</h2>
    <p class="max-w-60em text-18px">
      A car with a truth nobody told you. Work on it as on a real one; it is seen through gauges
      alone, and answers to what you do. At the end the debrief shows the truth.
    </p>
    <div class="row gap-24px">
      <el-checkbox v-model="bare" size="large">Bare: the rules only watch</el-checkbox>
      <label class="labelled w-180px">
        Number of the car
        <el-input-number v-model="seed" :min="1" :max="999999" controls-position="right" />
      </label>
      <FilePick
        label="An exercise from another workshop (file)"
        accept=".json,application/json"
        :disabled="busy"
        @picked="fromFile"
      />
    </div>
    <RefusalNote :said="problem" />
    <ol class="grid gap-10px bare-list">
      <li
        v-for="(one, place) in exercises"
        :key="one.key"
        class="card grid grid-cols-[44px_minmax(0,1fr)_auto] gap-14px lt-phone:grid-cols-[32px_minmax(0,1fr)]"
      >
        <b class="figure text-32px c-wait">{{ place + 1 }}</b>
        <div class="grid gap-4px">
          <h3>{{ one.title }}</h3>
          <div v-if="one.key === OWN" class="row">
            <el-select
              v-model="car"
              :persistent="false"
              placeholder="Which car"
              aria-label="Which car"
              class="max-w-320px"
            >
              <el-option v-for="own in cars ?? []" :key="own.id" :value="own.id" :label="own.car" />
            </el-select>
            <el-select
              v-model="work"
              :persistent="false"
              aria-label="What is done"
              class="max-w-320px"
            >
              <el-option v-for="way in WORK" :key="way.key" :value="way.key" :label="way.words" />
            </el-select>
          </div>
          <p v-else>{{ one.brief }}</p>
          <p class="soft">{{ one.learn }}</p>
          <ul v-if="one.tries.length" class="p-0 mt-4px mx-0 mb-0 list-none">
            <li
              v-for="now in one.tries.slice(0, 3)"
              :key="now.job_id"
              class="flex flex-wrap gap-8px"
            >
              <router-link
                :to="{
                  name: now.score === null ? 'floor' : 'debrief',
                  params: { jobId: now.job_id },
                }"
              >
                {{ now.score === null ? 'Go on' : `${now.score} of 100` }}
              </router-link>
              <span class="soft">
                {{ sayMoment(now.at) }}, car {{ now.seed }}{{ now.bare ? ', bare' : ''
                }}{{ now.by ? `, ${now.by}` : '' }}
              </span>
            </li>
          </ul>
        </div>
        <div
          class="grid gap-6px content-center justify-items-end lt-phone:[grid-column:2] lt-phone:justify-items-start"
        >
          <span class="soft">{{ one.minutes }} min</span>
          <b v-if="best(one) !== null" class="figure">best {{ best(one) }}</b>
          <el-button
            type="primary"
            size="large"
            :disabled="busy || (one.key === OWN && !car)"
            :aria-label="`Begin: ${one.title}`"
            @click="begin(one.key)"
          >
            Begin
          </el-button>
        </div>
      </li>
    </ol>
  </div>
</template>
