<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import { ask, newId, type TorqueListView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useJobPart } from '../composables/useJobPart'
import { useChoices } from '../stores/choices'
import { useJob } from '../stores/job'

/** A torque list pasted as it is: each row is matched to a place, or asked about. */
const emit = defineEmits<{ show: [joint: string]; done: [] }>()
const store = useJob()
const { choices } = storeToRefs(useChoices())
const { problem, busy, guarded } = useGuarded()
const text = ref('')
const unit = ref('nm')
const source = ref('')
const read = ref<TorqueListView | null>(null)
/** The place of each line, as its joints' keys in one string; empty where it is left out. */
const chosen = ref<Record<number, string>>({})
const known = computed(() => {
  const places = read.value?.places.map((one) => ({ value: one.joints.join(' '), ...one })) ?? []
  const own = read.value?.rows.filter((one) => one.joints.length).map((one) => one.joints) ?? []
  const single = own
    .filter((keys) => !places.some((one) => one.value === keys.join(' ')))
    .map((keys) => ({
      value: keys.join(' '),
      joints: keys,
      label: `${places.find((one) => keys.every((key) => one.joints.includes(key)))?.label}, one side`,
    }))
  return [...places, ...single]
})
const count = computed(() => Object.values(chosen.value).filter(Boolean).length)

const { found: own } = useJobPart(
  'torque-list',
  (path) => (api) => api.GET('/api/jobs/{job_id}/torque-list', { params: { path } }),
)

/** What the car's record lists, read as any other list. */
function takeOwn(): void {
  text.value = own.value!.text
  source.value = own.value!.source
  void look()
}

const look = () =>
  guarded(async () => {
    const body = { text: text.value, unit: unit.value }
    const found = await ask((api) =>
      api.POST('/api/jobs/{job_id}/torque-list', {
        params: { path: { job_id: store.job!.id } },
        body,
      }),
    )
    read.value = found
    chosen.value = Object.fromEntries(
      found.rows.map((one) => [one.line, one.question ? '' : one.joints.join(' ')]),
    )
  })

const take = () =>
  guarded(async () => {
    const decided = read.value!.rows.flatMap((one) => {
      const place = chosen.value[one.line]
      return place ? [{ line: one.line, joints: place.split(' ') }] : []
    })
    const body = {
      id: newId(),
      seen: store.version,
      text: text.value,
      unit: unit.value,
      source: source.value,
      chosen: decided,
    }
    store.take(
      await ask((api) =>
        api.POST('/api/jobs/{job_id}/torque-list/take', {
          params: { path: { job_id: store.job!.id } },
          body,
        }),
      ),
    )
    emit('done')
  })

function choose(line: number, place: string): void {
  chosen.value = { ...chosen.value, [line]: place }
  if (place) emit('show', place.split(' ')[0]!)
}
</script>

<template>
  <section class="card stack" aria-label="Torque list">
    <h3>Paste a torque list</h3>
    <p class="soft">
      Rows as they come: name, value and unit, thread or socket, count. What fits two places or none
      is asked, never guessed.
    </p>
    <el-button v-if="own?.text" :disabled="busy" @click="takeOwn">
      Take what the car's record lists
    </el-button>
    <el-input v-model="text" :rows="6" maxlength="20000" aria-label="The list" type="textarea" />
    <div class="row">
      <label>
        A row without a unit is in
        <el-select v-model="unit" :persistent="false" aria-label="A row without a unit is in">
          <el-option
            v-for="one in choices.torque_units"
            :key="one.key"
            :value="one.key"
            :label="one.label"
          />
        </el-select>
      </label>
      <label class="grow">
        Where the list stands
        <el-input v-model="source" maxlength="200" autocomplete="off" />
      </label>
      <el-button type="primary" :disabled="busy || !text.trim()" @click="look">Read it</el-button>
    </div>
    <ul v-if="read" class="grid gap-12px p-0 list-none" aria-label="Rows of the list">
      <li v-for="one in read.rows" :key="one.line" :class="{ asked: one.question }">
        <p>
          <span class="figure">{{ one.line }}</span> {{ one.text }} <b>{{ one.said }}</b>
        </p>
        <p v-if="one.question" class="wait">? {{ one.question }}</p>
        <p v-if="one.fits.length > 1" class="soft">{{ one.fits.join(' · ') }}</p>
        <el-select
          :persistent="false"
          :model-value="chosen[one.line]"
          :disabled="!one.said"
          :aria-label="`Place of line ${one.line}`"
          :empty-values="[null, undefined]"
          @change="choose(one.line, $event)"
        >
          <el-option value="" label="Left out" />
          <el-option
            v-for="place in known"
            :key="place.value"
            :value="place.value"
            :label="place.label"
          />
        </el-select>
      </li>
    </ul>
    <RefusalNote :said="problem" />
    <el-button v-if="read" type="primary" :disabled="busy || !count" @click="take">
      Take {{ count }} of {{ read.rows.length }} rows
    </el-button>
  </section>
</template>

<style scoped>
.asked {
  padding-left: 10px;
  border-left: 4px solid var(--wait);
}
</style>
