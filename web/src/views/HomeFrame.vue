<script setup lang="ts">
import { computed } from 'vue'
import WhoPicker from '../components/WhoPicker.vue'
import { useMe } from '../stores/me'

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
  <header class="band">
    <div class="band-inner">
      <img src="/mark.svg" alt="" width="40" height="40" />
      <div class="name">
        <h1>Fair Spindle</h1>
        <p>Springs, rods and bushings: planned, counted, clamped at height, on record.</p>
      </div>
      <WhoPicker />
      <nav aria-label="The workshop">
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
.band {
  background: var(--band);
  color: var(--chalk);
}

.band-inner {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  max-width: 1240px;
  margin: 0 auto;
  padding: 14px 20px 0;
}

.name {
  flex: 1;
  min-width: 200px;
  padding-bottom: 10px;
}

h1 {
  font-size: 32px;
}

.name p {
  color: var(--chalk-soft);
}

nav {
  display: flex;
  align-self: end;
  max-width: 100%;
  overflow-x: auto;
}

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
