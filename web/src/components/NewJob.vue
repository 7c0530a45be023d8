<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId, type CarLine } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useChoices } from '../stores/choices'

/** The page a kind of job begins on. */
const FIRST: Record<string, string> = { front_strut: 'baseline', work: 'order' }
const props = defineProps<{ cars: CarLine[]; car?: string }>()
const router = useRouter()
const { choices } = storeToRefs(useChoices())
const { problem, busy, guarded } = useGuarded()
const title = ref('')
const kind = ref('work')
const chosen = ref(props.car ?? props.cars[0]?.id ?? '')
const name = ref('')
const isNew = computed(() => !chosen.value)

const start = () =>
  guarded(async () => {
    if (!title.value.trim() || (isNew.value && !name.value.trim())) {
      problem.value = 'Say what the job is and which car it is for.'
      return
    }
    const carId = isNew.value ? await addCar() : chosen.value
    const template = kind.value as 'work' | 'front_strut' | 'springs' | 'align' | 'measure'
    const body = { id: newId(), title: title.value.trim(), car: '-', car_id: carId, template }
    const job = await ask((api) => api.POST('/api/jobs', { body }))
    const page = FIRST[template] ?? 'walk'
    await router.push({ name: page, params: { jobId: job.id } })
  })

async function addCar(): Promise<string> {
  const layouts = kind.value === 'front_strut' ? { front_layout: 'strut' } : {}
  const body = { id: newId(), car: name.value.trim(), ...layouts }
  return (await ask((api) => api.POST('/api/cars', { body }))).id
}
</script>

<template>
  <form class="card stack" @submit.prevent="start">
    <h3>New job</h3>
    <label class="labelled"
      >What is done <input v-model="title" class="box" maxlength="120"
    /></label>
    <label class="labelled">
      Kind of job
      <select v-model="kind" class="box">
        <option v-for="one in choices.kinds" :key="one.value" :value="one.value">
          {{ one.label }}
        </option>
      </select>
    </label>
    <label v-if="!car" class="labelled">
      On
      <select v-model="chosen" class="box">
        <option v-for="one in cars" :key="one.id" :value="one.id">{{ one.car }}</option>
        <option value="">A new car…</option>
      </select>
    </label>
    <label v-if="isNew" class="labelled"
      >Car <input v-model="name" class="box" maxlength="120"
    /></label>
    <el-button type="primary" native-type="submit" :disabled="busy">Start the job</el-button>
    <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
  </form>
</template>
