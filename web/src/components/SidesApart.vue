<script setup lang="ts">
import type { SidesApartView } from '../api/client'
import { sayNumber, saySigned } from '../composables/useWords'

defineProps<{ sides: SidesApartView[] }>()
</script>

<template>
  <ul
    v-if="sides.length"
    class="flex flex-wrap gap-y-4px gap-x-24px bare-list"
    aria-label="Left against right"
  >
    <li v-for="one in sides" :key="one.name" :class="one.inside ? 'go' : 'wait'">
      {{ one.inside ? '✓' : '▲' }} {{ one.name[0]!.toUpperCase() + one.name.slice(1) }}, left minus
      right <b class="figure">{{ saySigned(one.difference_deg, 2) }}°</b>, at most
      {{ sayNumber(one.limit_deg, 2) }}°
    </li>
  </ul>
</template>

<style scoped>
.go {
  color: var(--go);
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
