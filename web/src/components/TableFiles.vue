<script setup lang="ts">
import { ref } from 'vue'
import { newId, send, type CarView } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useCar } from '../stores/car'

const props = defineProps<{ table: 'points' | 'fasteners' }>()
const store = useCar()
const { problem, guarded } = useGuarded()
const said = ref('')

const take = (event: Event) =>
  guarded(async () => {
    const input = event.target as HTMLInputElement
    const file = input.files?.[0]
    input.value = ''
    said.value = ''
    if (!file) return
    const query = new URLSearchParams({ key: newId(), seen: String(store.car!.version) })
    const path = `${store.path}/${props.table}.csv?${query}`
    store.take(await send<CarView>('POST', path, file))
    said.value = `Taken from ${file.name}. Undo takes all of it back.`
  })
</script>

<template>
  <div class="files">
    <a :href="`${store.path}/${table}.csv`" :download="`${table}.csv`">Out as CSV</a>
    <label>
      <span>In from CSV</span>
      <input
        type="file"
        accept=".csv,text/csv"
        :aria-label="`${table}: in from CSV`"
        @change="take"
      />
    </label>
  </div>
  <p v-if="said" class="notice go" role="status">{{ said }}</p>
  <p v-if="problem" class="notice stop" role="alert">{{ problem }}</p>
</template>

<style scoped>
.files {
  display: flex;
  gap: 18px;
}

a,
label {
  position: relative;
  display: grid;
  place-items: center;
  min-height: 44px;
  font-weight: 600;
  color: var(--go);
}

label span {
  text-decoration: underline;
}

label:focus-within {
  outline: 3px solid var(--brass);
}

input {
  position: absolute;
  inset: 0;
  cursor: pointer;
  opacity: 0;
}
</style>
