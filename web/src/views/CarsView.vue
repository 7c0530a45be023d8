<script setup lang="ts">
import NothingYet from '../components/NothingYet.vue'
import RefusalNote from '../components/RefusalNote.vue'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { ask, newId, type ShelfPart } from '../api/client'
import { useRead } from '../composables/useRead'
import { sayMoment } from '../composables/useWords'

const router = useRouter()
const name = ref('')
const { found: cars, problem, busy, guarded } = useRead(['cars'], (api) => api.GET('/api/cars'))
const { found: parts, again } = useRead(['parts'], (api) => api.GET('/api/parts'))

const add = () =>
  guarded(async () => {
    if (!name.value.trim()) {
      problem.value = 'Give the car a name your workshop knows it by.'
      return
    }
    const body = { id: newId(), car: name.value.trim() }
    const car = await ask((api) => api.POST('/api/cars', { body }))
    await router.push({ name: 'car', params: { carId: car.id } })
  })

const remove = (part: ShelfPart) =>
  guarded(async () => {
    const path = { part_id: part.id }
    await ask((api) => api.DELETE('/api/parts/{part_id}', { params: { path } }))
    await again()
  })
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <h2>Cars</h2>
      <ul v-if="cars?.length" class="grid gap-10px bare-list">
        <li v-for="car in cars" :key="car.id">
          <router-link :to="{ name: 'car', params: { carId: car.id } }">
            <span class="figure col-span-full text-24px">{{ car.car }}</span>
            <span>{{ car.title || 'Axles not told yet' }}</span>
            <span class="soft">last {{ sayMoment(car.last_at) }}</span>
          </router-link>
        </li>
      </ul>
      <NothingYet v-else-if="cars" said="No car yet. Add one: a name is enough to begin." />
      <RefusalNote :said="problem" />
    </section>
    <aside class="stack">
      <form class="card stack" @submit.prevent="add">
        <h3>New car</h3>
        <label class="labelled">Car <el-input v-model="name" maxlength="120" /></label>
        <el-button type="primary" native-type="submit" :disabled="busy">Add the car</el-button>
      </form>
      <div class="card stack">
        <h3>Parts on the shelf</h3>
        <p v-if="!parts?.length" class="soft">
          Save an arm, a spring or a bar from a car's record, and fit it to others.
        </p>
        <div
          v-for="part in parts"
          :key="part.id"
          class="part flex gap-8px items-start justify-between ruled"
        >
          <span>
            <b>{{ part.name }}</b> <span class="soft">{{ part.said }}</span>
          </span>
          <el-button text :aria-label="`Take ${part.name} off the shelf`" @click="remove(part)">
            ✕
          </el-button>
        </div>
      </div>
    </aside>
  </div>
</template>

<style scoped>
li a {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 2px 16px;
  padding: 14px 18px;
  color: var(--ink);
  text-decoration: none;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

li a:hover {
  border-color: var(--go);
}
</style>
