<script setup lang="ts">
import type { PlanView } from '../api/client'
import FieldsHere from './FieldsHere.vue'
import FoldAway from './FoldAway.vue'

/** What the plan will know, and what it will not; the fields that would tell it stand here. */
defineProps<{ foreseen: PlanView['foreseen'] }>()
</script>

<template>
  <section class="card stack" aria-label="What will be known">
    <h3>What will be known</h3>
    <div v-for="one in foreseen" :key="one.what">
      <p :class="one.known ? 'go' : 'wait'">
        {{ one.known ? '✓' : '○' }} <b>{{ one.what }}:</b> {{ one.said
        }}{{ one.minutes ? ` (${one.minutes} min)` : '' }}
      </p>
      <FoldAway v-if="one.fields.length" :title="one.known ? 'Make it surer here' : 'Tell it here'">
        <FieldsHere :keys="one.fields" />
      </FoldAway>
    </div>
  </section>
</template>

<style scoped>
.go {
  color: var(--go);
}

.wait {
  color: var(--wait);
}
</style>
