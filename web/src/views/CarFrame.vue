<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from 'vue'
import { connection } from '../api/connection'
import BookBand from '../components/BookBand.vue'
import JumpList from '../components/JumpList.vue'
import UndoBar from '../components/UndoBar.vue'
import WaitingPanel from '../components/WaitingPanel.vue'
import { provideDesk } from '../composables/useDesk'
import { useCar } from '../stores/car'

const props = defineProps<{ carId: string }>()
const page = ref<HTMLElement | null>(null)
const store = useCar()
provideDesk(store.book())
const PAGES = [
  { name: 'car', label: 'The car' },
  { name: 'car-front', label: 'Front axle' },
  { name: 'car-rear', label: 'Rear axle' },
  { name: 'car-points', label: 'Points' },
  { name: 'car-geometry', label: 'Geometry' },
  { name: 'car-fasteners', label: 'Fasteners' },
  { name: 'car-history', label: 'History' },
]
const title = computed(() => store.car?.title || 'Axles not told yet')

watch(
  () => props.carId,
  (carId) => void store.open(carId),
  { immediate: true },
)
onUnmounted(() => store.close())
</script>

<template>
  <BookBand
    home="cars"
    home-label="All cars"
    :title="store.car?.car ?? ''"
    :detail="title"
    :waiting="store.unsent"
    :refused="store.refused"
    :pages="PAGES"
    label="Parts of the record"
  />
  <main ref="page" class="sheet">
    <div v-if="store.missing" class="stack">
      <el-alert type="error" :closable="false" role="alert"
        >There is no such car here. Go back to all cars.</el-alert
      >
      <WaitingPanel :book="store.book()" />
    </div>
    <p v-else-if="!store.car || !store.sheet" class="soft">
      {{
        connection.lost
          ? 'This record was not looked at on this device before, so it cannot be shown without a connection.'
          : 'Reading the record…'
      }}
    </p>
    <template v-else>
      <UndoBar :book="store.book()" />
      <router-view />
      <JumpList :page="page" />
    </template>
  </main>
</template>
