<script setup lang="ts">
import { computed, onUnmounted, watch } from 'vue'
import BookBand from '../components/BookBand.vue'
import BookPage from '../components/BookPage.vue'
import { provideDesk } from '../composables/useDesk'
import { useCar } from '../stores/car'

const props = defineProps<{ carId: string }>()
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
  <BookPage
    :book="store.book()"
    what="record"
    gone="There is no such car here. Go back to all cars."
  />
</template>
