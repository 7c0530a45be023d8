<script setup lang="ts">
import { computed } from 'vue'
import type { LoadsView } from '../api/client'
import { sayNumber } from '../composables/useWords'
import CarPlan from './CarPlan.vue'

const props = defineProps<{ loads: LoadsView }>()
const labels = computed(() =>
  Object.fromEntries(
    props.loads.wheels.map((one) => [
      one.wheel,
      [
        `${one.estimated ? '≈ ' : ''}${sayNumber(one.load_n, 0)} N`,
        `sprung ${one.estimated || one.unsprung_estimated ? '≈ ' : ''}${sayNumber(one.sprung_n, 0)}`,
      ],
    ]),
  ),
)
const estimated = computed(() =>
  props.loads.wheels.some((one) => one.estimated || one.unsprung_estimated),
)
</script>

<template>
  <section class="card grid one-col gap-8px" aria-label="Wheel loads">
    <h3>Wheel loads</h3>
    <CarPlan :labels="labels" />
    <p>
      Front <b class="figure">{{ sayNumber(loads.front_pct) }} %</b> · left
      <b class="figure">{{ sayNumber(loads.left_pct) }} %</b> · diagonal
      <b class="figure">{{ sayNumber(loads.cross_pct) }} %</b>
    </p>
    <p v-if="estimated" class="soft">≈ is estimated from what was weighed.</p>
  </section>
</template>
