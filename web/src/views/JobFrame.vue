<script setup lang="ts">
import { onUnmounted, watch } from 'vue'
import PositionMark from '../components/PositionMark.vue'
import StateLine from '../components/StateLine.vue'
import UndoBar from '../components/UndoBar.vue'
import { useJob } from '../stores/job'

const props = defineProps<{ jobId: string }>()
const store = useJob()
const TABS = [
  { name: 'baseline', label: 'Baseline' },
  { name: 'plan', label: 'Plan' },
  { name: 'floor', label: 'Floor' },
  { name: 'check', label: 'Check' },
  { name: 'record', label: 'Record' },
]

watch(
  () => props.jobId,
  (jobId) => void store.open(jobId),
  { immediate: true },
)
onUnmounted(() => store.close())
</script>

<template>
  <header class="band screen-only">
    <div class="top">
      <router-link :to="{ name: 'workshop' }" class="home" aria-label="All jobs">
        <img src="/mark.svg" alt="" width="32" height="32" />
        <span>All jobs</span>
      </router-link>
      <div v-if="store.job" class="name">
        <h1>{{ store.job.car }}</h1>
        <p>{{ store.job.title }}</p>
      </div>
      <p class="link" :class="{ lost: !store.connected }" role="status">
        <template v-if="!store.connected">
          ✕ Connection lost<template v-if="store.waiting">: {{ store.waiting }} waiting</template>
        </template>
        <template v-else-if="store.waiting">{{ store.waiting }} being sent</template>
        <template v-else>● All saved</template>
      </p>
    </div>
    <div v-if="store.job" class="where">
      <PositionMark :position="store.job.position" :said="store.job.position_said" />
      <StateLine :steps="store.job.steps" :position="store.job.position" />
    </div>
    <nav aria-label="Parts of the job">
      <router-link v-for="tab in TABS" :key="tab.name" :to="{ name: tab.name }">
        {{ tab.label }}
      </router-link>
    </nav>
  </header>
  <main class="sheet">
    <p v-if="store.missing" class="notice stop" role="alert">
      There is no such job here. Go back to all jobs.
    </p>
    <p v-else-if="!store.job" class="soft">Reading the job…</p>
    <template v-else>
      <UndoBar />
      <router-view />
    </template>
  </main>
</template>

<style scoped>
/* Title row scrolls away; where the car is and the parts of the job stay. */
.band {
  position: sticky;
  top: -58px;
  z-index: 5;
  background: var(--band);
  color: var(--chalk);
}

.top,
.where,
nav {
  max-width: 1240px;
  margin: 0 auto;
  padding: 0 20px;
}

.top {
  display: flex;
  gap: 18px;
  align-items: center;
  padding-top: 10px;
}

.home {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  color: var(--chalk);
  text-decoration: none;
}

.name {
  flex: 1;
  min-width: 0;
}

.name h1 {
  font-size: 24px;
}

.name p {
  color: var(--chalk-soft);
}

.link {
  color: var(--chalk-soft);
  white-space: nowrap;
}

.link.lost {
  padding: 4px 10px;
  color: #fff;
  background: #a12d1d;
  border-radius: var(--radius);
}

.where {
  display: flex;
  gap: 22px;
  align-items: center;
  padding-top: 6px;
}

nav {
  display: flex;
  gap: 4px;
  margin-top: 6px;
}

nav a {
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 18px;
  font: 600 19px var(--figures);
  color: var(--chalk-soft);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}

nav a.router-link-active {
  color: var(--chalk);
  border-color: var(--brass);
}

@media (width <= 760px) {
  .top,
  .where,
  nav {
    padding-inline: 12px;
  }

  .home span {
    display: none;
  }

  .name h1 {
    font-size: 20px;
  }

  .where {
    flex-direction: column;
    gap: 4px;
    align-items: stretch;
  }

  nav {
    gap: 0;
    justify-content: space-between;
  }

  nav a {
    padding: 0 6px;
    font-size: 18px;
  }
}
</style>
