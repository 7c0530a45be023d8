<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId, type CarLine } from '../api/client'
import { useGuarded } from '../composables/useGuarded'

const props = defineProps<{ cars: CarLine[]; car?: string }>()
const router = useRouter()
const { problem, busy, guarded } = useGuarded()
const title = ref('')
const chosen = ref(props.car ?? '')
const name = ref('')
const isNew = computed(() => !chosen.value)

const start = () =>
  guarded(async () => {
    if (isNew.value && !name.value.trim()) {
      problem.value = 'Say which car it is for: choose one, or type its name.'
      return
    }
    const carId = isNew.value ? await addCar() : chosen.value
    const body = { id: newId(), title: title.value.trim(), car: '-', car_id: carId }
    const job = await ask((api) => api.POST('/api/jobs', { body }))
    await router.push({ name: 'order', params: { jobId: job.id } })
  })

async function addCar(): Promise<string> {
  const body = { id: newId(), car: name.value.trim() }
  return (await ask((api) => api.POST('/api/cars', { body }))).id
}
</script>

<template>
  <form class="card stack" @submit.prevent="start">
    <h3>New job</h3>
    <label v-if="!car && cars.length" class="labelled">
      On
      <el-select
        v-model="chosen"
        :persistent="false"
        aria-label="On"
        :empty-values="[null, undefined]"
      >
        <el-option value="" label="A new car…" />
        <el-option v-for="one in cars" :key="one.id" :value="one.id" :label="one.car" />
      </el-select>
    </label>
    <label v-if="isNew" class="labelled">Car <el-input v-model="name" maxlength="120" /></label>
    <label class="labelled">
      What it is called, if you like
      <el-input v-model="title" maxlength="120" />
    </label>
    <el-button type="primary" native-type="submit" :disabled="busy">Start the job</el-button>
    <RefusalNote :said="problem" />
  </form>
</template>
