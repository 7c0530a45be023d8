<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FilePick from './FilePick.vue'
import { ref } from 'vue'
import { ask, newId, sending } from '../api/client'
import { useGuarded } from '../composables/useGuarded'
import { useCar } from '../stores/car'

const props = defineProps<{ table: 'points' | 'fasteners' }>()
const store = useCar()
const { problem, guarded } = useGuarded()
const said = ref('')

const take = (file: File) =>
  guarded(async () => {
    said.value = ''
    const path = { car_id: store.car!.id }
    const query = { key: newId(), seen: store.car!.version }
    const told = { params: { path, query }, ...sending(file) }
    store.take(await ask((api) => api.POST(`/api/cars/{car_id}/${props.table}.csv`, told)))
    said.value = `Taken from ${file.name}. Undo takes all of it back.`
  })
</script>

<template>
  <div class="flex gap-18px">
    <a
      :href="`${store.path}/${table}.csv`"
      :download="`${table}.csv`"
      class="grid place-items-center min-h-44px font-600 c-go"
      >Out as CSV</a
    >
    <FilePick
      :label="`${table}: in from CSV`"
      shown="In from CSV"
      accept=".csv,text/csv"
      @picked="take"
    />
  </div>
  <el-alert v-if="said" type="success" :closable="false" role="status">{{ said }}</el-alert>
  <RefusalNote :said="problem" />
</template>
