<script setup lang="ts">
import type { PlanView } from '../api/client'

defineProps<{ plan: PlanView }>()
const SORTS = [
  { key: 'tool', label: 'Tools' },
  { key: 'buy', label: 'To buy' },
  { key: 'leftover', label: 'Left over, as it should be' },
  { key: 'chemical', label: 'Chemicals' },
  { key: 'book', label: 'To book' },
]
</script>

<template>
  <div class="grid grid-cols-[repeat(auto-fill,minmax(min(300px,100%),1fr))] gap-14px">
    <section
      v-for="sort in SORTS.filter((one) => plan.lists.some((line) => line.sort === one.key))"
      :key="sort.key"
      class="card stack"
      :aria-label="sort.label"
    >
      <h3>{{ sort.label }}</h3>
      <ul class="pl-18px m-0 [line-height:1.7]">
        <li
          v-for="one in plan.lists.filter((line) => line.sort === sort.key)"
          :key="one.name + one.why"
        >
          <b v-if="(one.count ?? 1) > 1" class="figure">{{ one.count }} × </b>{{ one.name }}
          <span v-if="one.why" class="soft block text-15px [line-height:1.3]">{{ one.why }}</span>
        </li>
      </ul>
    </section>
    <section class="card stack" aria-label="Drives and sizes">
      <h3>Drives and sizes</h3>
      <p class="soft">
        Sizes come from the fasteners you enter on the Bolts page, or from the car's list.
      </p>
      <ul v-if="plan.sizes.length" class="pl-18px m-0 [line-height:1.7]">
        <li v-for="one in plan.sizes" :key="one">{{ one }}</li>
      </ul>
    </section>
  </div>
</template>
