<script setup lang="ts">
import FoldAway from '../components/FoldAway.vue'
import { computed } from 'vue'
import { ask, type DebriefRow } from '../api/client'
import { useJobPart } from '../composables/useJobPart'
import { useJob } from '../stores/job'
import { saySigned } from '../composables/useWords'

const store = useJob()
const isOver = computed(
  () =>
    !!store.job?.signature ||
    store.job?.steps.some((step) => step.key === 'road' && step.state !== 'open'),
)
const { found, problem, guarded } = useJobPart(
  'practice/debrief',
  (path) => (api) => api.GET('/api/jobs/{job_id}/practice/debrief', { params: { path } }),
)
const show = () =>
  guarded(async () => {
    found.value = await ask((api) =>
      api.GET('/api/jobs/{job_id}/practice/debrief', {
        params: { path: { job_id: store.job!.id }, query: { give_up: true } },
      }),
    )
  })
const angles = computed(() => found.value?.rows.filter((row) => row.wanted !== null) ?? [])
const rowsOf = (what: string) => found.value?.rows.filter((row) => row.what === what) ?? []
const ASIDE = [
  { what: 'height', title: 'Heights' },
  { what: 'load', title: 'On each wheel' },
]
/** What made an end differ, in the words of the core, by the colour it is drawn in. */
const CAUSES = {
  reading: 'the reading',
  unsettled: 'read before it had settled',
  count: 'the count on the new end, and its length',
  foreseen: 'the height came out otherwise than foreseen',
  turns: 'turns, and what they were taken to do',
  unread: 'not read afterwards',
}
const hue = (cause: string) =>
  Object.entries(CAUSES).find(([, words]) => words === cause)?.[0] ?? 'turns'
const DIGITS: Record<string, number> = { '°': 2, '%': 1, mm: 0 }
const say = (row: DebriefRow, value: number) =>
  row.unit === '°'
    ? `${saySigned(value, 2)}°`
    : `${value.toFixed(DIGITS[row.unit] ?? 0)} ${row.unit}`
const sayOff = (row: DebriefRow, value: number) =>
  `${saySigned(value, DIGITS[row.unit] ?? 0)}${row.unit === '°' ? '' : ' '}${row.unit}`
</script>

<template>
  <section v-if="!isOver && !found" class="card stack">
    <h2>Debrief</h2>
    <p>It shows the truth once the car was driven, or the record is signed.</p>
    <div class="row">
      <el-button @click="show">Give up and show the truth</el-button>
    </div>
  </section>
  <el-alert v-else-if="problem && !found" type="error" :closable="false" role="alert">{{
    problem
  }}</el-alert>
  <div v-if="found" class="with-aside">
    <section class="stack">
      <h2>Debrief: {{ found.title }}</h2>
      <p class="text-18px">{{ found.learn }}</p>
      <el-alert v-if="found.pays_most" type="success" :closable="false" role="note">
        <span><b>What would have paid most:</b> {{ found.pays_most }}</span>
      </el-alert>
      <ul v-if="found.wound.length || found.faults.length" class="stack bare-list">
        <li v-for="one in [...found.wound, ...found.faults]" :key="one">
          <el-alert type="error" :closable="false" role="note">✕ {{ one }}</el-alert>
        </li>
      </ul>
      <ul v-if="found.shackles.length" class="stack bare-list">
        <li v-for="one in found.shackles" :key="one" class="text-18px">{{ one }}</li>
      </ul>
      <section class="card stack" aria-label="Where each angle ended">
        <h3>Where each angle ended, and where the miss came from</h3>
        <ul class="row bare-list">
          <li v-for="(words, drawn) in CAUSES" :key="drawn" class="flex gap-6px items-center">
            <i :class="drawn" class="w-18px h-12px" /> {{ words }}
          </li>
        </ul>
        <div
          v-for="row in angles"
          :key="`${row.where}${row.what}`"
          class="grid grid-cols-[minmax(150px,0.7fr)_minmax(0,1.6fr)] gap-y-2px gap-x-14px items-center py-6px px-0 ruled lt-phone:one-col"
        >
          <b>{{ row.where }}, {{ row.what }}</b>
          <span class="figure">
            {{ say(row, row.truth) }} true · {{ say(row, row.wanted!) }} wanted
            <template v-if="row.read !== null">· {{ say(row, row.read) }} read</template>
          </span>
          <div
            class="bar relative grid [grid-column:2] h-30px [background:linear-gradient(var(--soft),_var(--soft))_50%_0_/_2px_100%_no-repeat] lt-phone:[grid-row:auto] lt-phone:[grid-column:1]"
            role="img"
            :aria-label="`off by ${sayOff(row, row.off)}: ${row.shares
              .map((share) => `${share.cause} ${sayOff(row, share.value)}`)
              .join(', ')}`"
          >
            <span
              v-for="share in row.shares"
              :key="share.cause"
              :class="[hue(share.cause), share.value < 0 ? 'minus' : 'plus']"
              :style="{ '--long': share.drawn }"
              class="share absolute top-3px h-7px"
            />
            <em
              :style="{ '--off': row.drawn }"
              class="end absolute top-0 w-4px h-full [margin-left:-2px] bg-ink"
            />
          </div>
          <span class="figure [grid-row:2] lt-phone:[grid-row:auto] lt-phone:[grid-column:1]">{{
            sayOff(row, row.off)
          }}</span>
        </div>
      </section>
    </section>
    <aside class="stack">
      <section class="card stack" aria-label="Score">
        <template v-if="found.score !== null">
          <b class="figure text-72px [line-height:1]">{{ found.score }}</b>
          <span class="soft">of 100</span>
        </template>
        <span v-else class="soft">Given up: no score.</span>
        <p>
          {{ Math.round(found.minutes_taken) }} min taken, {{ found.minutes_given }} given. Steering
          wheel {{ saySigned(found.steering_before, 1) }}° before,
          {{ saySigned(found.steering_after, 1) }}° after.
        </p>
        <p v-if="found.wrench">{{ found.wrench }}</p>
        <FoldAway title="How it is counted">
          <p class="soft">{{ found.rule }}</p>
        </FoldAway>
      </section>
      <section v-for="one in ASIDE" :key="one.what" class="card stack" :aria-label="one.title">
        <h3>{{ one.title }}</h3>
        <p v-for="row in rowsOf(one.what)" :key="row.where">
          {{ row.where }} <b class="figure">{{ row.truth.toFixed(0) }} {{ row.unit }}</b>
          <template v-if="row.read !== null">, read {{ row.read.toFixed(0) }}</template>
        </p>
      </section>
      <a :href="`/api/jobs/${store.job?.id}/practice/exercise.json`" download
        >This exercise as a file, for another workshop</a
      >
      <router-link :to="{ name: 'practice' }">All exercises</router-link>
    </aside>
  </div>
</template>

<style scoped>
.bar span:nth-child(2) {
  top: 11px;
}

.bar span:nth-child(3) {
  top: 19px;
}

/* What fills half the bar is half a degree, 15 mm, 3 %. */
.share {
  width: min(50%, calc(var(--long) * 100%));
}

.end {
  left: clamp(0%, calc(50% + var(--off) * 100%), 100%);
}

.plus {
  left: 50%;
}

.minus {
  right: 50%;
}

.reading {
  background: var(--brass);
}

.unsettled {
  background: var(--stop);
}

.turns {
  background: var(--go);
}

.unread {
  background: var(--soft);
}

.count {
  background: var(--wait);
}

.foreseen {
  background: var(--ink);
}
</style>
