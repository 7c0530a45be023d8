<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useMe } from '../stores/me'

const WhoPicker = defineAsyncComponent(() => import('../components/WhoPicker.vue'))

const store = useMe()
const PAGES = [
  { name: 'workshop', label: 'Board' },
  { name: 'day', label: 'Day' },
  { name: 'cars', label: 'Cars' },
  { name: 'ways', label: 'Ways of working' },
  { name: 'gauges', label: 'Gauges' },
  { name: 'practice', label: 'Practice' },
]
const pages = computed(() =>
  store.mayAll ? [...PAGES, { name: 'devices', label: 'People and devices' }] : PAGES,
)
</script>

<template>
  <header class="bg-band c-chalk">
    <div
      class="flex flex-wrap gap-y-8px gap-x-16px items-center max-w-1240px my-0 mx-auto pt-14px px-20px pb-0"
    >
      <img src="/mark.svg" alt="" width="40" height="40" />
      <div class="flex-1 min-w-200px pb-10px">
        <h1 class="text-32px">Fair Spindle</h1>
        <p class="c-chalk-soft">
          Springs, rods and bushings: planned, counted, clamped at height, on record.
        </p>
      </div>
      <WhoPicker v-if="store.people.length" />
      <nav aria-label="The workshop" class="flex self-end max-w-full overflow-x-auto">
        <router-link v-for="page in pages" :key="page.name" :to="{ name: page.name }">
          {{ page.label }}
        </router-link>
      </nav>
    </div>
  </header>
  <main class="sheet">
    <router-view />
  </main>
</template>

<style scoped>
nav a {
  display: grid;
  place-items: center;
  min-height: 48px;
  flex: none;
  padding: 0 18px;
  font: 600 20px var(--figures);
  color: var(--chalk-soft);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}

nav a.router-link-exact-active {
  color: var(--chalk);
  border-color: var(--brass);
}

@media (width <= 700px) {
  nav a {
    padding: 0 11px;
  }
}
</style>
