<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { ask, type BayView } from '../api/client'
import { useRead } from '../composables/useRead'

const { found, problem, busy, guarded } = useRead(['settings', 'bay'], (api) =>
  api.GET('/api/settings/bay'),
)
const COUNTS = [
  { key: 'stands', label: 'Axle stands', least: 0, most: 24 },
  { key: 'jacks', label: 'Jacks', least: 0, most: 12 },
  { key: 'poles', label: 'Poles under the lift', least: 0, most: 6 },
  { key: 'people', label: 'People', least: 1, most: 12 },
] as const

const change = (part: Partial<BayView>) =>
  guarded(async () => {
    if (!found.value) return
    const { version, ...now } = found.value
    const body = { ...now, ...part, seen: version }
    found.value = await ask((api) => api.PUT('/api/settings/bay', { body }))
  })
</script>

<template>
  <section class="card stack" aria-label="The bay">
    <h3>The bay</h3>
    <p class="soft">
      With one jack a plan opens one corner at a time; without a lift and four stands, one end.
    </p>
    <template v-if="found">
      <div class="line flex gap-10px items-center justify-between min-h-44px">
        <span id="bay-lift">A lift</span>
        <el-switch
          :model-value="found.lift ?? false"
          :disabled="busy"
          aria-label="A lift"
          @change="change({ lift: $event as boolean })"
        />
      </div>
      <div
        v-for="one in COUNTS"
        :key="one.key"
        class="line flex gap-10px items-center justify-between min-h-44px"
      >
        <span>{{ one.label }}</span>
        <el-input-number
          :model-value="found[one.key]"
          :min="one.least"
          :max="one.most"
          :disabled="busy || (one.key === 'poles' && !found.lift)"
          :aria-label="one.label"
          @change="change({ [one.key]: $event ?? one.least })"
        />
      </div>
    </template>
    <RefusalNote :said="problem" />
  </section>
</template>
