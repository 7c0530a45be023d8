<script setup lang="ts">
import 'element-plus/theme-chalk/el-table.css'
import NothingYet from '../components/NothingYet.vue'
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref, watch } from 'vue'
import HistoryCurve from '../components/HistoryCurve.vue'
import { useCarPart } from '../composables/useCarPart'
import { useRead } from '../composables/useRead'
import { useCar } from '../stores/car'
import { sayDay } from '../composables/useWords'

const store = useCar()
const { found: history, problem } = useCarPart(
  'history',
  (path) => (api) => api.GET('/api/cars/{car_id}/history', { params: { path } }),
)
const first = ref('')
const then = ref('')
const onlyChanged = ref(true)
const moments = computed(() => history.value?.moments ?? [])
const named = (key: string) => {
  const one = moments.value.find((each) => each.key === key)
  return one ? `${sayDay(one.at)}: ${one.title}, ${one.phase}` : ''
}
const { found: compared, problem: unlike } = useRead(
  () => ['cars', store.car!.id, 'compared'],
  (api) =>
    api.GET('/api/cars/{car_id}/history/compare', {
      params: {
        path: { car_id: store.car!.id },
        query: { first: first.value, then: then.value },
      },
    }),
  {
    version: () => `${first.value} ${then.value}`,
    when: () => first.value !== '' && then.value !== '',
  },
)
/** Taller ones scroll below their heads. */
const TALLEST = 560
/** What was read at any time, a line each; the notes of each time at the end. */
const lines = computed(() => [
  ...Object.entries(history.value?.rows ?? {}).map(([key, label]) => ({ key, label })),
  { key: '', label: 'Notes' },
])
const rows = computed(
  () => compared.value?.rows.filter((one) => one.differs || !onlyChanged.value) ?? [],
)

watch(
  history,
  () => {
    first.value ||= moments.value[0]?.key ?? ''
    then.value ||= moments.value.at(-1)?.key ?? ''
  },
  { immediate: true },
)
</script>

<template>
  <div class="stack">
    <h2>History</h2>
    <RefusalNote :said="problem || unlike" />
    <NothingYet
      v-if="history && !moments.length"
      said="Nothing was read on this car yet. A baseline begins its history."
    />
    <template v-if="moments.length">
      <div class="pair">
        <HistoryCurve title="Heights, mm" ending=".height" :moments="moments" />
        <HistoryCurve title="Toe, minutes" ending=".toe" :moments="moments" />
      </div>
      <section class="card stack" aria-label="Two set-ups side by side">
        <h3>Two set-ups side by side</h3>
        <div class="pair">
          <label class="labelled">
            From
            <el-select v-model="first" :persistent="false" aria-label="From">
              <el-option
                v-for="one in moments"
                :key="one.key"
                :value="one.key"
                :label="named(one.key)"
              />
            </el-select>
          </label>
          <label class="labelled">
            To
            <el-select v-model="then" :persistent="false" aria-label="To">
              <el-option
                v-for="one in moments"
                :key="one.key"
                :value="one.key"
                :label="named(one.key)"
              />
            </el-select>
          </label>
        </div>
        <el-checkbox v-model="onlyChanged">Only what changed</el-checkbox>
        <el-table
          v-if="compared"
          :data="rows"
          row-key="key"
          :max-height="TALLEST"
          scrollbar-always-on
          :scrollbar-tabindex="0"
          empty-text="Nothing changed by more than its ±."
        >
          <el-table-column prop="label" label="Reading" sortable fixed min-width="130" />
          <el-table-column prop="first" :label="named(first)" min-width="150" class-name="figure" />
          <el-table-column prop="then" :label="named(then)" min-width="150" class-name="figure" />
          <el-table-column label="Change" min-width="150" class-name="figure">
            <template #default="{ row }"> {{ row.differs ? '▲ ' : '' }}{{ row.change }} </template>
          </el-table-column>
        </el-table>
      </section>
      <section class="card stack" aria-label="Time line">
        <h3>Time line</h3>
        <el-table
          :data="lines"
          row-key="key"
          :max-height="TALLEST"
          scrollbar-always-on
          :scrollbar-tabindex="0"
        >
          <el-table-column prop="label" label="Reading" fixed min-width="130" />
          <el-table-column
            v-for="one in moments"
            :key="one.key"
            min-width="190"
            class-name="figure"
          >
            <template #header>
              {{ sayDay(one.at) }}<br />
              <router-link :to="{ name: 'record', params: { jobId: one.job_id } }">
                {{ one.title }} </router-link>, {{ one.phase }}
            </template>
            <template #default="{ row }">
              {{ row.key ? one.values[row.key]?.said : one.notes.join(' ') }}
            </template>
          </el-table-column>
        </el-table>
      </section>
    </template>
  </div>
</template>
