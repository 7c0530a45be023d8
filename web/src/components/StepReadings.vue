<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useJob } from '../stores/job'

const WalkView = defineAsyncComponent(() => import('../views/WalkView.vue'))

/** What a step still has to read: the walk round the car, gauges included, inside the step. */
const props = defineProps<{ phase: 'baseline' | 'check' }>()
const store = useJob()
const left = computed(() => store.job?.missing[props.phase]?.length ?? 0)
</script>

<template>
  <div class="stack">
    <p class="figure" role="status">{{ left ? `${left} still to be read` : '✓ all read' }}</p>
    <WalkView :after="phase === 'check'" />
    <router-link v-if="phase === 'check'" :to="{ name: 'check' }" class="py-10px px-0 font-600">
      Beside the plan →
    </router-link>
  </div>
</template>
