<script setup lang="ts">
import type { CornerView } from '../api/client'
import { sayNumber } from '../composables/useWords'
import ChalkTally from './ChalkTally.vue'
import NumberCard from './NumberCard.vue'

defineProps<{ corner: CornerView; missing: string[] }>()
</script>

<template>
  <div v-if="corner.turns" class="turns">
    <div class="pair tight">
      <ChalkTally label="Counted off" :count="corner.turns.off" />
      <ChalkTally label="Put on" :count="corner.turns.on" />
    </div>
    <NumberCard label="Exactly" :number="corner.turns.exact" :digits="2" />
    <NumberCard label="Toe it gives" :number="corner.turns.toe_reached" />
    <p v-if="corner.turns.engagement_ok" class="notice go">
      ✓ Thread engaged {{ sayNumber(corner.turns.engagement_mm) }} mm, at least
      {{ sayNumber(corner.turns.min_engagement_mm) }} mm wanted.
    </p>
    <p v-else class="notice stop" role="alert">
      ✕ Only {{ sayNumber(corner.turns.engagement_mm) }} mm of thread would hold;
      {{ sayNumber(corner.turns.min_engagement_mm) }} mm is the least. Fit a longer end.
    </p>
    <p class="notice wait">
      Plain counting, {{ corner.turns.plain.said }} on again, would give toe
      {{ corner.turns.plain_toe.also }}: off by {{ corner.turns.plain_error.also }}.
    </p>
  </div>
  <p v-else class="soft">Turns need {{ missing.join(', ').toLowerCase() }}.</p>
</template>

<style scoped>
.turns {
  display: grid;
  gap: 8px;
}

.tight {
  gap: 10px;
}
</style>
