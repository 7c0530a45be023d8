<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import DayLines from '../components/DayLines.vue'
import { useRead } from '../composables/useRead'

const SORTS: Record<string, string> = {
  buy: 'To buy',
  chemical: 'Chemicals',
  tool: 'Tools',
  book: 'To book',
  leftover: 'Left over on purpose',
}
const from = ref(nextMorning())
const wanted = ref<number>()
const { found: day, problem } = useRead(
  ['board', 'day'],
  (api) => {
    const query = { begin: from.value.toISOString(), people: wanted.value ?? null }
    return api.GET('/api/board/day', { params: { query } })
  },
  { version: () => `${from.value.toISOString()} ${wanted.value}` },
)
const people = computed({
  get: () => wanted.value ?? day.value?.people,
  set: (now) => (wanted.value = now),
})
const { found: needs } = useRead(['board', 'needs'], (api) => api.GET('/api/board/needs'))
const sorts = computed(() => [...new Set(needs.value?.map((one) => one.sort))])

function nextMorning(): Date {
  const at = new Date()
  at.setMinutes(0, 0, 0)
  at.setHours(9)
  return at
}
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <h2>The day</h2>
      <div class="row">
        <label class="labelled">
          Work begins
          <el-date-picker v-model="from" type="datetime" :clearable="false" format="D MMM, HH:mm" />
        </label>
        <label class="labelled">
          Pairs of hands
          <el-input-number v-model="people" :min="1" :max="12" />
        </label>
      </div>
      <RefusalNote :said="problem" />
      <template v-if="day">
        <el-alert type="success" :closable="false" role="status">{{ day.said }}</el-alert>
        <ul class="row gap-6px bare-list flex" aria-label="What the lines mean">
          <li class="flex gap-6px items-center">
            <i class="on_wheels inline-block w-26px h-12px bg-go" /> on its wheels
          </li>
          <li class="flex gap-6px items-center">
            <i class="inline-block w-26px h-16px bg-brass" /> carried at one corner
          </li>
          <li class="flex gap-6px items-center">
            <i class="inline-block w-26px h-20px bg-band" /> hanging
          </li>
        </ul>
        <div class="scroll card stack"><DayLines :day="day" /></div>
        <p class="soft">
          {{
            day.exact
              ? 'Every order of the cars was tried.'
              : 'The longest jobs were placed first; another order may be a little shorter.'
          }}
          Lift, jacks and hands stand under Ways of working. Times are the middle of each step’s
          range; nine hours make a day.
        </p>
      </template>
    </section>
    <aside class="stack">
      <section class="card stack" aria-label="For every car in work">
        <h3>For every car in work</h3>
        <a href="/api/board/needs.csv" download="needs.csv">As a table (CSV)</a>
        <div v-for="sort in sorts" :key="sort">
          <h4 class="m-0 text-16px">{{ SORTS[sort] ?? sort }}</h4>
          <ul class="grid gap-6px bare-list">
            <li
              v-for="one in needs?.filter((need) => need.sort === sort)"
              :key="one.name"
              class="grid"
            >
              <span
                ><b v-if="one.count > 1">{{ one.count }} × </b>{{ one.name }}</span
              >
              <span class="soft">{{ one.cars.join(', ') }}</span>
            </li>
          </ul>
        </div>
        <p v-if="!needs?.length" class="soft">No plan asks for anything yet.</p>
      </section>
    </aside>
  </div>
</template>
