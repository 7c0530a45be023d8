<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref, watch } from 'vue'
import HistoryCurve from '../components/HistoryCurve.vue'
import { useCarPart } from '../composables/useCarPart'
import { useRead } from '../composables/useRead'
import { useCar } from '../stores/car'

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
  return one ? `${one.at.slice(0, 10)} ${one.title}, ${one.phase}` : ''
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
    <p v-if="history && !moments.length" class="card">
      Nothing was read on this car yet. A baseline begins its history.
    </p>
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
            <el-select v-model="first" aria-label="From">
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
            <el-select v-model="then" aria-label="To">
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
        <div v-if="compared" class="scroll">
          <table class="sheet-table">
            <thead>
              <tr>
                <th></th>
                <th>{{ compared.first }}</th>
                <th>{{ compared.then }}</th>
                <th>Change</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in rows" :key="one.key">
                <th>{{ one.label }}</th>
                <td class="figure">{{ one.first }}</td>
                <td class="figure">{{ one.then }}</td>
                <td class="figure">{{ one.differs ? '▲ ' : '' }}{{ one.change }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="!rows.length" class="soft">Nothing changed by more than its ±.</p>
        </div>
      </section>
      <section class="card stack scroll" aria-label="Time line">
        <h3>Time line</h3>
        <table class="sheet-table">
          <thead>
            <tr>
              <th></th>
              <th v-for="one in moments" :key="one.key">
                {{ one.at.slice(0, 10) }}<br />
                <router-link :to="{ name: 'record', params: { jobId: one.job_id } }">
                  {{ one.title }} </router-link>, {{ one.phase }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(label, key) in history!.rows" :key="key">
              <th>{{ label }}</th>
              <td v-for="one in moments" :key="one.key" class="figure">
                {{ one.values[key]?.said }}
              </td>
            </tr>
            <tr>
              <th>Notes</th>
              <td v-for="one in moments" :key="one.key">{{ one.notes.join(' ') }}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </template>
  </div>
</template>
